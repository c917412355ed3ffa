import * as fc from 'fast-check';
import { barOf } from '../../song/ground';
import { layOut, takesOf, type Music, type Placed } from '../../song/resolve';
import type { PartTake, Score } from '../../song/schema';
import { chosenId, withChoice } from '../../song/section';
import { editedTake } from '../../song/take';
import { spanOf } from '../../sounding/course';
import { rounds } from '../../testing/rounds';
import { scoreWith } from '../../testing/scores';
import { songOf, twists } from '../../testing/songs';
import { musicOf } from '../../testing/sounding';
import { readMidi, type ReadMidi } from '../midi/midi-read';
import { deliverSong, type Delivery } from './deliver';
import { handOver, musicFor, type HandedWhat, type HandOverWish } from './hand-over';

function read(bytes: Uint8Array): ReadMidi {
  const reading = readMidi(bytes);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
}
const wish = (what: HandedWhat): HandOverWish => ({
  what,
  human: true,
  apart: false,
  layersTogether: false,
  drumsApart: false,
  resolution: 480,
  drums: 'general',
});
const { score, takes } = scoreWith(1, 0);
const melody = score.parts[0]!;
const verse = score.sections[0]!;

describe('a stretch of the song as files', () => {
  it('holds what the song holds there, from its beginning on', () => {
    const bars = (of: Score, { remarks }: Delivery, { section }: Placed): number =>
      remarks.some((remark) => remark.includes('before bar 1')) ? barOf(of, section) : 0;
    fc.assert(
      fc.property(twists, fc.nat(), fc.nat(), (twist, which, bar) => {
        const of: Music = songOf(twist);
        const placed = layOut(of.score);
        const place = placed[which % placed.length]!;
        const first = bar % place.section.bars;
        const span = spanOf(of.score, place, { from: first, to: Math.min(place.section.bars, first + 3) });
        const [whole, piece] = [deliverSong(of), deliverSong(of, { stretch: { span, rounds: 1, name: 'Piece' } })];
        // A bar may stand before, for a pick-up.
        const [before, after] = [bars(of.score, whole, placed[0]!), bars(of.score, piece, place)];
        const [song, part] = [read(whole.bytes), read(piece.bytes)];
        expect(part.tracks).toHaveLength(song.tracks.length);
        // What begins well inside: at its beginning stands what rings in, and at its end the pick-up of what follows.
        const last = span.to - span.from - barOf(of.score, place.section);
        const inside = (at: number): boolean => at >= 120 && at < last;
        song.tracks.forEach((track, index) => {
          const wanted = track.notes
            .map(({ start, pitch, velocity }) => [start - before - span.from, pitch, velocity])
            .filter(([at]) => inside(at!));
          const found = part.tracks[index]!.notes.map(({ start, pitch, velocity }) => [
            start - after,
            pitch,
            velocity,
          ]).filter(([at]) => inside(at!));
          expect(found.map(([at, pitch]) => `${at} ${pitch}`).sort()).toEqual(
            wanted.map(([at, pitch]) => `${at} ${pitch}`).sort(),
          );
        });
      }),
      { numRuns: rounds(20) },
    );
  });

  it('goes round as often as is asked for, and chance falls anew each time', () => {
    const { length } = takes[chosenId(verse, melody.id)!] as PartTake;
    const strokes = Array.from({ length: length / 240 }, (_, index) => ({
      start: index * 240,
      duration: 200,
      pitch: 70,
      velocity: 80,
      chance: 50,
    }));
    const maybe = editedTake('maybe', takes[chosenId(verse, melody.id)!] as PartTake, strokes);
    const of = musicOf(
      { ...score, sections: [withChoice(verse, melody.id, 'maybe'), ...score.sections.slice(1)] },
      { ...takes, maybe },
    );
    const span = spanOf(score, layOut(score)[0]!, null);
    const starts = read(deliverSong(of, { stretch: { span, rounds: 3, name: 'Verse' } }).bytes)
      .tracks[1]!.notes.map(({ start }) => Math.round(start / 240))
      .filter((eighth) => eighth < (3 * span.to) / 240);
    const rounded = [0, 1, 2].map((round) =>
      starts
        .filter((eighth) => Math.floor((eighth * 240) / span.to) === round)
        .map((eighth) => eighth % (span.to / 240)),
    );
    for (const own of rounded) expect(own.length).toBeGreaterThan(strokes.length / 5);
    expect(new Set(rounded.map(String)).size).toBe(3);
  });

  it('is named after its bars, with each part by itself and the chords', () => {
    const stretch = { span: { from: 0, to: 1920 }, rounds: 1, name: 'Verse, Bar 1' };
    const { files } = handOver(musicFor(score, takes, { kind: 'song' }), wish({ kind: 'stretch', ...stretch }));
    expect(files.map(({ what }) => what)).toEqual([
      'Verse, Bar 1, a track for each part',
      'Verse, Bar 1 in one track',
      ...score.parts.map(({ name }) => `${name} alone`),
      'The chords, as voiced and struck',
    ]);
    for (const { delivery } of files) expect(delivery.name).toContain('Verse, Bar 1');
  });
});

describe('all takes of a part in a section as files', () => {
  it('go by their numbers, each with its own notes', () => {
    const first = takes[chosenId(verse, melody.id)!] as PartTake;
    const edited = editedTake('edited', first, [{ start: 0, duration: 480, pitch: 70, velocity: 80 }]);
    const all = { ...takes, edited };
    const what: HandedWhat = { kind: 'takes', section: verse.id, part: melody.id };
    const { files } = handOver(musicFor(score, all, what), wish(what));
    const own = takesOf(all, verse.id, melody.id) as PartTake[];
    expect(own.length).toBeGreaterThan(1);
    expect(files).toHaveLength(own.length);
    expect(new Set(files.map(({ delivery }) => delivery.name)).size).toBe(own.length);
    files.forEach(({ delivery, what: said }, index) => {
      expect(said).toMatch(/^Take \d+$/);
      expect(delivery.name).toContain(said);
      expect(read(delivery.bytes).tracks[1]!.notes).toHaveLength(own[index]!.notes.length);
    });
  });
});
