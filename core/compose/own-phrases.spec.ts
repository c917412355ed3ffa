import * as fc from 'fast-check';
import { typeChords } from '../song/chord-typing';
import { ownPhraseSchema, phraseFrom } from '../song/own-phrase';
import type { ChordSpan, Note } from '../song/schema';
import { partRequests } from '../testing/arbitrary';
import { scoreWith } from '../testing/scores';
import { chordMask } from '../theory/chord';
import { METRES } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { isDrumRole } from '../song/roles';
import { draft } from './draft';
import { ENGINE } from './engine';
import { listed, playOwnPhrase } from './own-phrases';
import { AS_IT_IS } from './phrase';
import { findPhrases, playPhrase } from './phrases';
import { editedTake } from '../song/take';
import { chosenId } from '../song/section';

const { score, takes } = scoreWith(6, 0);
const ground = score.ground;
const [section] = score.sections;
const typed = (text: string, bars: number): ChordSpan[] =>
  typeChords([], 0, text, { key: { tonic: 0, scale: 'major' }, metre: METRES[2]!, length: bars * 1920 });
const take = (role: string) => {
  const part = score.parts.find((candidate) => candidate.role === role)!;
  const found = takes[chosenId(section!, part.id)!]!;
  if (found.of !== 'part') throw new Error('no part');
  return found;
};
const chordsOf = () => {
  const harmony = takes[section!.harmony!]!;
  return harmony.of === 'harmony' ? harmony.chords : [];
};
const melody = phraseFrom(take('melody'), 'melody', chordsOf(), ground, { id: 'phrase-1', name: 'Ridge call' })!;

describe('a phrase of one’s own', () => {
  it('holds a take’s first bars with the chords that they were played to', () => {
    expect(ownPhraseSchema.safeParse(melody).success).toBe(true);
    expect(melody.length % 1920).toBe(0);
    expect(melody.notes.every(({ start, duration }) => start >= 0 && start + duration <= melody.length)).toBe(true);
    expect(melody.chords.reduce((total, { duration }) => total + duration, 0)).toBe(melody.length);
    expect(phraseFrom({ ...take('melody'), notes: [] }, 'melody', [], ground, { id: 'x', name: 'x' })).toBeNull();
  });

  it('is found by its name beside the others, and by kind', () => {
    const all = [listed(melody), ...findPhrases('')];
    expect(findPhrases('ridge', null, all).map(({ id }) => id)).toEqual(['phrase-1']);
    expect(findPhrases('', 'own', all)).toHaveLength(1);
    expect(listed(melody).onsets.every((place) => place >= 0 && place < 16)).toBe(true);
  });

  it('says the same notes over its own chords, again and again until the section is full', () => {
    const length = 2 * melody.length;
    const chords = [0, melody.length].flatMap((from) =>
      melody.chords.map((span) => ({ ...span, start: span.start + from })),
    );
    const notes = playOwnPhrase(melody, { ground, length }, chords, AS_IT_IS, null);
    expect(notes.map(({ start, pitch }) => [start, pitch])).toEqual(
      [0, melody.length].flatMap((from) => melody.notes.map(({ start, pitch }) => [start + from, pitch])),
    );
  });

  it('moves to other chords: what was a chord note is one again', () => {
    const chords = typed('Am | F', 2);
    const other = phraseFrom(take('comping'), 'comping', chordsOf(), ground, { id: 'p', name: 'p' })!;
    for (const { start, pitch } of playOwnPhrase(other, { ground, length: 3840 }, chords, AS_IT_IS, {
      low: 48,
      high: 76,
    })) {
      expect(inMask(chordMask(chords.findLast((span) => span.start <= start)!.chord!), pitch)).toBe(true);
    }
  });

  it('goes at other speeds, octaves and fullness, and stays in the section whatever is asked', () => {
    const play = (turn: Partial<typeof AS_IT_IS>) =>
      playOwnPhrase(melody, { ground, length: 4 * 1920 }, typed('C | Am | F | G', 4), { ...AS_IT_IS, ...turn }, null);
    const mean = (notes: readonly Note[]): number => notes.reduce((sum, { pitch }) => sum + pitch, 0) / notes.length;
    expect(play({ speed: 2 }).length).toBeGreaterThan(play({}).length);
    expect(play({ speed: 0.5 }).length).toBeLessThan(play({}).length);
    expect(mean(play({ octave: 1 })) - mean(play({}))).toBeCloseTo(12, -1);
    expect(play({ fullness: 1 }).length).toBeGreaterThan(play({}).length);
    expect(play({ fullness: -1 }).length).toBeLessThan(play({}).length);
    for (const speed of [0.5, 1, 2] as const)
      for (const { start, duration } of play({ speed }))
        expect(start >= 0 && duration > 0 && start + duration <= 4 * 1920).toBe(true);
  });

  it('plays from any take of any part, in any metre, through the same door as all phrases', () => {
    fc.assert(
      fc.property(
        partRequests().filter(({ asking, chords }) => !isDrumRole(asking.role!) && chords !== null),
        (request) => {
          const result = draft(request, 0);
          if (!result.ok || result.content.of !== 'part' || result.content.notes.length === 0) return;
          const from = editedTake('from', take('melody'), result.content.notes);
          const own = phraseFrom(from, request.asking.role!, request.chords!, request.asking.ground, {
            id: 'p',
            name: 'any',
          });
          if (!own) return;
          const played = playPhrase(
            listed(own),
            { engine: ENGINE, ground, bars: 4, kind: 'verse' },
            typed('C | Am | F | G', 4),
            AS_IT_IS,
            null,
          );
          if (!played.ok) throw new Error(played.reason);
          expect(
            played.notes.every(
              ({ start, duration, pitch }) =>
                start >= 0 && duration > 0 && start + duration <= 4 * 1920 && pitch >= 0 && pitch <= 127,
            ),
          ).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});
