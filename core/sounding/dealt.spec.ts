import * as fc from 'fast-check';
import { dealPart, removePart, changePart, treatPart } from '../song/edit';
import { scoreProblem, withoutDangling } from '../song/check';
import { DEAL_WAYS, type Deal, type Note, type Part, type Score } from '../song/schema';
import { withChoice } from '../song/section';
import { partTake } from '../song/resolve';
import { placeSolo } from '../song/solo';
import { behindDealing, looseTake } from '../song/take';
import { scoreWith } from '../testing/scores';
import { heardNotes, musicOf } from '../testing/sounding';
import { FIRST } from '../treat/first-treatment';
import { apart, dealsTo, dealtTogether } from './dealt';
import { instrumentOf } from './instruments';
import { unwrittenPasses } from './heard-passes';
import { writtenNotes } from './written';

const BAR = 1920;
const base = scoreWith(1, 0);
const pad: Part = { ...base.score.parts.find(({ role }) => role === 'comping' || role === 'picking')!, id: 'pad' };
/** A pad and four that play nothing of their own, drums beside them. */
const hands = ['violin', 'flute', 'cello', 'fingered-bass'].map((instrument, index): Part => ({
  ...pad,
  id: `hand-${index}`,
  name: instrument,
  instrument,
}));
const drums = base.score.parts.find(({ role }) => role === 'drums')!;

const CHORD: readonly Note[] = [48, 55, 60, 64].map((pitch) => ({ start: 0, duration: 3 * BAR, pitch, velocity: 80 }));

function withPad(notes: readonly Note[], deal: Deal | null, more: Partial<Score> = {}): ReturnType<typeof musicOf> {
  const [section] = base.score.sections;
  const take = looseTake({ id: 'chord', section: section!.id, length: 2 * BAR }, pad.id, notes, { how: 'edited' });
  const score: Score = {
    ...base.score,
    parts: [pad, ...hands, drums],
    sections: [withChoice({ ...section!, chosen: {} }, pad.id, take.id)],
    order: [
      { id: 'one', section: section!.id },
      { id: 'two', section: section!.id },
    ],
    ...more,
  };
  return musicOf(dealPart(score, pad.id, deal), { ...base.takes, chord: take });
}

const to = hands.map(({ id }) => id);
const lineOf = (music: ReturnType<typeof musicOf>, id: string, pass = 0) =>
  writtenNotes(music, music.score.sections[0]!, id, pass);
const pitches = (notes: readonly Note[]) => notes.map(({ pitch }) => pitch);

describe('parts that are dealt to', () => {
  it('play a chord in four, each a note of it, in reach of its instrument, and it ends', () => {
    const music = withPad(CHORD, { way: 'up', to });
    expect(lineOf(music, 'pad')).toEqual([]);
    // A violin and a flute do not go as low as what was written.
    expect(to.map((id) => pitches(lineOf(music, id)))).toEqual([[60], [67], [60], [52]]);
    for (const part of hands)
      for (const { pitch } of lineOf(music, part.id))
        expect([pitch >= instrumentOf(part.instrument).low, pitch <= instrumentOf(part.instrument).high]).toEqual([
          true,
          true,
        ]);
    const heard = heardNotes(music.score, music.takes);
    expect(heard.map(({ part, start }) => `${start} ${part}`).sort()).toEqual(
      [0, 2 * BAR].flatMap((start) => to.map((part) => `${start} ${part}`)).sort(),
    );
    // Held over the end of the section, it gives way to the next.
    for (const { start, end } of heard) expect(end - start).toBeLessThanOrEqual(3 * BAR);
    for (const { part, end } of heard.filter(({ start }) => start === 0)) expect([part, end]).toEqual([part, 2 * BAR]);
  });

  it('sound what they have of their own with it, and every note ends before its pitch begins again', () => {
    const line = fc.array(
      fc.record({
        start: fc.integer({ min: 0, max: 2 * BAR - 1 }),
        duration: fc.integer({ min: 1, max: 4 * BAR }),
        pitch: fc.integer({ min: 30, max: 100 }),
        velocity: fc.integer({ min: 1, max: 127 }),
      }),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(line, fc.constantFrom(...DEAL_WAYS), fc.nat(2), (notes, way, pass) => {
        const music = withPad(apart(notes), { way, to: ['pad', ...to.slice(0, 2)] });
        const own = looseTake({ id: 'own', section: 'section-1', length: BAR }, 'hand-0', CHORD, { how: 'edited' });
        const [section] = music.score.sections;
        const score = { ...music.score, sections: [withChoice(section!, 'hand-0', 'own')] };
        const whole = musicOf(score, { ...music.takes, own });
        for (const id of ['pad', ...to]) {
          const ends = new Map<number, number>();
          for (const { start, duration, pitch } of lineOf(whole, id, pass)) {
            expect(start).toBeGreaterThanOrEqual(ends.get(pitch) ?? start);
            ends.set(pitch, start + duration);
          }
        }
        const starts = lineOf(whole, 'hand-0', pass).filter(({ start }) => start === 0);
        expect(starts.length).toBeGreaterThanOrEqual(CHORD.length);
        expect(lineOf(whole, 'hand-0', pass)).toBe(lineOf(whole, 'hand-0', pass));
      }),
    );
  });

  it('play what is dealt to them through their own treatments, and rest where they rest', () => {
    const { score, takes } = withPad(CHORD, { way: 'to all', to });
    const treated = treatPart(score, 'hand-2', [[{ ...FIRST.octave, by: -1 }, FIRST.reverse]]);
    expect(pitches(lineOf(musicOf(treated, takes), 'hand-2'))).toEqual([36, 43, 48, 52]);
    const solo = placeSolo(score, 'section-1', { part: 'hand-0', over: 'hand-2', from: 0, to: 1 });
    expect(lineOf(musicOf(solo, takes), 'hand-2')).toEqual([]);
    // On a violin the lowest note meets one that is there already.
    expect(pitches(lineOf(musicOf(solo, takes), 'hand-0'))).toEqual([55, 60, 64]);
    const over = placeSolo(score, 'section-1', { part: 'hand-0', over: 'pad', from: 0, to: 2 });
    expect(to.map((id) => lineOf(musicOf(over, takes), id).length)).toEqual([0, 0, 0, 0]);
  });

  it('are dealt no further what was dealt to them, and no round is gone', () => {
    const { score, takes } = withPad(CHORD, { way: 'to all', to: ['hand-0', 'pad'] });
    const round = dealPart(score, 'hand-0', { way: 'to all', to: ['pad', 'hand-1'] });
    const music = musicOf(round, takes);
    expect(['pad', 'hand-0', 'hand-1'].map((id) => lineOf(music, id).length)).toEqual([4, 3, 0]);
    expect(dealtTogether(music.score.parts[0]!, music.score.parts).map(({ id }) => id)).toEqual([
      'pad',
      'hand-0',
      'hand-1',
    ]);
    expect(dealtTogether(drums, music.score.parts)).toEqual([drums]);
  });

  it('play nothing that they cannot play: drums are dealt to drums alone', () => {
    const { score, takes } = withPad(CHORD, { way: 'up', to: [drums.id, 'hand-2'] });
    const music = musicOf(score, takes);
    expect(lineOf(music, drums.id)).toEqual([]);
    expect(pitches(lineOf(music, 'hand-2'))).toEqual([48, 55, 60, 64]);
    const alone = musicOf(dealPart(score, 'pad', { way: 'up', to: [drums.id] }), takes);
    // With nobody to deal to, the part plays its line itself.
    expect(dealsTo(alone.score.parts[0]!, alone.score.parts)).toEqual([]);
    expect(lineOf(alone, 'pad')).toHaveLength(4);
  });

  it('are dealt nothing of what is struck out, gone, or stands behind the dealing already', () => {
    const music = withPad(CHORD, { way: 'up', to, off: true });
    expect(lineOf(music, 'pad')).toHaveLength(4);
    expect(lineOf(music, 'hand-0')).toEqual([]);
    const dealing = withPad(CHORD, { way: 'up', to });
    const share = behindDealing(partTake(dealing.takes, 'chord')!, hands[2]!);
    expect(share).toMatchObject({ part: 'hand-2', treated: true, dealt: true });
    const written = {
      ...dealing,
      takes: { ...dealing.takes, chord: behindDealing(partTake(dealing.takes, 'chord')!, pad) },
    };
    expect(lineOf(written, 'pad')).toHaveLength(4);
    expect(lineOf(written, 'hand-0')).toEqual([]);
    const without = removePart(dealing.score, 'hand-1');
    expect(without.parts[0]!.deals).toEqual({ way: 'up', to: ['hand-0', 'hand-2', 'hand-3'] });
    expect(to.reduce<Score>(removePart, dealing.score).parts[0]).not.toHaveProperty('deals');
  });

  it('belong to the song: one that is missing is told, and left out where a song comes in', () => {
    const { score, takes } = withPad(CHORD, { way: 'up', to });
    expect(scoreProblem(score, takes, score)).toBeNull();
    const lost = changePart(score, 'pad', { deals: { way: 'up', to: ['hand-0', 'nobody'] } });
    expect(scoreProblem(lost, takes, score)).toMatch(/A part that “.*” deals to is missing/);
    expect(withoutDangling(lost, takes).score.parts[0]!.deals).toEqual({ way: 'up', to: ['hand-0'] });
    const twice = changePart(score, 'pad', { deals: { way: 'up', to: ['hand-0', 'hand-0'] } });
    expect(scoreProblem(twice, takes, score)).toMatch(/a part twice/);
  });

  it('are written down in the logbook, pass by pass, where chance deals', () => {
    const chance = withPad(CHORD, { way: 'by chance', to });
    const [section] = chance.score.sections;
    const lines = (pass: number) => JSON.stringify(to.map((id) => lineOf(chance, id, pass)));
    const other = [1, 2, 3].find((pass) => lines(pass) !== lines(0))!;
    expect(unwrittenPasses(chance, section!, other, [])).toEqual(['chord']);
    const turns = withPad(CHORD, { way: 'in turn', to });
    expect(unwrittenPasses(turns, section!, other, [])).toEqual([]);
  });
});
