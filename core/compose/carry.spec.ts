import * as fc from 'fast-check';
import { chosenId } from '../song/section';
import { NOTHING_HEARD, type Music } from '../song/resolve';
import type { HarmonyTake, Note, Part, PartTake, Section } from '../song/schema';
import { isDrumRole } from '../song/roles';
import { takeProblem } from '../song/check';
import { scoreWith } from '../testing/scores';
import { METRES } from '../theory/metre';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask } from '../theory/pitch';
import { carriedChords, carriedTake, type Carried } from './carry';

const seeds = fc.nat(1000);
const BAR = 1920;
const known = new Map<number, Music>();
const musicOf = (seed: number): Music => {
  const { score, takes } = scoreWith(seed % 7, 0);
  const music = known.get(seed % 7) ?? { score, takes, heard: NOTHING_HEARD };
  known.set(seed % 7, music);
  return music;
};
const takeIn = ({ takes }: Music, section: Section, { id }: Part): PartTake =>
  takes[chosenId(section, id)!] as PartTake;
const plain = (notes: readonly Note[]) =>
  notes.map(({ start, duration, pitch, velocity }) => [start, duration, pitch, velocity]);
const taken = (carried: Carried): PartTake => {
  if (!carried.ok) throw new Error(carried.reason);
  return carried.take;
};
const withBars = (music: Music, bars: number): Music => ({
  ...music,
  score: { ...music.score, sections: music.score.sections.map((own, at) => (at === 1 ? { ...own, bars } : own)) },
});

describe('a take that is carried', () => {
  it('to where it is comes out as it was', () => {
    fc.assert(
      fc.property(seeds, fc.nat(9), (seed, of) => {
        const music = musicOf(seed);
        const [section] = music.score.sections as [Section];
        const part = music.score.parts[of % music.score.parts.length]!;
        const take = takeIn(music, section, part);
        const target = { section, part, bar: 0 };
        const carried = taken(carriedTake(music, { section, part, take, bars: null }, target, 'new', 'there'));
        expect(plain(carried.notes)).toEqual(plain(take.notes.filter(({ start }) => start >= 0)));
        expect(carried.origin).toMatchObject({ how: 'voiced', from: 'there', parents: [take.id] });
      }),
    );
  });

  it('fills another section, however long, and is valid in any part that can play it', () => {
    fc.assert(
      fc.property(seeds, fc.nat(9), fc.nat(9), fc.integer({ min: 1, max: 7 }), (seed, of, to, bars) => {
        const music = withBars(musicOf(seed), bars);
        const [section, other] = music.score.sections as [Section, Section];
        const { parts } = music.score;
        const [part, into] = [parts[of % parts.length]!, parts[to % parts.length]!];
        const take = takeIn(music, section, part);
        const carried = carriedTake(
          music,
          { section, part, take, bars: null },
          { section: other, part: into, bar: 0 },
          'new',
          'x',
        );
        if (isDrumRole(part.role) !== isDrumRole(into.role)) {
          expect(carried).toMatchObject({ ok: false, reason: expect.stringMatching(/^Drums strike/) as string });
          return;
        }
        const made = taken(carried);
        expect(takeProblem(made)).toBeNull();
        expect(made).toMatchObject({ part: into.id, section: other.id, length: bars * BAR });
        expect(made.notes.every(({ start, duration }) => start >= 0 && start + duration <= bars * BAR)).toBe(true);
        if (bars > 2) expect(made.notes.some(({ start }) => start >= 2 * BAR)).toBe(true);
        if (part !== into && !isDrumRole(into.role)) {
          const inside = made.notes.filter(({ pitch }) => pitch >= into.brief.low && pitch <= into.brief.high);
          expect(inside.length).toBeGreaterThanOrEqual(made.notes.length * 0.9);
        }
      }),
    );
  });

  it('follows the chords that sound there', () => {
    let [fitting, count] = [0, 0];
    for (let seed = 0; seed < 7; seed++) {
      const music = musicOf(seed);
      const [section, other] = music.score.sections as [Section, Section];
      const part = music.score.parts.find(({ role }) => role === 'bass')!;
      const source = { section, part, take: takeIn(music, section, part), bars: null };
      const { notes } = taken(carriedTake(music, source, { section: other, part, bar: 0 }, 'new', 'x'));
      const { chords } = music.takes[other.harmony!] as HarmonyTake;
      for (const note of notes) {
        const chord = chords.findLast(({ start }) => start <= note.start)?.chord;
        count++;
        if (!chord || inMask(chordMask(chord) | keyMask(music.score.ground), note.pitch)) fitting++;
      }
    }
    expect(fitting / count).toBeGreaterThan(0.95);
  });

  it('goes up where it went up and down where it went down, as a line', () => {
    let [same, moves] = [0, 0];
    for (let seed = 0; seed < 7; seed++) {
      const music = musicOf(seed);
      const [section, other] = music.score.sections as [Section, Section];
      const part = music.score.parts.find(({ role }) => role === 'melody')!;
      const take = takeIn(music, section, part);
      const source = { section, part, take, bars: null };
      const { notes } = taken(carriedTake(music, source, { section: other, part, bar: 0 }, 'new', 'x'));
      const before = take.notes.filter(({ start }) => start >= 0);
      expect(notes).toHaveLength(before.length);
      notes.slice(1).forEach((note, index) => {
        const went = Math.sign(before[index + 1]!.pitch - before[index]!.pitch);
        moves++;
        if (Math.sign(note.pitch - notes[index]!.pitch) === went) same++;
      });
    }
    expect(moves).toBeGreaterThan(30);
    expect(same / moves).toBeGreaterThan(0.85);
  });

  it('in part comes into what is played there, and leaves the other bars', () => {
    fc.assert(
      fc.property(seeds, fc.nat(9), fc.nat(1), fc.nat(1), (seed, of, from, bar) => {
        const music = musicOf(seed);
        const [section, other] = music.score.sections as [Section, Section];
        const part = music.score.parts[of % music.score.parts.length]!;
        const [take, before] = [takeIn(music, section, part), takeIn(music, other, part)];
        const source = { section, part, take, bars: { from, to: from + 1 } };
        const carried = carriedTake(music, source, { section: other, part, bar }, 'new', 'x');
        const starts = take.notes.filter(({ start }) => start >= from * BAR && start < (from + 1) * BAR);
        if (starts.length === 0) {
          expect(carried).toMatchObject({ ok: false });
          return;
        }
        const made = taken(carried);
        const inBar = (notes: readonly Note[], at: number) =>
          notes.filter(({ start }) => start >= at * BAR && start < (at + 1) * BAR);
        expect(inBar(made.notes, 1 - bar).map(({ start, pitch }) => [start, pitch])).toEqual(
          inBar(before.notes, 1 - bar).map(({ start, pitch }) => [start, pitch]),
        );
        expect([...new Set(inBar(made.notes, bar).map(({ start }) => start - bar * BAR))]).toEqual([
          ...new Set(starts.map(({ start }) => start - from * BAR)),
        ]);
        expect(made.origin.parents).toEqual([take.id, before.id]);
      }),
    );
  });

  it('into bars of another length leaves out what has no room', () => {
    const music = musicOf(3);
    const [section, other] = music.score.sections as [Section, Section];
    const waltz = { ...other, ground: { metre: METRES.find(({ beats, unit }) => beats === 3 && unit === 4)! } };
    const score = { ...music.score, sections: [section, waltz] };
    const part = music.score.parts.find(({ role }) => role === 'drums')!;
    const source = { section, part, take: takeIn(music, section, part), bars: null };
    const { notes } = taken(carriedTake({ ...music, score }, source, { section: waltz, part, bar: 0 }, 'new', 'x'));
    const had = source.take.notes.filter(({ start }) => start % BAR < 1440);
    expect(notes.map(({ start }) => start)).toEqual(
      had.map(({ start }) => Math.floor(start / BAR) * 1440 + (start % BAR)),
    );
  });

  it('goes to the nearest place of another key where there are no chords', () => {
    const music = musicOf(2);
    const [section, other] = music.score.sections.map((own) => ({ ...own, harmony: null })) as [Section, Section];
    const up = { ...other, ground: { tonic: 2 } };
    const score = { ...music.score, sections: [section, up] };
    const part = music.score.parts.find(({ role }) => role === 'melody')!;
    const source = { section, part, take: { ...takeIn(music, section, part), over: null }, bars: null };
    const made = taken(carriedTake({ ...music, score }, source, { section: up, part, bar: 0 }, 'new', 'x'));
    expect(made.notes.map(({ pitch }) => pitch)).toEqual(
      source.take.notes.filter(({ start }) => start >= 0).map(({ pitch }) => pitch + 2),
    );
    expect(made.over).toBeNull();
  });
});

describe('chords that are carried', () => {
  it('are said again until the section is full, in its own key', () => {
    const music = withBars(musicOf(1), 5);
    const [section, other] = music.score.sections as [Section, Section];
    const up = { ...other, ground: { tonic: music.score.ground.tonic + 1 } };
    const take = music.takes[section.harmony!] as HarmonyTake;
    const made = carriedChords({ score: { ...music.score, sections: [section, up] } }, section, take, up, 'new', 'x');
    expect(takeProblem(made)).toBeNull();
    expect(made.chords.reduce((sum, { duration }) => sum + duration, 0)).toBe(5 * BAR);
    expect(made.chords[0]!.chord!.root).toBe(take.chords[0]!.chord!.root + 1);
  });
});
