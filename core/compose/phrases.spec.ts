import * as fc from 'fast-check';
import { ENGINE } from './engine';
import { AS_IT_IS, type PhraseTurn } from './phrase';
import { allPhrases, findPhrases, phrasesLike, playPhrase } from './phrases';
import { typeChords } from '../song/chord-typing';
import { applyStyle, groundFor, startScore } from '../styles/band';
import { findStyles } from '../styles/find';
import { STYLES, styleOf } from '../styles/styles';
import { barTicks, METRES } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { rounds } from '../testing/rounds';

const ground = groundFor(STYLES[0]!, { tonic: 0, scale: 'major' });
const asking = (metre = METRES[2]!) => ({
  engine: ENGINE,
  ground: { ...ground, metre },
  bars: 4,
  kind: 'verse' as const,
});
const chords = (metre = METRES[2]!) =>
  typeChords([], 0, 'C | Am | F | G7', { key: { tonic: 0, scale: 'major' }, metre, length: 4 * barTicks(metre) });
const play = (id: string, turn: Partial<PhraseTurn> = {}) => {
  const played = playPhrase(
    allPhrases().find((phrase) => phrase.id === id)!,
    asking(),
    chords(),
    { ...AS_IT_IS, ...turn },
    null,
  );
  if (!played.ok) throw new Error(played.reason);
  return played.notes;
};
const starts = (notes: readonly { start: number }[]): number => new Set(notes.map(({ start }) => start)).size;

describe('phrases', () => {
  it('are several hundred, each by what it does', () => {
    expect(allPhrases().length).toBeGreaterThanOrEqual(300);
    expect(new Set(allPhrases().map(({ id }) => id)).size).toBe(allPhrases().length);
    expect(allPhrases().map(({ name }) => name)).toContain('ringing broken chord, eighths, up');
  });

  it('play over any chords in every metre, inside the section, the same each time', () => {
    fc.assert(
      fc.property(fc.constantFrom(...allPhrases()), fc.constantFrom(...METRES), (phrase, metre) => {
        const played = playPhrase(phrase, asking(metre), chords(metre), AS_IT_IS, null);
        if (!played.ok) throw new Error(`${phrase.name}: ${played.reason}`);
        expect(played.notes.length).toBeGreaterThan(0);
        for (const { start, duration } of played.notes) {
          expect(start).toBeGreaterThanOrEqual(0);
          expect(duration).toBeGreaterThan(0);
          expect(start + duration).toBeLessThanOrEqual(4 * barTicks(metre));
        }
        expect(playPhrase(phrase, asking(metre), chords(metre), AS_IT_IS, null)).toEqual(played);
      }),
      { numRuns: rounds(250) },
    );
  });

  it('are found by words and by a tapped rhythm', () => {
    expect(findPhrases('bossa bass').length).toBeGreaterThan(0);
    expect(findPhrases('triplets down').every(({ name }) => name.includes('triplets'))).toBe(true);
    const busy = findPhrases('broken').map(({ busyness }) => busyness);
    expect([...busy].sort((a, b) => a - b)).toEqual(busy);
    const [nearest] = phrasesLike([4, 12]);
    expect(nearest!.onsets).toEqual([4, 12]);
  });

  it('go an octave up or down, at half or double speed, thinner or fuller, with a bass note', () => {
    const id = 'broken up eighths ringing';
    const mean = (notes: readonly { pitch: number }[]): number =>
      notes.reduce((sum, { pitch }) => sum + pitch, 0) / notes.length;
    expect(mean(play(id, { octave: 1 })) - mean(play(id))).toBeCloseTo(12, -1);
    expect(starts(play(id, { speed: 2 }))).toBe(2 * starts(play(id)));
    const stabs = allPhrases().find((phrase) => phrase.id.startsWith('stabs ballad-heartbeats'))!.id;
    expect(starts(play(stabs, { speed: 2 }))).toBeGreaterThan(starts(play(stabs)));
    expect(starts(play(stabs, { speed: 0.5 }))).toBeLessThan(starts(play(stabs)));
    expect(play(stabs, { fullness: -1 }).length).toBeLessThan(play(stabs, { fullness: 1 }).length);
    const bass = play(id, { bass: true })
      .filter(({ pitch }) => pitch < 48)
      .map(({ pitch }) => pitch % 12);
    expect(bass).toEqual(chords().map(({ chord }) => pitchClassOf(chord!.root)));
  });
});

describe('styles', () => {
  it('are at least 24 from many families, found by words and by tempo', () => {
    expect(STYLES.length).toBeGreaterThanOrEqual(24);
    expect(new Set(STYLES.map(({ family }) => family)).size).toBeGreaterThanOrEqual(10);
    expect(findStyles('latin').map(({ id }) => id)).toEqual(expect.arrayContaining(['samba', 'salsa']));
    for (const style of findStyles('174')) expect(style.tempo.low <= 174 && 174 <= style.tempo.high).toBe(true);
    expect(findStyles('3/4 wistful').map(({ id }) => id)).toContain('waltz');
    expect(findStyles('glacier')).toEqual([]);
  });

  it('are applied with what is asked for and nothing else', () => {
    const score = startScore('x', ground, STYLES[0]!);
    const samba = styleOf('samba');
    let serial = 0;
    const keep = applyStyle(score, samba, { pace: false, sounds: false, missing: false }, () => `new-${serial++}`);
    expect(keep.ground).toMatchObject({ style: 'samba', tempo: score.ground.tempo, metre: score.ground.metre });
    expect(keep.parts.map(({ instrument, level }) => [instrument, level])).toEqual(
      score.parts.map(({ instrument, level }) => [instrument, level]),
    );
    const all = applyStyle(score, samba, { pace: true, sounds: true, missing: true }, () => `new-${serial++}`);
    expect(all.ground).toMatchObject({ tempo: samba.tempo.usual, metre: { beats: 2, unit: 4 } });
    for (const band of samba.band)
      expect(all.parts.some(({ role, instrument }) => role === band.role && instrument === band.instrument)).toBe(true);
  });
});
