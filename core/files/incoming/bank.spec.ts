import * as fc from 'fast-check';
import { ownPhraseSchema } from '../../song/own-phrase';
import { isDrumRole } from '../../song/roles';
import { rounds } from '../../testing/rounds';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { deliverSong } from '../outgoing/deliver';
import { readBankFile, withoutDoubles, type FoundPhrase } from './bank';

const FROM = { source: 'Attic', licence: 'my own', file: 'slow_river.mid' };

function phrasesOf(seed: number): readonly FoundPhrase[] {
  const { score, takes } = scoreWith(seed, 0);
  const read = readBankFile(deliverSong(musicOf(score, takes)).bytes, FROM);
  if (!read.ok) throw new Error(read.reason);
  return read.phrases;
}

describe('a bank of phrases', () => {
  it('is cut out of every line of a file, each phrase one that the shelf can keep', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), (seed) => {
        const phrases = phrasesOf(seed);
        const roles = new Set(phrases.map(({ role }) => isDrumRole(role)));
        expect([...roles].sort()).toEqual([false, true]);
        for (const phrase of phrases) {
          expect(ownPhraseSchema.safeParse({ ...phrase, id: 'phrase-1' }).error).toBeUndefined();
          expect(phrase.length % phrase.bar).toBe(0);
          expect(phrase.length / phrase.bar).toBeLessThanOrEqual(isDrumRole(phrase.role) ? 2 : 4);
          expect(phrase.notes.every(({ start, duration }) => start >= 0 && start + duration <= phrase.length)).toBe(
            true,
          );
          expect(phrase.chords.every(({ start, duration }) => start + duration <= phrase.length)).toBe(true);
          expect(phrase.from).toEqual(FROM);
        }
      }),
      { numRuns: rounds(12) },
    );
  });

  it('has no doubles, neither in itself nor of what is there', () => {
    const phrases = phrasesOf(3);
    const { fresh, doubles } = withoutDoubles([...phrases, ...phrases], []);
    expect(doubles).toBeGreaterThanOrEqual(phrases.length);
    expect(fresh.length + doubles).toBe(2 * phrases.length);
    expect(withoutDoubles(phrases, fresh)).toEqual({ fresh: [], doubles: phrases.length });
  });

  it('takes the same line in another key for the same, and the same drums only on the same drums', () => {
    const [line, drums] = [false, true].map((of) => phrasesOf(3).find(({ role }) => isDrumRole(role) === of)!);
    const higher = (phrase: FoundPhrase): FoundPhrase => ({
      ...phrase,
      notes: phrase.notes.map((note) => ({ ...note, pitch: note.pitch + 2, velocity: 1 })),
    });
    expect(withoutDoubles([higher(line!)], [line!]).doubles).toBe(1);
    expect(withoutDoubles([higher(drums!)], [drums!]).doubles).toBe(0);
  });

  it('says what only repeats itself once, and is called by its line and file', () => {
    const bar = [0, 480, 960, 1440].map((start) => ({ start, duration: 240, pitch: 60, velocity: 90 }));
    const { score, takes } = scoreWith(1, 0);
    const melody = score.parts.find(({ role }) => role === 'melody')!;
    const steady = Object.fromEntries(
      Object.entries(takes).map(([id, take]) => [
        id,
        take.of === 'part' && take.part === melody.id
          ? {
              ...take,
              notes: Array.from({ length: Math.floor(take.length / 1920) }, (_, index) =>
                bar.map((note, place) => ({ ...note, id: `n${index}-${place}`, start: note.start + 1920 * index })),
              ).flat(),
            }
          : take,
      ]),
    );
    const four = {
      ...score,
      ground: { ...score.ground, swing: 0, metre: { beats: 4, unit: 4 as const, groups: [2, 2] } },
    };
    const read = readBankFile(deliverSong(musicOf(four, steady as typeof takes)).bytes, FROM);
    const own = (read.ok ? read.phrases : []).filter(({ name }) => name.startsWith(melody.name));
    expect(own.map(({ length, name }) => [length, name])).toEqual([[1920, `${melody.name} of slow river`]]);
  });

  it('refuses what is no MIDI file in words', () => {
    expect(readBankFile(new Uint8Array(), FROM)).toMatchObject({ ok: false });
  });
});
