import { roleOf } from '@fendro/core/song/roles';
import { bandSetUp, bareSong, songStart } from '@fendro/core/song/song-start';
import { CHORD_RHYTHMS } from '@fendro/core/styles/chord-rhythms';
import { styleOf } from '@fendro/core/styles/styles';
import { firstPattern } from '@fendro/core/patterns/first-pattern';
import { FIRST } from '@fendro/core/treat/first-treatment';
import { chordsOf } from '@fendro/core/testing/chords';
import { SMALL } from '../../testing/view';
import { EMPTY_SHELF, itemKey, LABELS, type ShelfContents } from '../../storage/shelf-storage';
import { found, foldersOf, itemsOf, SEEN, tagsIn, thingsOf, type Looked } from './things';

const { score } = SMALL;
const phrase = {
  id: 'phrase-1',
  name: 'Rolling',
  role: 'drums' as const,
  tonic: 0,
  scale: 'major',
  bar: 1920,
  length: 3840,
  notes: [{ start: 0, duration: 240, pitch: 36, velocity: 90 }],
  chords: [],
  from: { source: 'Attic', licence: 'my own', file: 'a.mid' },
};
const contents: ShelfContents = {
  ...EMPTY_SHELF,
  progressions: [
    { id: 'p', name: 'Round', tonic: 0, scale: 'major', length: 3840, bars: 2, chords: chordsOf('C G7', 1920) },
  ],
  rhythms: [CHORD_RHYTHMS[0]!.id],
  phrases: [phrase],
  patterns: [{ id: 'q', name: 'Steps', role: 'melody', pattern: firstPattern(score.parts[0]!, 1) }],
  briefs: [{ id: 'b', name: 'Wild', role: 'melody', brief: roleOf('melody').brief }],
  leanings: [{ id: 'l', name: 'airier', moves: [{ setting: 'breath', by: 2 }] }],
  chains: [{ id: 'c', name: 'Up', chain: [[FIRST.transpose]] }],
  styles: [{ ...styleOf('soul'), id: 'own' }],
  bands: [{ id: 'band', name: 'Five', song: { ...bareSong(bandSetUp(score), 'x') } }],
  starts: [{ id: 'start', name: 'Again', song: { ...bareSong(songStart(score), 'y') } }],
  scales: ['dorian'],
  keys: [
    { id: 'play.toggle', keys: ['Space'] },
    { id: 'song.undo', keys: ['u'] },
  ],
  favourites: ['b'],
  labels: [{ id: itemKey('briefs', 'b'), tags: ['loud', 'late'], folder: 'Nights' }],
};
const all: Looked = { query: '', kind: null, folder: null, keptOnly: false };

describe('what lies on the shelf', () => {
  const things = thingsOf(contents);

  it('is everything of every kind, each with a name and words', () => {
    expect(things.map(({ kind }) => kind)).toEqual(SEEN);
    for (const { name, says } of things) expect([name.length, says.length].every((length) => length > 0)).toBe(true);
    const said = Object.fromEntries(things.map(({ kind, says }) => [kind, says]));
    expect(said['progressions']).toBe('2 bars, major: C G7');
    expect(said['phrases']).toBe('drum pattern, 2 bars, Attic, my own');
    expect(said['leanings']).toBe('breath +2');
    expect(said['keys']).toBe('for 2 commands');
    expect(said['bands']).toContain(score.parts[0]!.name);
    expect(said['starts']).toContain(score.sections[0]!.name);
  });

  it('is found by any of its words, by kind and folder, and by what is kept at hand', () => {
    const names = (change: Partial<Looked>) => found(things, { ...all, ...change }).map(({ name }) => name);
    expect(names({ query: 'LOUD late' })).toEqual(['Wild']);
    expect(names({ query: 'attic drum pattern' })).toEqual(['Rolling']);
    expect(names({ query: 'no such thing' })).toEqual([]);
    expect(names({ folder: 'Nights' })).toEqual(['Wild']);
    expect(names({ folder: 'Attic' })).toEqual(['Rolling']);
    expect(names({ keptOnly: true })).toEqual(['Wild']);
    expect(found(things, { ...all, kind: 'chains' })).toHaveLength(1);
    expect(foldersOf(things)).toEqual(['Attic', 'Nights']);
  });

  it('is handed on with its labels; keys of one’s own go together', () => {
    const thing = (kind: string) => things.find((own) => own.kind === kind)!;
    expect(itemsOf(contents, thing('briefs')).map(({ kind }) => kind)).toEqual(['briefs', 'labels']);
    expect(itemsOf(contents, thing('keys'))).toHaveLength(2);
    expect(itemsOf(contents, thing('scales'))).toEqual([{ kind: 'scales', item: 'dorian' }]);
  });
});

describe('tags', () => {
  it('stand between commas, each once, as long and as many as are kept', () => {
    expect(tagsIn(' slow, wet ,, slow', LABELS)).toEqual(['slow', 'wet']);
    expect(tagsIn('x'.repeat(99), LABELS)[0]).toHaveLength(LABELS.tag);
    expect(tagsIn(Array.from({ length: 40 }, (_, index) => `t${index}`).join(), LABELS)).toHaveLength(LABELS.tags);
  });
});
