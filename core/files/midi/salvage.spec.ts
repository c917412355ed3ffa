import * as fc from 'fast-check';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { deliverSong } from '../outgoing/deliver';
import { longAt, longBytes, tagAt } from './bytes';
import { readMidi, type ReadMidi } from './midi-read';
import { guessedResolution } from './resolution';
import { salvageMidi } from './salvage';
import { writeMidi } from './midi-write';

const { score, takes } = scoreWith(1, 0);
const good = deliverSong(musicOf(score, takes)).bytes;
const read = (bytes: Uint8Array): ReadMidi => {
  const reading = readMidi(bytes);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
};
const whole = read(good);
const notesOf = (file: ReadMidi) => file.tracks.map(({ notes }) => notes);
const countOf = (file: ReadMidi): number => file.tracks.reduce((sum, { notes }) => sum + notes.length, 0);
const lossesOf = (bytes: Uint8Array): readonly string[] => read(bytes).lost.map(({ kind }) => kind);
const bytesOf = (...values: (number | readonly number[] | string)[]): Uint8Array =>
  Uint8Array.from(
    values.flatMap((value) => (typeof value === 'string' ? [...value].map((letter) => letter.charCodeAt(0)) : value)),
  );
/** A file of one track of raw events. */
const fileOf = (events: readonly number[], division: readonly number[] = [1, 0xe0]): Uint8Array =>
  bytesOf('MThd', longBytes(6), [0, 0, 0, 1], division, 'MTrk', longBytes(events.length), events);
const END = [0, 0xff, 0x2f, 0];
/** Notes a quarter apart from middle C up, each of its own status. */
const scaleUp = (count: number): number[] =>
  Array.from({ length: count }, (_, index) => [
    ...(index === 0 ? [0] : [0x83, 0x60]),
    ...[0x90, 60 + index, 80, 0x81, 0x70, 0x80, 60 + index, 64],
  ]).flat();
const pitches = (bytes: Uint8Array): number[] =>
  read(bytes).tracks.flatMap(({ notes }) => notes.map(({ pitch }) => pitch));
const starts = (bytes: Uint8Array): number[] =>
  read(bytes).tracks.flatMap(({ notes }) => notes.map(({ start }) => start));
/** Where a byte would stand within or before a time. */
const placesOfTimes = (events: readonly number[]): ReadonlySet<number> => {
  const places = new Set<number>();
  for (let at = 0; at < events.length; at += 3) {
    do places.add(at);
    while ((events[at++] ?? 0) >= 0x80);
  }
  return places;
};
/** Where the chunks of tracks begin. */
const tracksIn = (bytes: Uint8Array): number[] => {
  const places: number[] = [];
  for (let at = 14; at < bytes.length; at += 8 + longAt(bytes, at + 4))
    if (tagAt(bytes, at) === 'MTrk') places.push(at);
  return places;
};

describe('salvaging a MIDI file', () => {
  it('leaves sound files as they are', () => {
    const salvage = salvageMidi(good);
    expect(salvage).toMatchObject({ ok: true, lost: [], counting: { by: 'quarter', ticks: 480 } });
    expect(salvage.ok && [...salvage.bytes]).toEqual([...good]);
  });

  it('gives every note up to the cut of a file that breaks off, wherever it does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 30, max: good.length - 1 }), (cut) => {
        const reading = readMidi(good.slice(0, cut));
        if (!reading.ok) {
          expect(cut).toBeLessThan(tracksIn(good)[0]! + 12);
          return;
        }
        // Tracks before the cut are whole, and so are the notes of the one in which it lies.
        const complete = tracksIn(good).filter((at) => at + 8 + longAt(good, at + 4) <= cut).length;
        expect(notesOf(reading.file).slice(0, complete)).toEqual(notesOf(whole).slice(0, complete));
        const [broken, before] = [notesOf(reading.file)[complete] ?? [], notesOf(whole)[complete] ?? []];
        broken.forEach(({ start, pitch }, index) =>
          expect({ start, pitch }).toMatchObject({ start: before[index]!.start }),
        );
        // A cut right before a track leaves those before it whole.
        const between = tracksIn(good).some((at) => cut - at >= 0 && cut - at < 8);
        const kinds = reading.file.lost.map(({ kind }) => kind);
        expect(kinds).toContain(between ? 'missing' : 'cut');
      }),
      { numRuns: 400 },
    );
  });

  it('measures tracks that say wrong lengths, and counts those that are there', () => {
    for (const length of [0, 5, 100_000, 0xffff_ffff]) {
      const bytes = good.slice();
      new DataView(bytes.buffer).setUint32(tracksIn(good)[1]! + 4, length);
      expect(notesOf(read(bytes))).toEqual(notesOf(whole));
      expect(lossesOf(bytes)).toEqual(['mended']);
    }
    for (const [tracks, kinds] of [
      [1, []],
      [60, ['missing']],
    ] as const) {
      const bytes = good.slice();
      new DataView(bytes.buffer).setUint16(10, tracks);
      expect(notesOf(read(bytes))).toEqual(notesOf(whole));
      expect(lossesOf(bytes)).toEqual(kinds);
    }
  });

  it('sets an end where there is none, and reads on after one that comes too early', () => {
    expect(pitches(fileOf(scaleUp(4)))).toEqual([60, 61, 62, 63]);
    expect(lossesOf(fileOf(scaleUp(4)))).toEqual(['mended']);
    const early = [...scaleUp(3), ...END, 0x60, ...scaleUp(8).slice(1), ...END];
    expect(pitches(fileOf(early))).toHaveLength(11);
    expect(pitches(fileOf([...scaleUp(3), ...END, 0xff, 0xff, 0xff]))).toEqual([60, 61, 62]);
  });

  it('takes off what other programs put around a file', () => {
    const binary = new Uint8Array(128);
    const riff = bytesOf('RIFF', [0, 0, 0, 0], 'RMID', 'data');
    const little = [good.length & 255, (good.length >> 8) & 255, (good.length >> 16) & 255, 0];
    for (const bytes of [
      bytesOf([...binary], [...good], [...new Uint8Array(100)]),
      bytesOf([...riff], little, [...good], 'DISP', [1, 0, 0, 0, 0, 0]),
      bytesOf([...riff], [0, 0, 0, 0], [...good]),
      bytesOf([...good], [0, 0, 0, 0, 0, 0, 0]),
    ]) {
      expect(notesOf(read(bytes))).toEqual(notesOf(whole));
      expect(lossesOf(bytes)).toEqual([]);
    }
  });

  it('steps over strays of real time, wherever they stand', () => {
    const notes = scaleUp(8);
    const plain = starts(fileOf([...notes, ...END]));
    const times = placesOfTimes(notes);
    for (let at = 0; at < notes.length; at++) {
      const between = fileOf([...notes.slice(0, at), 0xf8, ...notes.slice(at), ...END]);
      expect(pitches(between)).toEqual(pitches(fileOf([...notes, ...END])));
      // One that slipped into a time is a time itself; all others leave it as it is.
      if (!times.has(at)) expect(starts(between)).toEqual(plain);
    }
    const timed = [...scaleUp(2), 0, 0xf8, 0, 0xfe, ...[0x60, ...scaleUp(6).slice(1)], ...END];
    expect(pitches(fileOf(timed))).toHaveLength(8);
  });

  it('reads on after a place that cannot be read, and says so', () => {
    const notes = scaleUp(12);
    const broken = [...notes];
    // A velocity that is none: its note is lost, and all others stay where they are.
    broken[5 * 11 - 1 + 4] = 0xff;
    const bytes = fileOf([...broken, ...END]);
    expect(pitches(bytes).length).toBeGreaterThanOrEqual(10);
    expect(lossesOf(bytes)).toContain('unreadable');
    const endless = fileOf([...scaleUp(3), ...[0xff, 0xff, 0xff, 0xff, 0x7f], ...scaleUp(3).slice(1), ...END]);
    expect(pitches(endless)).toHaveLength(6);
    expect(lossesOf(endless)).toEqual(['late']);
  });

  it('leaves out facts of a wrong length, and rests that are too long to be meant', () => {
    const odd = [0, 0xff, 0x58, 2, 4, 2, ...scaleUp(4), ...END];
    expect(pitches(fileOf(odd))).toEqual([60, 61, 62, 63]);
    const late = [...scaleUp(2), 0xff, 0xff, 0xff, 0x7f, ...scaleUp(3).slice(1), ...END];
    expect(lossesOf(fileOf(late))).toEqual(['late']);
    expect(Math.max(...starts(fileOf(late)))).toBeLessThan(5000);
  });

  it('reads film frames as beats at the tempo of the file', () => {
    // 25 frames a second, 40 ticks each: a second is 1,000 ticks, a quarter at 120 half of them.
    const film = fileOf([...scaleUp(4), ...END], [0xe7, 40]);
    expect(read(film)).toMatchObject({ resolution: 500, counting: { by: 'second', ticks: 1000 } });
    const tempo = [0, 0xff, 0x51, 3, 0x0f, 0x42, 0x40];
    expect(read(fileOf([...tempo, ...scaleUp(4), ...END], [0xe7, 40]))).toMatchObject({ resolution: 1000, tempo: 60 });
  });

  it('judges a resolution that is not said by the notes', () => {
    for (const resolution of [96, 120, 192, 480]) {
      const sixteenths = Array.from({ length: 64 }, (_, index) => (index * resolution) / 4);
      expect(guessedResolution(sixteenths)).toBe(resolution);
    }
    const headless = bytesOf([...good.slice(14)]);
    expect(notesOf(read(headless))).toEqual(notesOf(whole));
    const short = bytesOf('MThd', longBytes(6), [0, 1], [...good.slice(14)]);
    expect(notesOf(read(short))).toEqual(notesOf(whole));
    expect(lossesOf(short)).toEqual(['resolution']);
    const wide = bytesOf('MThd', longBytes(8), [...good.slice(8, 14)], [0, 0], [...good.slice(14)]);
    expect(notesOf(read(wide))).toEqual(notesOf(whole));
  });

  it('lets patterns that stand side by side follow one another, each from a bar line', () => {
    const pattern = (name: string, count: number) => ({
      events: [
        { at: 0, kind: 'name' as const, text: name },
        ...Array.from({ length: count }, (_, index) => [
          { at: index * 480, kind: 'on' as const, channel: 0, pitch: 60, velocity: 90 },
          { at: index * 480 + 240, kind: 'off' as const, channel: 0, pitch: 60, velocity: 0 },
        ]).flat(),
      ],
      end: count * 480,
    });
    const bytes = writeMidi({ type: 1, resolution: 480, tracks: [pattern('Gust', 6), pattern('Lull', 4)] });
    bytes[9] = 2;
    const file = read(bytes);
    expect(file.markers).toEqual([
      { at: 0, text: 'Gust' },
      { at: 3840, text: 'Lull' },
    ]);
    expect(file.tracks[1]!.notes[0]!.start).toBe(3840);
  });

  it('refuses what is no MIDI file, in words, and says what to do', () => {
    for (const bytes of [new Uint8Array(0), bytesOf('This is a weather report.'), good.slice(0, 14)]) {
      const reading = readMidi(bytes);
      expect(!reading.ok && reading.reason).toMatch(/MIDI file.*\. (?:Choose|Copy)|: it has neither/s);
    }
  });

  it('never throws on mutated files, and reads nearly all of them', () => {
    let [kept, all] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }),
        fc.nat(good.length),
        (changes, cut) => {
          const bytes = good.slice(0, cut % 3 === 0 ? cut : good.length);
          for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value;
          const reading = readMidi(bytes);
          if (!reading.ok) expect(reading.reason.length).toBeGreaterThan(10);
          if (cut % 3 === 0) return;
          all += countOf(whole);
          if (reading.ok) kept += Math.min(countOf(whole), countOf(reading.file));
        },
      ),
      { numRuns: 1000 },
    );
    expect(kept / all).toBeGreaterThan(0.9);
  });
});
