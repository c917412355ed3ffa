import * as fc from 'fast-check';
import { asWritten, deliverSong } from '../files/outgoing/deliver';
import { deliverTake } from '../files/outgoing/deliver-piece';
import { readMidi } from '../files/midi/midi-read';
import { ROLES, type Note } from '../song/schema';
import { DRUM_KEYS } from '../song/style';

import { STYLES, styleOf } from '../styles/styles';
import { scoreWith } from '../testing/scores';
import { felt } from './feel';
import { heardNotes, musicOf } from '../testing/sounding';
import { editedTake } from '../song/take';
import { chosenId } from '../song/section';

const BAR = 1920;
const notes = (pitch: number): Note[] =>
  Array.from({ length: 16 }, (_, index) => ({ start: index * 120, duration: 100, pitch, velocity: 80 }));
const feels = STYLES.flatMap(({ feel }) => feel ?? []);

describe('the feel of a style', () => {
  it('moves notes by what it says and no note over a bar line, in proportion', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...feels),
        fc.constantFrom(...ROLES),
        fc.integer({ min: 0, max: 150 }),
        fc.constantFrom(36, 38, 42, 60),
        (feel, role, amount, pitch) => {
          const plain = notes(pitch);
          const sounding = felt(plain, feel, amount, role, BAR);
          expect(sounding).toHaveLength(16);
          sounding.forEach((note, index) => {
            expect(Math.abs(note.start - plain[index]!.start)).toBeLessThanOrEqual((40 * amount) / 100 + 1);
            expect(Math.floor(note.start / BAR)).toBe(0);
            expect(note.velocity >= 1 && note.velocity <= 127).toBe(true);
          });
          if (amount === 0) expect(sounding).toBe(plain);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('is the same list for the same notes, and nothing where a style has none', () => {
    const plain = notes(60);
    const feel = feels[0]!;
    expect(felt(plain, feel, 100, 'bass', BAR)).toBe(felt(plain, feel, 100, 'bass', BAR));
    expect(felt(plain, undefined, 100, 'bass', BAR)).toBe(plain);
  });

  it('sets single drums apart from their kit', () => {
    const feel = styleOf('hip-hop').feel!;
    const at = (voice: 'kick' | 'snare'): number =>
      felt([{ start: 480, duration: 100, pitch: DRUM_KEYS[voice], velocity: 80 }], feel, 100, 'drums', BAR)[0]!.start;
    expect(at('snare') - at('kick')).toBe(14);
  });
});

describe('what sounds and what is handed over', () => {
  const { score, takes } = scoreWith(3, 0);
  const late = { ...score, ground: { ...score.ground, style: 'reggae' } };
  const bass = late.parts.find(({ role }) => role === 'bass')!;
  const starts = (one: typeof score): number[] =>
    heardNotes(one, takes)
      .filter(({ part }) => part === bass.id)
      .map(({ start }) => start);

  it('has the feel of the style, by its amount, and a part’s own style', () => {
    const plain = starts({ ...late, ground: { ...late.ground, feel: 0 } });
    expect(starts(late)).toEqual(plain.map((start) => start + 14));
    expect(starts({ ...late, ground: { ...late.ground, feel: 50 } })).toEqual(plain.map((start) => start + 7));
    const own = { ...late, parts: late.parts.map((part) => (part.id === bass.id ? { ...part, style: 'punk' } : part)) };
    expect(starts(own)).not.toEqual(starts(late));
  });

  it('is the same in the files, and as written without it', () => {
    const read = (bytes: Uint8Array) => {
      const file = readMidi(bytes);
      if (!file.ok) throw new Error(file.reason);
      return file.file;
    };
    const trackStarts = (one: typeof score) =>
      read(deliverSong(musicOf(one, takes)).bytes).tracks[late.parts.indexOf(bass) + 1]!.notes.map(
        ({ start }) => start,
      );
    expect(trackStarts(late)).toEqual(starts(late));
    expect(trackStarts(asWritten(late))).toEqual(starts({ ...late, ground: { ...late.ground, feel: 0 } }));
  });

  it('strikes the drums that were put in place of others, and gives a pick-up a bar of its own', () => {
    const drums = late.parts.find(({ role }) => role === 'drums')!;
    const swapped = {
      ...score,
      parts: score.parts.map((part) => (part.id === drums.id ? { ...part, swaps: { '36': 45, '42': 70 } } : part)),
    };
    const struck = (one: typeof score) =>
      new Set(
        heardNotes(one, takes)
          .filter(({ part }) => part === drums.id)
          .map(({ pitch }) => pitch),
      );
    expect(struck(score).has(36)).toBe(true);
    expect(struck(swapped).has(36)).toBe(false);
    expect(struck(swapped).has(45)).toBe(true);
    const take = takes[chosenId(score.sections[0]!, bass.id)!]!;
    if (take.of !== 'part') throw new Error('no part');
    const early = { start: -240, duration: 200, pitch: 40, velocity: 70 };
    const led = editedTake('led', take, [early, ...take.notes]);
    const file = deliverTake(musicOf(score, takes), led)!;
    const read = readMidi(file.bytes);
    const first = read.ok ? read.file.tracks[1]!.notes.map(({ start }) => start).sort((a, b) => a - b) : [];
    expect(first.slice(0, 2)).toEqual([BAR - 240, BAR + take.notes[0]!.start]);
  });
});
