import * as fc from 'fast-check';
import { chordsOfFile, groundOfFile, importInto, keysOfFile } from '../files/incoming/imported-song';
import { scoreProblem } from '../song/check';
import { STYLES } from '../styles/styles';
import { startScore } from '../styles/band';
import { heardChords, heardFrom, FOUR } from '../testing/heard';
import { rounds } from '../testing/rounds';
import { chordSymbol } from '../theory/chord';
import { barTicks, metreName } from '../theory/metre';
import { heardFile, type Correction, type WrittenRecording } from './heard-file';
import type { HeardNote } from './heard-note';
import { HEARD_METRES, tickAt } from './written-time';

const chordsOf = ({ file }: WrittenRecording): string[] =>
  chordsOfFile(
    file,
    file.lines.map(({ id }) => id),
    keysOfFile(file)[0]!.key,
  )
    .flat()
    .map(({ chord }) => (chord ? chordSymbol(chord) : 'N.C.'));
const ROUND = ['C', 'Am', 'F', 'G'];

/** A note that is struck, a fifth of a second long. */
const struck = (start: number, pitch: number, strength = 0.7): HeardNote => ({
  start,
  end: start + 0.2,
  pitch,
  strength,
});

describe('a recording that is written down', () => {
  it('has its tempo, its bar lines and its chords, wherever it begins', () => {
    fc.assert(
      fc.property(fc.integer({ min: 90, max: 168 }), fc.double({ min: 0, max: 1.9, noNaN: true }), (tempo, lead) => {
        const written = heardFile(heardChords(FOUR, 2, { tempo, beats: 4, lead }));
        expect(Math.abs(written.tempo / tempo - 1)).toBeLessThan(0.006);
        expect([metreName(written.metre), written.even]).toEqual(['4/4', true]);
        const bar = 240 / tempo;
        const off = (written.first - lead) / bar;
        expect(Math.abs(off - Math.round(off)) * bar).toBeLessThan(0.04);
        expect(chordsOf(written)).toEqual([...ROUND, ...ROUND]);
      }),
      { numRuns: rounds(40) },
    );
  });

  it('is heard in threes where it goes in threes', () => {
    const written = heardFile(heardChords(FOUR, 3, { tempo: 120, beats: 3, lead: 0.3 }));
    expect([metreName(written.metre), written.tempo]).toEqual(['3/4', 120]);
    expect(chordsOf(written)).toEqual([...ROUND, ...ROUND, ...ROUND]);
  });

  it('is heard in compound beats where those divide in three', () => {
    const eighth = 60 / 50 / 3;
    const notes = Array.from({ length: 96 }, (_, at) => {
      const start = 0.2 + at * eighth;
      const chord = FOUR[Math.floor(at / 6) % 4]!;
      return at % 3 === 0
        ? [
            struck(start, at % 6 === 0 ? chord[0]! : chord[0]! + 7, 0.9),
            ...chord.slice(1).map((p) => struck(start, p, 0.8)),
          ]
        : [struck(start, chord[1]!, 0.5)];
    }).flat();
    const written = heardFile(heardFrom(notes));
    expect(written.metre.unit).toBe(8);
    expect(Math.abs(written.tempo / 50 - 1)).toBeLessThan(0.01);
  });

  it('follows a tempo that moves, bar by bar', () => {
    let time = 0.5;
    const times: number[] = [];
    for (let beat = 0; beat < 64; beat++) {
      times.push(time);
      time += 60 / (100 + 15 * Math.sin(beat / 12));
    }
    const notes = times.flatMap((start, beat) =>
      FOUR[Math.floor(beat / 4) % 4]!.map((pitch) => struck(start, pitch, 0.8)),
    );
    const written = heardFile(heardFrom(notes));
    expect(written.even).toBe(false);
    expect(written.file.sections[0]!.tempos.length).toBeGreaterThan(8);
    const off = times.map((at) => tickAt(written.time, at) / 480).map((beat) => Math.abs(beat - Math.round(beat)));
    expect(off.filter((value) => value > 0.12)).toEqual([]);
  });

  it('is set right by hand: tempo, bar lines, metre', () => {
    const sound = heardChords(FOUR, 2, { tempo: 120, beats: 4, lead: 0.25 });
    const plain = heardFile(sound);
    expect(heardFile(sound, { tempo: 60 }).tempo).toBeCloseTo(60, 1);
    expect(heardFile(sound, { tempo: 240 }).tempo).toBeCloseTo(240, 0);
    for (const beats of [-1, 1, 2, 5]) {
      const { first } = heardFile(sound, { line: plain.first + beats / 2 });
      expect((((first - plain.first) * 2 - beats) % 4) + 0).toBeCloseTo(0, 1);
    }
    expect(heardFile(sound, { tempo: 60, line: plain.first }).first).toBeCloseTo(plain.first, 1);
    for (const metre of HEARD_METRES) {
      const written = heardFile(sound, { metre });
      expect([written.metre, written.file.sections[0]!.metre]).toEqual([metre, metre]);
    }
  });

  it('keeps whole tempos whole, and notes that are played beside the grid where they are', () => {
    const sound = heardChords(FOUR, 4, { tempo: 112, beats: 4, lead: 0.1 });
    const late = sound.notes.map((note, at) => (at % 5 === 4 ? { ...note, start: note.start + 0.06 } : note));
    const written = heardFile({ ...sound, notes: late });
    expect(written.tempo).toBe(112);
    const places = written.file.lines.flatMap(({ notes }) => notes.map(({ start }) => start % 120));
    expect(places.filter((place) => place === 0).length).toBeGreaterThan(places.length / 2);
    expect(places.some((place) => place > 20 && place < 100)).toBe(true);
  });

  it('becomes a valid song, whatever is heard in it and however it is set right', () => {
    const note = fc
      .record({
        start: fc.double({ min: 0, max: 30, noNaN: true }),
        length: fc.double({ min: 0.01, max: 9, noNaN: true }),
        pitch: fc.integer({ min: 21, max: 108 }),
        strength: fc.double({ min: 0, max: 1, noNaN: true }),
      })
      .map(({ start, length, ...rest }): HeardNote => ({ start, end: start + length, ...rest }));
    const correction: fc.Arbitrary<Correction> = fc.record(
      {
        tempo: fc.double({ min: 20, max: 300, noNaN: true }),
        line: fc.double({ min: -3, max: 40, noNaN: true }),
        metre: fc.constantFrom(...HEARD_METRES),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(fc.array(note, { maxLength: 60 }), correction, (notes, set) => {
        const sound = heardFrom(notes.toSorted((a, b) => a.start - b.start || a.pitch - b.pitch));
        const { file } = heardFile(sound, set);
        for (const line of file.lines)
          expect(line.notes.every(({ start, duration }) => start >= 0 && duration > 0)).toBe(true);
        const end = file.sections.at(-1)!.start + file.sections.at(-1)!.bars * barTicks(file.sections.at(-1)!.metre);
        expect(file.lines.flatMap((line) => line.notes).every(({ start }) => start < end)).toBe(true);
        const lines = file.lines.map(({ id }) => id);
        const key = keysOfFile(file)[0]!.key;
        const style = STYLES[0]!;
        const blank = {
          ...startScore('Heard', groundOfFile(file, key, style.id), style),
          parts: [],
          sections: [],
          order: [],
        };
        let serial = 0;
        const made = importInto(
          blank,
          file,
          chordsOfFile(file, lines, key),
          { lines, key, move: 'leave', file: 'heard.wav' },
          (kind) => `${kind}-${serial++}`,
        );
        expect(scoreProblem(made.score, Object.fromEntries(made.takes.map((take) => [take.id, take])))).toBeNull();
      }),
      { numRuns: rounds(60) },
    );
  });
});
