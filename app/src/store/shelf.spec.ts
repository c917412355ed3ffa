import { TestBed } from '@angular/core/testing';
import { firstPattern } from '@fendro/core/patterns/first-pattern';
import { copyOfStyle } from '@fendro/core/styles/style-text';
import { styleOf } from '@fendro/core/styles/styles';
import sample from '../storage/samples/shelf-version-1.json';
import sampleOf2 from '../storage/samples/shelf-version-2.json';
import sampleOf3 from '../storage/samples/shelf-version-3.json';
import sampleOf4 from '../storage/samples/shelf-version-4.json';
import sampleOf5 from '../storage/samples/shelf-version-5.json';
import sampleOf6 from '../storage/samples/shelf-version-6.json';
import sampleOf7 from '../storage/samples/shelf-version-7.json';
import { openSong } from '@fendro/core/song/song-file';
import { bareSong } from '@fendro/core/song/song-start';
import { scoreWith } from '@fendro/core/testing/scores';
import { memory, openMemory } from '../testing/memory-database';
import { Notices } from './notices';
import { Shelf } from './shelf';
import { roleOf } from '@fendro/core/song/roles';

const SCORE = scoreWith(1, 0).score;

let full = false;

/** Until everything that was begun has reached the database. */
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 30; turn++) await new Promise((resolve) => setTimeout(resolve));
};
const notices = () =>
  TestBed.inject(Notices)
    .open()
    .map(({ text }) => text);
const fresh = async (): Promise<Shelf> => {
  TestBed.resetTestingModule();
  const shelf = TestBed.inject(Shelf);
  await settled();
  return shelf;
};
const phrase = (id: string) => ({
  id,
  name: id,
  role: 'melody' as const,
  tonic: 0,
  scale: 'major',
  bar: 1920,
  length: 1920,
  notes: [{ start: 0, duration: 480, pitch: 60, velocity: 80 }],
  chords: [],
});

beforeEach(() => {
  openMemory();
  full = false;
  memory.trouble = (act) => (full && act !== 'read' ? Promise.reject(new Error('full')) : null);
});

describe('the shelf', () => {
  it('has everything at once and after a reload', async () => {
    const shelf = await fresh();
    shelf.put('phrases', phrase('one'));
    shelf.put('phrases', phrase('two'));
    shelf.rename('phrases', 'one', 'Call');
    shelf.add('briefs', { name: 'Wild', role: 'melody', brief: roleOf('melody').brief });
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-1', 'Mine'), null);
    shelf.put('rhythms', 'own:x');
    shelf.put('scales', 'own:Fog: 1 b2 3 5 b7');
    shelf.toggleFavourite('p');
    expect(shelf.contents().phrases.map(({ name }) => name)).toEqual(['two', 'Call']);
    await settled();
    const again = await fresh();
    expect(again.contents()).toEqual(shelf.contents());
    expect(again.isFavourite('p')).toBe(true);
  });

  it('lets things go, and puts a changed style in place of the old one', async () => {
    const shelf = await fresh();
    shelf.put('phrases', phrase('one'));
    shelf.remove('phrases', 'one');
    shelf.add('briefs', { name: 'Wild', role: 'melody', brief: roleOf('melody').brief });
    shelf.remove('briefs', shelf.contents().briefs[0]!.id);
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-1', 'Mine'), null);
    shelf.saveStyle(copyOfStyle(styleOf('soul'), 'style-2', 'Mine, slower'), 'style-1');
    expect(shelf.contents().styles.map(({ id }) => id)).toEqual(['style-2']);
    shelf.remove('styles', 'style-2');
    shelf.toggleFavourite('p');
    shelf.toggleFavourite('p');
    expect(shelf.contents()).toMatchObject({ phrases: [], briefs: [], styles: [], favourites: [] });
  });

  it('carries over what version 1 kept in one record, which itself stays', async () => {
    memory.values.set('shelf', sample);
    const shelf = await fresh();
    expect(shelf.contents().rhythms).toEqual(sample.rhythms);
    expect(shelf.contents().favourites).toEqual(sample.favourites);
    // Names that were saved and could not be read again are shortened.
    expect(shelf.contents().phrases.map(({ name }) => name.length)).toEqual([80, 10]);
    expect(shelf.contents().styles[0]!.band[0]!.name).toHaveLength(60);
    expect(shelf.contents().briefs[0]!.brief).toMatchObject({ time: null, way: null, pickup: 0 });
    expect(notices()).toEqual([
      expect.stringContaining('1 thing could not be read and was set aside, untouched: phrase “Broken”'),
    ]);
    shelf.remove('phrases', shelf.contents().phrases[0]!.id);
    await settled();
    const again = await fresh();
    expect(again.contents().phrases).toHaveLength(1);
    expect(notices()).toHaveLength(1);
    expect(memory.values.get('shelf')).toEqual(sample);
  });

  it.each([
    ['nonsense', 'everything that an older Fendro kept there'],
    [{ phrases: 'nonsense', rhythms: ['own:y'] }, 'phrase one without a name'],
  ])('tells what of an old shelf cannot be read, and leaves it as it is', async (old, told) => {
    memory.values.set('shelf', old);
    const shelf = await fresh();
    expect(notices()[0]).toContain(told);
    shelf.put('rhythms', 'own:z');
    await settled();
    expect(memory.values.get('shelf')).toEqual(old);
    expect((await fresh()).contents().rhythms).toContain('own:z');
  });

  it('sets damaged things aside and names them, and never writes over them', async () => {
    const shelf = await fresh();
    shelf.put('phrases', phrase('one'));
    shelf.put('phrases', phrase('two'));
    await settled();
    const damaged = { version: 2, at: 5, item: { name: 'Two of them', notes: 'gone' } };
    memory.values.set('item/phrases/two', damaged);
    const again = await fresh();
    expect(again.contents().phrases.map(({ name }) => name)).toEqual(['one']);
    expect(notices()[0]).toContain('phrase “Two of them”');
    again.put('phrases', phrase('three'));
    await settled();
    expect(memory.values.get('item/phrases/two')).toEqual(damaged);
  });

  it('keeps what two tabs put there', async () => {
    const one = await fresh();
    const two = await fresh();
    one.put('phrases', phrase('of one tab'));
    two.put('phrases', phrase('of the other'));
    await settled();
    const names = (await fresh()).contents().phrases.map(({ name }) => name);
    expect(names).toHaveLength(2);
    expect(names).toEqual(expect.arrayContaining(['of one tab', 'of the other']));
  });

  it('reads what version 2 kept as it lies, and has other keys beside it', async () => {
    for (const [key, value] of Object.entries(sampleOf2)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    expect(shelf.contents()).toMatchObject({ rhythms: ['own:x'], keys: [] });
    for (const kind of ['scales', 'favourites', 'phrases', 'styles', 'briefs'] as const)
      expect(shelf.contents()[kind].length).toBe(
        Object.keys(sampleOf2).filter((key) => key.startsWith(`item/${kind}/`)).length,
      );
    shelf.saveKeys('take.keep', ['j']);
    await settled();
    expect(memory.values.get('version')).toBe(8);
    expect((await fresh()).contents()).toMatchObject({ rhythms: ['own:x'], keys: [{ id: 'take.keep', keys: ['j'] }] });
    shelf.saveKeys('take.keep', null);
    await settled();
    expect((await fresh()).contents().keys).toEqual([]);
  });

  it('reads what version 3 kept, keys among it', async () => {
    for (const [key, value] of Object.entries(sampleOf3)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    expect(shelf.contents().keys).toEqual([{ id: 'take.keep', keys: ['j'] }]);
    expect(shelf.contents().styles).toHaveLength(1);
    expect(memory.values.get('version')).toBe(8);
  });

  it('reads what version 4 kept, and has chains of treatments beside it', async () => {
    for (const [key, value] of Object.entries(sampleOf4)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    const { styles, phrases, keys, chains } = shelf.contents();
    expect([styles.length, phrases.length, keys.length, chains.length]).toEqual([1, 2, 1, 0]);
    const chain = [[{ does: 'octave' as const, by: 1 }]];
    expect(shelf.add('chains', { name: 'Higher', chain })).toBe(true);
    await settled();
    expect(memory.values.get('version')).toBe(8);
    const pattern = firstPattern({ role: 'bass', brief: roleOf('bass').brief }, 3);
    expect(shelf.add('patterns', { name: 'Roots', role: 'bass', pattern })).toBe(true);
    await settled();
    const again = await fresh();
    expect(again.contents().patterns).toMatchObject([{ name: 'Roots', role: 'bass', pattern }]);
    again.remove('patterns', again.contents().patterns[0]!.id);
    expect(again.contents().chains).toMatchObject([{ name: 'Higher', chain }]);
    again.remove('chains', again.contents().chains[0]!.id);
    await settled();
    expect((await fresh()).contents().chains).toEqual([]);
  });

  it('reads what version 5 kept, and has leanings beside it', async () => {
    for (const [key, value] of Object.entries(sampleOf5)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    const { styles, phrases, keys, chains, patterns, leanings } = shelf.contents();
    expect([styles, phrases, keys, leanings].map(({ length }) => length)).toEqual([1, 2, 1, 0]);
    expect([chains[0]!.name, chains[0]!.chain.length, patterns[0]!.name]).toEqual(['High echo', 2, 'Roots']);
    const moves = [{ setting: 'breath' as const, by: 3 }];
    expect(shelf.add('leanings', { name: 'airier', moves })).toBe(true);
    expect(shelf.add('leanings', { name: 'nothing', moves: [] })).toBe(false);
    await settled();
    const again = await fresh();
    expect(again.contents().leanings).toMatchObject([{ name: 'airier', moves }]);
    again.remove('leanings', again.contents().leanings[0]!.id);
    await settled();
    expect((await fresh()).contents().leanings).toEqual([]);
  });

  it('reads what version 6 kept, and has devices, what their controls learned and ways out beside it', async () => {
    for (const [key, value] of Object.entries(sampleOf6)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    const { styles, phrases, keys, chains, patterns, leanings, scales, controls } = shelf.contents();
    const kept = [styles, phrases, keys, chains, patterns, leanings, scales, controls];
    expect(kept.map(({ length }) => length)).toEqual([1, 2, 1, 1, 1, 1, 2, 0]);
    const control = { says: 'control' as const, channel: 0, number: 21 };
    const device = { id: 'Grey box', plays: true, keys: 'fitted' as const, split: 48, leads: false, clocked: true };
    expect(shelf.put('devices', device)).toBe(true);
    expect(
      shelf.put('controls', { id: 'control-1', device: 'Grey box', control, does: { slider: 'level', place: 2 } }),
    ).toBe(true);
    expect(shelf.put('controls', { id: 'control-1', device: 'Grey box', control, does: { command: '' } })).toBe(false);
    expect(shelf.put('routes', { id: 'song/part', port: 'Grey box', channel: 4, here: false })).toBe(true);
    await settled();
    const again = await fresh();
    expect(memory.values.get('version')).toBe(8);
    expect(again.contents().devices).toEqual([device]);
    expect(again.contents().controls).toMatchObject([{ control, does: { slider: 'level', place: 2 } }]);
    again.remove('controls', again.contents().controls[0]!.id);
    again.remove('routes', 'song/part');
    await settled();
    const last = (await fresh()).contents();
    expect([last.controls, last.routes, last.devices]).toEqual([[], [], [device]]);
  });

  it('reads what version 7 kept, and has band set-ups, song starts and labels beside it', async () => {
    for (const [key, value] of Object.entries(sampleOf7)) memory.values.set(key, value);
    const shelf = await fresh();
    expect(shelf.problems()).toEqual([]);
    const { styles, phrases, keys, chains, patterns, leanings, devices, controls, routes, labels } = shelf.contents();
    const kept = [styles, phrases, keys, chains, patterns, leanings, devices, controls, routes, labels];
    expect(kept.map(({ length }) => length)).toEqual([1, 2, 1, 1, 1, 1, 1, 1, 1, 0]);
    const song = { ...bareSong(SCORE, 'song-1') };
    expect(shelf.add('bands', { name: 'Five', song })).toBe(true);
    expect(shelf.add('starts', { name: 'Again', song })).toBe(true);
    expect(shelf.add('bands', { name: 'None', song: { format: 'fendro-song' } as never })).toBe(false);
    // Tags and a folder are typed one after the other, and the second leaves the first as it is.
    expect(shelf.label('phrases', phrases[0]!.id, { tags: ['slow'] })).toBe(true);
    expect(shelf.label('phrases', phrases[0]!.id, { folder: 'Nights' })).toBe(true);
    await settled();
    const again = await fresh();
    expect(memory.values.get('version')).toBe(8);
    expect(openSong(again.contents().bands[0]!.song)).toMatchObject({
      ok: true,
      song: { score: { title: SCORE.title } },
    });
    expect(again.contents().starts).toMatchObject([{ name: 'Again' }]);
    expect(again.contents().labels).toEqual([
      { id: `item/phrases/${phrases[0]!.id}`, tags: ['slow'], folder: 'Nights' },
    ]);
    // What was noted of a thing goes with it, and comes back with it.
    const gone = again.removeAll([{ kind: 'phrases', id: phrases[0]!.id }]);
    expect([again.contents().phrases.length, again.contents().labels]).toEqual([1, []]);
    expect(await again.bring(gone)).toBe(2);
    expect(again.contents().labels).toHaveLength(1);
    again.label('phrases', phrases[0]!.id, { tags: [], folder: null });
    expect(again.contents().labels).toEqual([]);
  });

  it('holds a bank of a thousand phrases, in their order, there again after a reload', async () => {
    const shelf = await fresh();
    const bank = Array.from({ length: 1000 }, (_, index) => phrase(`p${index}`));
    expect(await shelf.bring(bank.map((item) => ({ kind: 'phrases' as const, item })))).toBe(1000);
    expect(
      await shelf.bring([
        { kind: 'phrases', item: phrase('p7') },
        { kind: 'phrases', item: { ...phrase('odd'), length: 0 } },
      ]),
    ).toBe(0);
    while (memory.values.size < 1001) await settled();
    const again = await fresh();
    while (again.contents().phrases.length === 0) await settled();
    expect(again.contents().phrases.map(({ id }) => id)).toEqual(bank.map(({ id }) => id));
  });

  it('leaves the shelf of a newer Fendro alone and says so', async () => {
    memory.values.set('version', 9);
    expect((await fresh()).problems()[0]).toMatch(/newer Fendro/);
  });

  it('keeps long names by shortening them, and refuses in words what it could not read again', async () => {
    const shelf = await fresh();
    expect(
      shelf.put('phrases', {
        ...phrase('long'),
        name: 'The melody of a section with a very long name indeed, of many letters, take 123',
      }),
    ).toBe(true);
    expect(shelf.put('phrases', { ...phrase('empty'), notes: [] })).toBe(false);
    expect(notices()[0]).toMatch(/phrase was not put on the shelf: notes/);
    await settled();
    expect((await fresh()).contents().phrases).toEqual([expect.objectContaining({ id: 'long' })]);
  });

  it('says when it cannot keep something, and keeps it when it can again', async () => {
    const shelf = await fresh();
    full = true;
    shelf.put('phrases', phrase('one'));
    await settled();
    expect(shelf.problems()[0]).toMatch(/could not be saved/);
    expect(shelf.contents().phrases).toHaveLength(1);
    full = false;
    shelf.put('phrases', phrase('two'));
    await settled();
    expect(shelf.problems()).toEqual([]);
    expect((await fresh()).contents().phrases.map(({ name }) => name)).toEqual(['two', 'one']);
  });
});
