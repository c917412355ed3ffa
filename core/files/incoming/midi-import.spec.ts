import { scoreProblem } from '../../song/check';
import { openSong } from '../../song/song-file';
import { SONG_VERSION, type Song } from '../../song/schema';
import { layOut } from '../../song/resolve';
import { heardNotes, musicOf } from '../../testing/sounding';
import { startScore } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { scoreWith } from '../../testing/scores';
import { deliverSong } from '../outgoing/deliver';
import { chordsOfFile, importInto, importProblem, groundOfFile, keysOfFile, type ImportChoice } from './imported-song';
import { readImport } from './midi-import';
import { writeMidi } from '../midi/midi-write';

const { score, takes, song } = scoreWith(5, 0);
const bytes = deliverSong(musicOf(score, takes)).bytes;
let serial = 0;
const newId = (kind: string): string => `${kind}-new-${serial++}`;
const read = (data: Uint8Array) => {
  const reading = readImport(data);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
};
const choiceOf = (file: ReturnType<typeof read>, change: Partial<ImportChoice> = {}): ImportChoice => ({
  lines: file.lines.map(({ id }) => id),
  key: keysOfFile(file)[0]!.key,
  move: 'leave',
  file: 'weather.mid',
  ...change,
});
const bring = (into: typeof score, file: ReturnType<typeof read>, choice: ImportChoice) =>
  importInto(into, file, chordsOfFile(file, choice.lines, choice.key), choice, newId);
/** A style whose players sit far behind the beat: nothing of that may move what was played in a file. */
const late = STYLES.find(({ id }) => id === 'lo-fi')!;
const empty = (file: ReturnType<typeof read>, key = choiceOf(file).key) => ({
  ...startScore('Brought in', groundOfFile(file, key, late.id), late),
  parts: [],
  sections: [],
  order: [],
});

describe('bringing a MIDI file in', () => {
  it('finds lines, roles, instruments and sections', () => {
    const file = read(bytes);
    expect(file.lines.map(({ name, drums }) => [name, drums])).toEqual(
      score.parts.map(({ name, role }) => [name, role === 'drums']),
    );
    expect(file.lines.find(({ name }) => name === 'Bass')).toMatchObject({
      role: 'bass',
      instrument: score.parts.find(({ role }) => role === 'bass')!.instrument,
    });
    expect(file.sections.map(({ name, bars }) => [name, bars])).toEqual(
      layOut(score).map(({ section }) => [section.name, section.bars]),
    );
  });

  it('makes a song of its own that sounds as the file does', () => {
    const file = read(bytes);
    const imported = bring(empty(file), file, choiceOf(file));
    const made: Song = {
      ...song,
      version: SONG_VERSION,
      id: 'brought',
      score: imported.score,
      ledger: { takes: Object.fromEntries(imported.takes.map((take) => [take.id, take])), heard: [] },
      hearing: {},
    };
    expect(openSong(JSON.parse(JSON.stringify(made)))).toMatchObject({ ok: true, setAside: [] });
    const sounding = (from: typeof score, all: typeof takes) =>
      heardNotes(from, all)
        .map(({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`)
        .sort();
    expect(sounding(imported.score, made.ledger.takes)).toEqual(sounding(score, takes));
    // The verse that comes twice is one section played twice.
    expect(imported.score.order).toHaveLength(3);
    expect(imported.score.sections.every(({ harmony }) => harmony !== null)).toBe(true);
  });

  it('goes into the song that is there without touching it, its notes moved to the key or left', () => {
    const file = read(bytes);
    const into = { ...score, ground: { ...score.ground, tonic: 2 } };
    for (const move of ['leave', 'move the notes'] as const) {
      const imported = bring(into, file, choiceOf(file, { move, key: { tonic: 0, scale: 'major' } }));
      expect(imported.score.sections.slice(0, into.sections.length)).toEqual(into.sections);
      expect(imported.score.order.slice(0, into.order.length)).toEqual(into.order);
      const added = imported.score.sections.at(-1)!;
      expect(added.ground.tonic).toBe(move === 'leave' ? 0 : undefined);
      for (const take of imported.takes) expect(take.origin).toMatchObject({ how: 'imported', from: 'weather.mid' });
    }
    const [left, moved] = (['leave', 'move the notes'] as const).map((move) =>
      bring(into, file, choiceOf(file, { move, key: { tonic: 0, scale: 'major' } })).takes.flatMap((take) =>
        take.of === 'part' ? take.notes.map(({ pitch }) => pitch) : [],
      ),
    );
    const differences = new Set(moved!.map((pitch, index) => pitch - left![index]!));
    expect([...differences].sort()).toEqual([0, 2]);
  });

  it('puts lines into parts that are there already where that is asked', () => {
    const file = read(bytes);
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    const line = file.lines.find(({ role }) => role === 'bass')!;
    const imported = bring(score, file, choiceOf(file, { lines: [line.id], into: { [line.id]: bass.id } }));
    expect(imported.score.parts.map(({ id }) => id)).toEqual(score.parts.map(({ id }) => id));
    expect(imported.takes.filter((take) => take.of === 'part').every((take) => take.part === bass.id)).toBe(true);
  });

  it('takes only the lines that were picked', () => {
    const file = read(bytes);
    const imported = bring(empty(file), file, choiceOf(file, { lines: [file.lines[0]!.id] }));
    expect(imported.score.parts).toHaveLength(1);
  });

  it('cuts music without markers into sections, keeps changes of metre, and refuses files without notes', () => {
    const note = (at: number) => [
      { at, kind: 'on' as const, channel: 0, pitch: 60, velocity: 90 },
      { at: at + 100, kind: 'off' as const, channel: 0, pitch: 60, velocity: 0 },
    ];
    const plain = read(
      writeMidi({
        type: 0,
        resolution: 96,
        tracks: [{ events: Array.from({ length: 40 }, (_, bar) => note(bar * 384)).flat(), end: 40 * 384 }],
      }),
    );
    expect(plain.sections.map(({ bars }) => bars)).toEqual([16, 16, 8]);
    const mixed = read(
      writeMidi({
        type: 1,
        resolution: 480,
        tracks: [
          {
            events: [
              { at: 0, kind: 'metre', beats: 4, unit: 4 },
              { at: 3840, kind: 'metre', beats: 3, unit: 4 },
            ],
            end: 9000,
          },
          { events: [...note(0), ...note(6000)], end: 9000 },
        ],
      }),
    );
    expect(mixed.sections.map(({ metre, bars, start }) => [metre.beats, bars, start])).toEqual([
      [4, 2, 0],
      [3, 2, 3840],
    ]);
    expect(readImport(writeMidi({ type: 1, resolution: 96, tracks: [{ events: [], end: 0 }] }))).toMatchObject({
      ok: false,
    });
  });

  it('reads a file in a RIFF wrapper and skips chunks that it does not know', () => {
    const wrap = new Uint8Array(20 + bytes.length);
    const text = (at: number, value: string) => wrap.set(new TextEncoder().encode(value), at);
    text(0, 'RIFF');
    text(8, 'RMID');
    text(12, 'data');
    new DataView(wrap.buffer).setUint32(4, bytes.length + 12, true);
    new DataView(wrap.buffer).setUint32(16, bytes.length, true);
    wrap.set(bytes, 20);
    expect(read(wrap).lines).toEqual(read(bytes).lines);
    const alien = new Uint8Array(bytes.length + 12);
    alien.set(bytes.subarray(0, 14));
    alien.set(new TextEncoder().encode('XFIH'), 14);
    new DataView(alien.buffer).setUint32(18, 4);
    alien.set(bytes.subarray(14), 26);
    expect(read(alien).lines).toEqual(read(bytes).lines);
  });

  describe('that holds more than a song', () => {
    const BAR = 1920;
    const tone = (at: number, channel: number, pitch: number) => [
      { at, kind: 'on' as const, channel, pitch, velocity: 90 },
      { at: at + 400, kind: 'off' as const, channel, pitch, velocity: 0 },
    ];
    /** Tracks that each strike every bar, no two bars alike, with a marker over each bar. */
    const large = (tracks: number, bars: number, markers: number, metres = false) => {
      const end = bars * BAR;
      const marks = Array.from({ length: markers }, (_, index) => ({
        at: index * BAR,
        kind: 'marker' as const,
        text: 'The wind turns and the needle falls, for the second time today',
      }));
      const changes = metres
        ? Array.from({ length: bars }, (_, index) => ({
            at: index * BAR,
            kind: 'metre' as const,
            beats: index % 2 === 0 ? 4 : 8,
            unit: index % 2 === 0 ? 4 : 8,
          }))
        : [];
      const lines = Array.from({ length: tracks }, (_, track) => ({
        events: [
          {
            at: 0,
            kind: 'name' as const,
            text: `A line with a name that is far longer than any part of a song can bear, number ${track}`,
          },
          ...Array.from({ length: bars }, (__, bar) =>
            tone(bar * BAR, track % 9, 40 + ((bar * 7 + track) % 60)),
          ).flat(),
        ],
        end,
      }));
      return read(writeMidi({ type: 1, resolution: 480, tracks: [{ events: [...changes, ...marks], end }, ...lines] }));
    };
    const opens = (imported: ReturnType<typeof importInto>): void => {
      const made: Song = {
        ...song,
        id: 'brought',
        score: imported.score,
        ledger: {
          takes: { ...takes, ...Object.fromEntries(imported.takes.map((take) => [take.id, take])) },
          heard: [],
        },
      };
      expect(scoreProblem(made.score, made.ledger.takes)).toBeNull();
      expect(openSong(JSON.parse(JSON.stringify(made)))).toMatchObject({ ok: true, setAside: [] });
    };
    /** Notes of the places that came in, each as often as it is played. */
    const notesIn = (imported: ReturnType<typeof importInto>, before: number): number =>
      imported.score.order
        .slice(before)
        .reduce(
          (total, place) =>
            total +
            imported.takes.reduce(
              (sum, take) => sum + (take.of === 'part' && take.section === place.section ? take.notes.length : 0),
              0,
            ),
          0,
        );

    it('is told with what to do where there are too many lines', () => {
      const file = large(30, 2, 0);
      expect(importProblem(empty(file), file, choiceOf(file))).toMatch(
        /up to 24 parts; 30 would come. Pick at most 24 lines/,
      );
      expect(importProblem(score, file, choiceOf(file))).toMatch(
        /5 are there; 30 would come. Pick at most 19 lines, or let some go into parts/,
      );
      const some = choiceOf(file, {
        lines: file.lines.slice(0, 20).map(({ id }) => id),
        into: { [file.lines[0]!.id]: score.parts[0]!.id },
      });
      expect(importProblem(score, file, some)).toBeNull();
      opens(bring(score, file, some));
    });

    it('joins short neighbours where there are too many sections, and loses no note', () => {
      for (const [bars, markers] of [
        [70, 70],
        [300, 300],
      ] as const) {
        const file = large(2, bars, markers);
        const choice = choiceOf(file);
        for (const into of [empty(file), score]) {
          expect(importProblem(into, file, choice)).toBeNull();
          const imported = bring(into, file, choice);
          expect(imported.score.sections.length).toBeLessThanOrEqual(64);
          expect(
            layOut({ ...imported.score, order: imported.score.order.slice(into.order.length) }).reduce(
              (total, { section }) => total + section.bars,
              0,
            ),
          ).toBe(bars);
          expect(notesIn(imported, into.order.length)).toBe(2 * bars);
          opens(imported);
        }
      }
    });

    it('makes one section of stretches that sound alike, whatever they are called', () => {
      const events = Array.from({ length: 90 }, (_, bar) => [
        { at: bar * BAR, kind: 'marker' as const, text: `Gust ${bar}` },
        ...tone(bar * BAR, 0, 60 + (bar % 3)),
      ]).flat();
      const file = read(writeMidi({ type: 0, resolution: 480, tracks: [{ events, end: 90 * BAR }] }));
      const imported = bring(empty(file), file, choiceOf(file));
      expect(imported.score.sections).toHaveLength(3);
      expect(imported.score.order).toHaveLength(90);
      opens(imported);
    });

    it('is refused in words where its metre changes too often', () => {
      const file = large(1, 140, 0, true);
      expect(importProblem(empty(file), file, choiceOf(file))).toMatch(/changes its metre 139 times/);
      const [section] = score.sections;
      const full = { ...score, sections: Array.from({ length: 64 }, (_, index) => ({ ...section!, id: `s${index}` })) };
      const plain = large(1, 4, 0, false);
      expect(importProblem(full, plain, choiceOf(plain))).toMatch(/this one is full.*song of its own/);
    });
  });
});
