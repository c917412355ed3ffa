import * as fc from 'fast-check';
import { INSTRUMENTS } from '../../sounding/instruments';
import { startScore } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { heardNotes } from '../../testing/sounding';
import { pitchClassOf } from '../../theory/pitch';
import { writeMidi, type MidiEvent } from '../midi/midi-write';
import type { ImportFile } from './file-model';
import { chordsOfFile, groundOfFile, importInto, keysOfFile } from './imported-song';
import { instrumentFor } from './instrument-for';
import { readImport } from './midi-import';

const BAR = 1920;
const read = (bytes: Uint8Array): ImportFile => {
  const reading = readImport(bytes);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
};
/** A file whose first track holds no notes, with a track for each list of events. */
const fileOf = (head: readonly MidiEvent[], ...tracks: (readonly MidiEvent[])[]): ImportFile =>
  read(
    writeMidi({
      type: 1,
      resolution: 480,
      tracks: [head, ...tracks].map((events) => ({ events, end: Math.max(0, ...events.map(({ at }) => at)) })),
    }),
  );
const note = (at: number, pitch: number, duration = 400, channel = 0, velocity = 90): MidiEvent[] => [
  { at, kind: 'on', channel, pitch, velocity },
  { at: at + duration, kind: 'off', channel, pitch, velocity: 0 },
];
const metre = (at: number, beats: number, unit = 4): MidiEvent => ({ at, kind: 'metre', beats, unit });
const marker = (at: number, text: string): MidiEvent => ({ at, kind: 'marker', text });
const controller = (at: number, number: number, value: number): MidiEvent => ({
  at,
  kind: 'controller',
  channel: 0,
  controller: number,
  value,
});
/** A line that strikes every beat of so many bars. */
const steady = (bars: number, from = 0, pitch = 60): MidiEvent[] =>
  Array.from({ length: bars * 4 }, (_, beat) => note(from + beat * 480, pitch + (beat % 4))).flat();
let serial = 0;
const newId = (kind: string): string => `${kind}-${serial++}`;
const style = STYLES[0]!;
const asSong = (file: ImportFile) => {
  const choice = {
    lines: file.lines.map(({ id }) => id),
    key: keysOfFile(file)[0]!.key,
    move: 'leave' as const,
    file: 'weather.mid',
  };
  const started = startScore('Brought in', groundOfFile(file, choice.key, style.id), style);
  const blank = { ...started, parts: [], sections: [], order: [] };
  return importInto(blank, file, chordsOfFile(file, choice.lines, choice.key), choice, newId);
};
const takesOf = ({ takes }: ReturnType<typeof asSong>) => Object.fromEntries(takes.map((take) => [take.id, take]));
const heardOf = (song: ReturnType<typeof asSong>) => heardNotes(song.score, takesOf(song));

describe('what lines of a file sound on', () => {
  it('is of the kind that each program names', () => {
    const familyOf = (program: number): string => instrumentFor(program, false).id;
    expect([29, 30].map(familyOf)).toEqual(['driven-guitar', 'driven-guitar']);
    expect([0, 24, 33, 40, 56, 65, 73].map(familyOf)).toEqual([
      'grand-piano',
      'nylon-guitar',
      'fingered-bass',
      'violin',
      'trumpet',
      'alto-saxophone',
      'flute',
    ]);
    for (let program = 0; program < 128; program++) {
      const exact = INSTRUMENTS.find((instrument) => instrument.family !== 'drums' && instrument.program === program);
      const found = instrumentFor(program, false);
      if (exact) expect(found).toBe(exact);
      expect(found.family).not.toBe('drums');
      // Basses stay basses, and nothing else becomes one but leads and noises that are meant low.
      if (program >= 32 && program < 40) expect(found.family).toBe('basses');
      if (program < 32 || (program >= 40 && program < 80)) expect(found.family).not.toBe('basses');
    }
    expect([0, 8, 25, 40].map((program) => instrumentFor(program, true).id)).toEqual([
      'standard-kit',
      'standard-kit',
      'electronic-kit',
      'brush-kit',
    ]);
  });

  it('is said in whichever track, and drums without a kit are percussion', () => {
    const file = fileOf(
      [{ at: 0, kind: 'program', channel: 0, program: 73 }],
      steady(4),
      Array.from({ length: 16 }, (_, beat) => note(beat * 480, 64, 100, 9)).flat(),
    );
    expect(file.lines.map(({ instrument, role }) => [instrument, role])).toEqual([
      ['flute', 'melody'],
      ['standard-kit', 'percussion'],
    ]);
  });

  it('tells arpeggios from melodies, and believes names', () => {
    const broken = Array.from({ length: 64 }, (_, index) =>
      note(index * 240, [60, 64, 67, 72][index % 4]!, 200),
    ).flat();
    const tune = Array.from({ length: 32 }, (_, index) =>
      note(index * 480 - (index % 3 === 1 ? 120 : 0), 60 + ((index * 5) % 7), 300),
    ).flat();
    const named = (events: readonly MidiEvent[], name: string): MidiEvent[] => [
      { at: 0, kind: 'name', text: name },
      ...events,
    ];
    const roles = (...tracks: MidiEvent[][]) => fileOf([], ...tracks).lines.map(({ role }) => role);
    expect(roles(broken, tune)).toEqual(['arpeggio', 'melody']);
    expect(roles(named(broken, 'Lead vocal'), named(tune, 'Counter melody'))).toEqual(['melody', 'counter']);
  });
});

describe('how lines of a file stand in the mix', () => {
  it('is kept: level, pan and tone where the music begins, and every move after that', () => {
    const file = fileOf(
      [],
      [
        controller(0, 7, 0),
        controller(100, 7, 100),
        controller(0, 10, 127),
        controller(0, 91, 64),
        ...steady(4, 480),
        controller(2 * BAR, 7, 50),
      ],
    );
    expect(file.lines[0]).toMatchObject({ level: 79, pan: 100, tone: { room: 50 } });
    const song = asSong(file);
    const [part] = song.score.parts;
    expect(part).toMatchObject({ level: 79, pan: 100, tone: { room: 50 } });
    const moves = song.score.order[0]!.moves?.[part!.id]?.level;
    expect(moves?.at(-1)).toEqual({ at: 2 * BAR - file.sections[0]!.start, value: 39 });
  });

  it('multiplies a swell that never changes into the level, and keeps one that does', () => {
    const file = fileOf(
      [],
      [controller(0, 11, 64), ...steady(4)],
      [controller(0, 11, 64), controller(700, 11, 100), ...steady(4)],
    );
    expect(file.lines.map(({ level }) => level)).toEqual([50, undefined]);
    expect(file.lines[1]!.notes.some(({ swell }) => swell !== undefined)).toBe(true);
  });

  it('lets notes ring while the pedal is down, until their key is struck again', () => {
    const file = fileOf(
      [],
      [
        controller(0, 64, 127),
        ...note(0, 60, 200),
        ...note(480, 64, 200),
        ...note(960, 60, 200),
        controller(1440, 64, 0),
        ...steady(4, BAR),
      ],
    );
    expect(file.lines[0]!.notes.slice(0, 3).map(({ duration, held }) => [duration, held])).toEqual([
      [960, 200],
      [960, 200],
      [480, 200],
    ]);
  });
});

describe('the bars of a file', () => {
  const counted = (file: ImportFile) => file.sections.map(({ start, bars }) => [start, bars]);

  it('begin after a pick-up, which leads into the first section', () => {
    for (const [head, from] of [
      [[metre(0, 1), metre(480, 4)], 480],
      [[metre(0, 4)], BAR],
    ] as const) {
      const file = fileOf(head, [...note(from - 480, 67), ...steady(8, from)]);
      expect(counted(file)).toEqual([[from, 8]]);
      const [take] = asSong(file).takes;
      expect(take?.of === 'part' && take.notes[0]!.start).toBe(-480);
    }
  });

  it('are put where they are heard when a pick-up shifted them, and left alone otherwise', () => {
    const chords = [
      [48, 60, 64, 67],
      [41, 57, 60, 65],
      [43, 59, 62, 67],
      [45, 57, 60, 64],
    ];
    for (const shift of [0, 480, 960, 1440]) {
      const events = Array.from({ length: 16 }, (_, bar) =>
        chords[bar % 4]!.flatMap((pitch) => note(shift + bar * BAR, pitch, 1800)),
      ).flat();
      const file = fileOf([metre(0, 4)], [...(shift > 0 ? note(0, 67, 300) : []), ...events]);
      expect(file.sections[0]!.start).toBe(shift);
    }
  });

  it('hold what is struck a hair before them, and leave no bar for what rings on a little', () => {
    const file = fileOf(
      [metre(0, 4), marker(0, 'Verse'), marker(4 * BAR, 'Chorus')],
      [
        ...steady(4).filter(({ at }) => at < 4 * BAR - 480),
        ...note(4 * BAR - 20, 72, 900),
        ...steady(4, 4 * BAR + 480).filter(({ at }) => at < 8 * BAR),
        ...note(8 * BAR - 480, 60, 500),
      ],
    );
    expect(counted(file)).toEqual([
      [0, 4],
      [4 * BAR, 4],
    ]);
    const song = asSong(file);
    const chorus = song.score.sections[1]!.id;
    const first = song.takes.find((take) => take.section === chorus && take.of === 'part');
    expect(first?.of === 'part' && first.notes[0]).toMatchObject({ start: -20, pitch: 72 });
    expect(heardOf(song).map(({ start }) => start)).toEqual(file.lines[0]!.notes.map(({ start }) => start));
  });

  it('are none where a file is silent before its music begins, unless a marker names them', () => {
    expect(counted(fileOf([metre(0, 4)], steady(4, 2 * BAR)))).toEqual([[2 * BAR, 4]]);
    expect(counted(fileOf([metre(0, 4), marker(0, 'Silence')], steady(4, 2 * BAR)))).toEqual([[0, 6]]);
  });
});

describe('what a file says of itself', () => {
  const signature = (at: number, accidentals: number, minor = false): MidiEvent => ({
    at,
    kind: 'key',
    accidentals,
    minor,
  });

  /** A line over so many bars that leaves no doubt of its major key. */
  const scaleOn = (tonic: number, bars = 16): MidiEvent[] =>
    Array.from({ length: bars * 4 }, (_, index) =>
      note(index * 480, tonic + [0, 4, 7, 12, 5, 9, 11, 12][index % 8]!),
    ).flat();

  it('is believed of its keys, a key a section', () => {
    const file = fileOf(
      [signature(0, -3), signature(4 * BAR, 2)],
      [...scaleOn(63, 4), ...scaleOn(62, 4).map((event) => ({ ...event, at: event.at + 4 * BAR }))],
    );
    expect(file.sections.map(({ start, key }) => [start, key])).toEqual([
      [0, { tonic: -3, scale: 'major' }],
      [4 * BAR, { tonic: 2, scale: 'major' }],
    ]);
    expect(keysOfFile(file)[0]).toEqual({ key: { tonic: -3, scale: 'major' }, confidence: 100 });
    const song = asSong(file);
    expect(song.score.sections.map(({ ground }) => ground.tonic)).toEqual([undefined, 2]);
    const told = fileOf([{ at: 0, kind: 'text', text: 'Key: D Fog (1 b2 3 5 b7)' }, signature(0, 0)], steady(4));
    expect(told.sections[0]!.key).toEqual({ tonic: 2, scale: 'own:Fog: 1 b2 3 5 b7' });
  });

  it('is not believed where the notes speak clearly against what many programs write unasked', () => {
    expect(fileOf([signature(0, 0)], scaleOn(60)).sections[0]!.key).toEqual({ tonic: 0, scale: 'major' });
    expect(fileOf([signature(0, 0)], scaleOn(66)).sections[0]!.key).toBeNull();
  });

  it('keeps the tempos on the way: steps and lines', () => {
    const tempo = (at: number, bpm: number): MidiEvent => ({ at, kind: 'tempo', bpm });
    const slowing = Array.from({ length: 16 }, (_, index) => tempo(3 * BAR + index * 120, 100 - 2 * index));
    const file = fileOf([tempo(0, 120), tempo(BAR, 100), ...slowing], steady(4));
    const [section] = file.sections;
    expect(section).toMatchObject({ tempo: 120 });
    const { tempos } = asSong(file).score.sections[0]!;
    const at = (tick: number) => tempos!.findLast((point) => point.at <= tick)!.value * 1.2;
    expect(at(BAR - 2)).toBeCloseTo(120, 0);
    expect(at(BAR)).toBeCloseTo(100, 0);
    expect(tempos!.at(-1)!.value * 1.2).toBeCloseTo(70, 0);
    expect(tempos!.length).toBeLessThanOrEqual(8);
  });

  it('takes chords that its markers name as chords, and all others as sections', () => {
    const names = ['Am', 'F', 'C/E', 'G7sus4', 'N.C.', 'Bbmaj7'];
    const chords = names.map((text, bar) => marker(bar * BAR, text));
    const file = fileOf([metre(0, 4), ...chords, marker(0, 'Verse'), marker(4 * BAR, 'Refrain')], steady(8));
    expect(file.sections.map(({ name }) => name)).toEqual(['Verse', 'Refrain']);
    expect(file.chords).toHaveLength(6);
    const found = chordsOfFile(file, [file.lines[0]!.id], { tonic: 0, scale: 'major' });
    expect(found[0]!.map(({ start, duration }) => [start, duration])).toEqual(
      [0, 1, 2, 3].map((bar) => [bar * BAR, BAR]),
    );
    expect(found[0]!.map(({ chord }) => chord && pitchClassOf(chord.root))).toEqual([9, 5, 0, 7]);
    expect(found[1]!.map(({ chord }) => chord && pitchClassOf(chord.root))).toEqual([null, 10]);
    const letters = fileOf(
      [metre(0, 4), ...['A', 'B', 'C', 'D'].map((text, index) => marker(index * 4 * BAR, text))],
      steady(16),
    );
    expect(letters.sections.map(({ name }) => name)).toEqual(['A', 'B', 'C', 'D']);
  });

  it('has no chord where nothing but drums sounds for a bar', () => {
    const file = fileOf(
      [metre(0, 4), marker(0, 'Verse')],
      [48, 52, 55].flatMap((pitch) => note(0, pitch, BAR)),
      [48, 53, 57].flatMap((pitch) => note(3 * BAR, pitch, BAR)),
      Array.from({ length: 16 }, (_, beat) => note(beat * 480, 36, 100, 9)).flat(),
    );
    const [chords] = chordsOfFile(
      file,
      file.lines.map(({ id }) => id),
      { tonic: 0, scale: 'major' },
    );
    expect(chords!.map(({ start, chord }) => [start, chord ? pitchClassOf(chord.root) : null])).toEqual([
      [0, 0],
      [BAR, null],
      [3 * BAR, 5],
    ]);
  });
});

describe('what comes in', () => {
  it('sounds as the file does, whatever its bars, keys and markers', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 12 * BAR }), { minLength: 1, maxLength: 30 }),
        fc.uniqueArray(fc.integer({ min: 0, max: 12 }), { maxLength: 3 }),
        fc.constantFrom(3, 4, 5),
        (starts, marks, beats) => {
          const inOrder = starts.sort((a, b) => a - b);
          const file = fileOf(
            [metre(0, beats), ...marks.map((mark) => marker(mark * 480 * beats, `Part ${mark}`))],
            inOrder.flatMap((at, index) => note(at, 40 + index, 300)),
          );
          const heard = heardOf(asSong(file));
          const from = file.sections[0]!.start;
          expect(heard.map(({ start, pitch }) => [start + from, pitch]).sort((a, b) => a[1]! - b[1]!)).toEqual(
            inOrder.map((at, index) => [at, 40 + index]),
          );
        },
      ),
      { numRuns: 150 },
    );
  });
});
