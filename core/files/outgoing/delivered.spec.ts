import * as fc from 'fast-check';
import { layOut, type Music } from '../../song/resolve';
import { isDrumRole } from '../../song/roles';
import { HARMONY } from '../../song/schema';
import { editedTake } from '../../song/take';
import { songCourse, tempoOf } from '../../sounding/course';
import { perform, pickUpOf, type NoteEvent, type Performance } from '../../sounding/performance';
import { tempoMap } from '../../sounding/tempo-map';
import { scoreWith } from '../../testing/scores';
import { songOf, twists } from '../../testing/songs';
import { mixControllers, musicOf } from '../../testing/sounding';
import { barTicks } from '../../theory/metre';
import { deliverChords, deliverLines, deliverOneTrack, deliverSong } from './deliver';
import { deliverSection } from './deliver-piece';
import { addressesOf } from '../midi/midi-channels';
import { toneControllers } from '../midi/midi-expression';
import { readMidi, type ReadMidi } from '../midi/midi-read';
import { chosenId, withChoice } from '../../song/section';

const read = (bytes: Uint8Array): ReadMidi => {
  const reading = readMidi(bytes);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
};

/** What a reader of the file hears of each track, by its own tempos: seconds from the start, rounded to half a tick. */
function heardIn(file: ReadMidi): string[][] {
  const { secondsAt } = tempoMap(
    file.tempos.map(({ at, bpm }, index) => ({
      start: at,
      end: file.tempos[index + 1]?.at ?? Number.MAX_SAFE_INTEGER,
      tempo: bpm,
    })),
  );
  return file.tracks.map(({ notes }) =>
    notes
      .map(({ start, duration, pitch, velocity }) => {
        const [on, off] = [secondsAt(start), secondsAt(start + duration)];
        return `${on.toFixed(3)} ${off.toFixed(3)} ${pitch} ${velocity}`;
      })
      .sort(),
  );
}

/** The bar that a file has before bar 1. */
function leadOf(music: Music): number {
  const course = songCourse(music.score);
  const early = pickUpOf(music, course, ({ muted }) => !muted) > 60;
  return early ? barTicks(course[0]!.ground.metre) : 0;
}

function performed(music: Music, { events }: Pick<Performance, 'events'>, line: string): string[] {
  const course = songCourse(music.score);
  const { secondsAt } = tempoOf(course, music.score);
  const lead = leadOf(music);
  const before = secondsAt(0) - secondsAt(-lead);
  return events
    .filter((event): event is NoteEvent => event.kind === 'note' && event.voice === line)
    .map(({ at, end, pitch, velocity }) => {
      const start = Math.max(-lead, at);
      const [on, off] = [secondsAt(start) + before, secondsAt(Math.max(start + 1, end)) + before];
      return `${on.toFixed(3)} ${off.toFixed(3)} ${pitch} ${velocity}`;
    })
    .sort();
}

/** Two lists of moments that differ by rounding only. */
function expectAlike(found: readonly string[], expected: readonly string[]): void {
  expect(found.map((text) => text.split(' ').slice(2))).toEqual(expected.map((text) => text.split(' ').slice(2)));
  found.forEach((text, index) => {
    const [on, off] = text.split(' ').map(Number);
    const [wantedOn, wantedOff] = expected[index]!.split(' ').map(Number);
    expect(Math.abs(on! - wantedOn!) + Math.abs(off! - wantedOff!)).toBeLessThan(0.004);
  });
}

/** In the order of what is struck, so that rounding cannot change it. */
const byStroke = (list: readonly string[]): string[] =>
  [...list].sort((a, b) => {
    const [x, y] = [a.split(' ').map(Number), b.split(' ').map(Number)];
    return x[2]! - y[2]! || x[0]! - y[0]!;
  });

describe('what is handed over', () => {
  it('is what is performed, second by second, on every track, with every level, pan, tone and program', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const music = songOf(twist);
        const { score } = music;
        const performance = perform({ music, course: songCourse(score) });
        const audible = performance.setup.filter(({ line, muted }) => line !== HARMONY && !muted);
        const { bytes } = deliverSong(music);
        const file = read(bytes);
        const heard = heardIn(file);
        audible.forEach((voice, index) => {
          expectAlike(byStroke(heard[index + 1]!), byStroke(performed(music, performance, voice.id)));
          const track = file.tracks[index + 1]!;
          expect(track.program).toBe(voice.instrument.program);
          const tone = toneControllers(voice.tone).map(({ controller, value }) => [controller, value]);
          expect(mixControllers(track.controllers)).toEqual({
            7: voice.level,
            10: voice.pan,
            ...Object.fromEntries(tone),
          });
        });
        // With what doubles a part in its own track, all the same strokes sound.
        const together = heardIn(read(deliverSong(music, { layersTogether: true }).bytes));
        expect(together.length).toBe(score.parts.filter(({ muted }) => !muted).length + 1);
        expect(together.flat().sort()).toEqual(heard.flat().sort());
        // With every drum by itself too, each track on the channel of its kit, and struck on one key only.
        const apart = read(deliverSong(music, { drumsApart: true }).bytes);
        expect(heardIn(apart).flat().sort()).toEqual(heard.flat().sort());
        for (const track of apart.tracks.filter(({ notes }) => notes[0]?.channel === 9))
          expect(new Set(track.notes.map(({ pitch }) => pitch)).size).toBe(1);
        const lines = deliverLines(music).map((line) => heardIn(read(line.bytes))[1]);
        expect(lines).toEqual(heard.slice(1));
        expect(file.markers.map(({ at }) => at)).toEqual(layOut(score).map(({ start }) => start + leadOf(music)));
      }),
      { numRuns: 40 },
    );
  });

  it('strikes the chord line as it is heard, chances included', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const music = songOf(twist);
        const chordLine = perform({
          music,
          course: songCourse(music.score),
          chordLine: ({ chordSetting }) => chordSetting,
          only: (line) => line === HARMONY,
        });
        const expected = performed(music, chordLine, HARMONY);
        const file = deliverChords(music);
        expectAlike(byStroke(file ? heardIn(read(file.bytes))[1]! : []), byStroke(expected));
      }),
      { numRuns: 40 },
    );
  });

  it('loses no stroke in one track: every one has a start and an end of its own on its key', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const music = songOf(twist);
        const file = deliverOneTrack(music);
        const song = deliverSong(music);
        if (!file.ok) throw new Error(file.reason);
        expect(file.delivery.notes).toBe(song.notes);
        const open = new Map<string, number>();
        const notes = [...read(file.delivery.bytes).tracks[0]!.notes].sort((a, b) => a.start - b.start);
        expect(notes).toHaveLength(song.notes);
        for (const { channel, pitch, start, duration } of notes) {
          expect(start).toBeGreaterThanOrEqual(open.get(`${channel} ${pitch}`) ?? 0);
          open.set(`${channel} ${pitch}`, start + duration);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('puts a bar before bar 1 where the music begins with a pick-up, in all files alike, and says so', () => {
    const { score, takes } = scoreWith(1, 0);
    const part = score.parts[0]!;
    const section = score.sections[0]!;
    const take = takes[chosenId(section, part.id)!]!;
    if (take.of !== 'part') throw new Error('no part');
    const led = editedTake('led', take, [{ start: -480, duration: 400, pitch: 67, velocity: 80 }, ...take.notes]);
    const song = { ...score, sections: [withChoice(section, part.id, 'led'), score.sections[1]!] };
    const music = musicOf(song, { ...takes, led });
    const delivery = deliverSong(music);
    expect(delivery.remarks).toEqual([expect.stringContaining('pick-up')]);
    const file = read(delivery.bytes);
    expect(file.markers.map(({ at }) => at)).toEqual([1920, 5760, 9600]);
    expect(file.metres).toHaveLength(1);
    expect(Math.floor(Math.min(...file.tracks[1]!.notes.map(({ start }) => start)) / 480)).toBe(3);
    for (const line of deliverLines(music)) expect(read(line.bytes).markers[0]!.at).toBe(1920);
    expect(read(deliverChords(music)!.bytes).markers[0]!.at).toBe(1920);
    expect(deliverSection(music, section.id)!.remarks).toHaveLength(1);
    expect(deliverSection(music, 'section-2')!.remarks).toEqual([]);
    const quiet = { ...song, parts: song.parts.map((own) => ({ ...own, muted: own.id === part.id })) };
    expect(deliverSong({ ...music, score: quiet }).remarks).toEqual([]);
  });

  it('gives every line a channel of its own, on a second port where one has no room, and says so', () => {
    const { score, takes } = scoreWith(1, 0);
    const melody = score.parts[0]!;
    const many = {
      ...score,
      parts: Array.from({ length: 24 }, (_, index) => ({
        ...melody,
        id: `part-${index}`,
        name: `Line ${index}`,
        instrument: index % 2 === 0 ? 'flute' : 'violin',
        role: index > 21 ? ('percussion' as const) : ('melody' as const),
      })),
    };
    const music = musicOf(many, takes);
    const { setup } = perform({ music, course: [] });
    const voices = setup.filter(({ id }) => id !== HARMONY);
    const addresses = [...addressesOf(voices).values()].map(({ port, channel }) => `${port}:${channel}`);
    expect(new Set(addresses).size).toBe(24);
    many.parts.forEach(({ role }, index) => expect(addresses[index]!.endsWith(':9')).toBe(isDrumRole(role)));
    expect(addresses.slice(0, 16)).toEqual([
      ...Array.from({ length: 16 }, (_, channel) => `0:${channel}`).filter((text) => text !== '0:9'),
      '1:0',
    ]);
    const delivery = deliverSong(music);
    expect(delivery.remarks).toEqual([expect.stringMatching(/further MIDI port.*Line 15.*Line 23/)]);
    const file = read(delivery.bytes);
    expect(file.tracks.slice(1).map(({ port }) => port)).toEqual([
      ...Array.from({ length: 15 }, () => 0),
      ...Array.from({ length: 7 }, () => 1),
      0,
      1,
    ]);
    // A line by itself has a port to itself.
    for (const line of deliverLines(music)) {
      expect(line.remarks).toEqual([]);
      expect(read(line.bytes).tracks[1]!.port).toBeNull();
    }
    const oneTrack = deliverOneTrack(music);
    expect(oneTrack.ok ? '' : oneTrack.reason).toContain('22 pitched lines');
    expect(read(deliverSong(musicOf(score, takes)).bytes).tracks.every(({ port }) => port === null)).toBe(true);
  });
});
