import * as fc from 'fast-check';
import { unzipSync } from 'fflate';
import type { Music } from '../../song/resolve';
import type { PartTake } from '../../song/schema';
import { scoreWith } from '../../testing/scores';
import { heardNotes, musicOf } from '../../testing/sounding';
import { METRES } from '../../theory/metre';
import { zipFiles } from './archive';
import { deliverAll, deliverLines, deliverOneTrack, deliverSong, type Delivery } from './deliver';
import { deliverSection, deliverTake } from './deliver-piece';
import { readMidi, type ReadMidi } from '../midi/midi-read';
import { writeMidi } from '../midi/midi-write';
import { chosenId } from '../../song/section';

const read = (bytes: Uint8Array): ReadMidi => {
  const reading = readMidi(bytes);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
};

const inOneTrack = (music: Music): Delivery => {
  const file = deliverOneTrack(music);
  if (!file.ok) throw new Error(file.reason);
  return file.delivery;
};

describe('delivered MIDI', () => {
  it('reads back with its tempo, metre, key, names, markers and every note as it sounds', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.constantFrom(...METRES),
        fc.integer({ min: 40, max: 200 }),
        fc.constantFrom(0, 30),
        (seed, metre, tempo, swing) => {
          const { score, takes } = scoreWith(seed, swing, { metre, tempo, tonic: -3, scale: 'mixolydian' });
          const file = read(deliverSong(musicOf(score, takes)).bytes);
          expect(file.tempo).toBeCloseTo(tempo, 2);
          expect(file.metre).toEqual({ beats: metre.beats, unit: metre.unit });
          expect(file.key).toEqual({ accidentals: -4, minor: false });
          expect(file.markers.map(({ text }) => text)).toEqual(['Verse', 'Chorus', 'Verse']);
          expect(file.tracks.map(({ name }) => name)).toEqual(['Fair weather', ...score.parts.map(({ name }) => name)]);
          const sounding = heardNotes(score, takes);
          score.parts.forEach((part, index) => {
            const expected = sounding
              .filter((note) => note.part === part.id)
              .map(({ start, end, pitch, velocity }) => ({ start, duration: end - start, pitch, velocity }));
            expect(file.tracks[index + 1]!.notes.map(({ channel: _channel, ...note }) => note)).toEqual(expected);
          });
        },
      ),
      { numRuns: 25 },
    );
  });

  it('leaves quiet parts out of the song', () => {
    const { score, takes } = scoreWith(1, 0);
    const quiet = { ...score, parts: score.parts.map((part, index) => ({ ...part, muted: index === 0 })) };
    expect(read(deliverSong(musicOf(quiet, takes)).bytes).tracks).toHaveLength(score.parts.length);
    expect(deliverAll(musicOf(quiet, takes))).toHaveLength(score.parts.length);
  });

  it('puts everything in one track for type 0', () => {
    const { score, takes } = scoreWith(5, 0);
    const music = musicOf(score, takes);
    const [one, many] = [read(inOneTrack(music).bytes), read(deliverSong(music).bytes)];
    expect(one.type).toBe(0);
    expect(one.tracks).toHaveLength(1);
    expect(one.tracks[0]!.notes).toHaveLength(many.tracks.reduce((total, { notes }) => total + notes.length, 0));
  });

  it('hands over parts, sections and takes on their own', () => {
    const { score, takes } = scoreWith(6, 0);
    const take = Object.values(takes).find((candidate) => candidate.of === 'part')!;
    expect(read(deliverTake(musicOf(score, takes), take)!.bytes).tracks[1]!.notes.map(({ pitch }) => pitch)).toEqual(
      [...take.notes].sort((a, b) => a.start - b.start || a.pitch - b.pitch).map(({ pitch }) => pitch),
    );
    // What is dragged out is what sounds, hands and swing included.
    const loose = {
      ...score,
      ground: { ...score.ground, swing: 60 },
      parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 70 } })),
    };
    const chosen = chosenId(loose.sections[0]!, loose.parts[0]!.id)!;
    const alone = { ...loose, order: loose.order.slice(0, 1) };
    const file = deliverTake(musicOf(loose, takes), takes[chosen] as PartTake)!;
    const sounding = heardNotes(alone, takes).filter(({ part }) => part === loose.parts[0]!.id);
    expect(read(file.bytes).tracks[1]!.notes.map(({ start, pitch, velocity }) => [start, pitch, velocity])).toEqual(
      sounding.map(({ start, pitch, velocity }) => [start, pitch, velocity]),
    );
    expect(read(deliverLines(musicOf(score, takes))[3]!.bytes).tracks).toHaveLength(2);
    expect(read(deliverSection(musicOf(score, takes), 'section-2')!.bytes).markers.map(({ text }) => text)).toEqual([
      'Chorus',
    ]);
    expect(deliverSection(musicOf(score, takes), 'nowhere')).toBeNull();
  });

  it('packs a zip that unpacks to the same files', () => {
    const { score, takes } = scoreWith(7, 0);
    const files = deliverAll(musicOf(score, takes));
    const unpacked = unzipSync(zipFiles(files));
    expect(Object.keys(unpacked)).toEqual(files.map(({ name }) => name));
    for (const { name, bytes } of files) expect([...unpacked[name]!]).toEqual([...bytes]);
  });

  it('carries names in any script, out and in', () => {
    const { score, takes } = scoreWith(3, 0);
    const title = '嵐の夜 – Буря über dem Grat 🌩';
    const named = {
      ...score,
      title,
      parts: score.parts.map((part, index) => ({ ...part, name: `Флейта ${index}` })),
      sections: score.sections.map((section, index) => ({ ...section, name: `節 ${index}` })),
    };
    const file = read(deliverSong(musicOf(named, takes)).bytes);
    expect(file.tracks.map(({ name }) => name)).toEqual([title, ...named.parts.map(({ name }) => name)]);
    expect(file.markers.map(({ text }) => text)).toEqual(['節 0', '節 1', '節 0']);
    const old = writeMidi({
      type: 1,
      resolution: 96,
      tracks: [{ events: [{ at: 0, kind: 'name', text: 'plain' }], end: 0 }],
    });
    old.set(
      [0x46, 0xf6, 0x68, 0x6e, 0x21],
      [...old].findIndex((byte, at) => byte === 0x70 && old[at + 1] === 0x6c),
    );
    expect(read(old).tracks[0]!.name).toBe('Föhn!');
  });
});
