import * as fc from 'fast-check';
import { draft } from '../compose/draft';
import { ENGINE } from '../compose/engine';

import { heardNotes } from '../testing/sounding';
import { scoreWith } from '../testing/scores';
import { brokenLaws } from '../testing/laws';
import { removePart } from './edit';
import { aroundSolos, placeSolo, removeSolo } from './solo';
import { roleOf } from './roles';
import type { PartTake } from './schema';
import { editedTake } from './take';
import { chosenId } from './section';

const { score, takes } = scoreWith(3, 0);
const [section] = score.sections;
const [melody, keys] = score.parts;
const bar = 1920;

describe('a solo', () => {
  const solo = { part: keys!.id, over: melody!.id, from: 1, to: 2 };
  const changed = placeSolo(score, section!.id, solo);
  const notesOf = (one: typeof score, part: string) => heardNotes(one, takes).filter((note) => note.part === part);

  it('lets the part that it replaces rest in its bars, wherever the section sounds, and nowhere else', () => {
    const before = notesOf(score, melody!.id);
    const after = notesOf(changed, melody!.id);
    const rests = (start: number): boolean => Math.floor(start / bar) === 1 || Math.floor(start / bar) === 5;
    expect(before.some(({ start }) => rests(start))).toBe(true);
    expect(after.map(({ start, pitch }) => [start, pitch])).toEqual(
      before.filter(({ start }) => !rests(start)).map(({ start, pitch }) => [start, pitch]),
    );
    // Nothing rings on into the solo.
    expect(
      after.every(({ start, end }) => rests(start) || ![1, 5].some((at) => start < at * bar && end > at * bar)),
    ).toBe(true);
  });

  it('keeps to its own bars and leaves the others as they were', () => {
    // A pick-up of half a bar may lead into it; bars 2 and 3 are the other section.
    const own = (start: number): boolean =>
      [1, 2, 3, 5].includes(Math.floor(start / bar)) || [1, 5].includes(Math.floor((start + bar / 2) / bar));
    expect(notesOf(changed, keys!.id).map(({ start }) => start)).toEqual(
      notesOf(score, keys!.id)
        .map(({ start }) => start)
        .filter(own),
    );
    for (const part of score.parts.slice(2)) expect(notesOf(changed, part.id)).toEqual(notesOf(score, part.id));
  });

  it('can be moved, taken out, and goes with its part', () => {
    expect(placeSolo(changed, section!.id, { ...solo, from: 0, to: 1 }).sections[0]!.solos).toHaveLength(1);
    expect(notesOf(removeSolo(changed, section!.id, solo.part), melody!.id)).toEqual(notesOf(score, melody!.id));
    expect(removePart(changed, keys!.id).sections[0]!.solos).toEqual([]);
    expect(removePart(changed, melody!.id).sections[0]!.solos).toEqual([{ ...solo, over: null }]);
  });

  it('changes nothing, not even the list, where there is none', () => {
    const notes = [{ start: 0, duration: 480, pitch: 60, velocity: 80 }];
    expect(aroundSolos(notes, { solos: [] }, 'p', bar)).toBe(notes);
    const section = { solos: [solo] };
    expect(aroundSolos(notes, section, melody!.id, bar)).toBe(aroundSolos(notes, section, melody!.id, bar));
  });
});

describe('drafting some bars only', () => {
  it('stays inside them, over the chords that sound there', () => {
    const harmony = takes[section!.harmony!];
    const chords =
      harmony?.of === 'harmony'
        ? [0, 1, 2].flatMap((round) => harmony.chords.map((span) => ({ ...span, start: span.start + round * 2 * bar })))
        : [];
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 3 }), (seed, from, bars) => {
        const only = { from, to: from + bars };
        const request = {
          asking: {
            engine: ENGINE,
            ground: score.ground,
            bars: 6,
            kind: 'solo' as const,
            role: 'solo' as const,
            brief: { ...roleOf('solo').brief, adventure: 0, pickup: 0 },
            only,
            beside: [],
          },
          seed,
          chords,
          beside: [],
        };
        const result = draft(request, 0);
        if (!result.ok || result.content.of !== 'part') throw new Error('no solo');
        const { notes } = result.content;
        expect(notes.length).toBeGreaterThan(0);
        expect(
          notes.every(({ start, duration }) => start >= from * bar && start + duration <= Math.min(6, only.to) * bar),
        ).toBe(true);
        expect(brokenLaws(request, notes)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});

describe('pick-ups', () => {
  const draftedWith = (pickup: number, seed: number) => {
    const request = {
      asking: {
        engine: ENGINE,
        ground: score.ground,
        bars: 4,
        kind: 'verse' as const,
        role: 'melody' as const,
        brief: { ...roleOf('melody').brief, adventure: 0, breath: 0, pickup },
        beside: [],
      },
      seed,
      chords: null,
      beside: [],
    };
    const result = draft(request, 0);
    if (!result.ok || result.content.of !== 'part') throw new Error('no melody');
    expect(brokenLaws(request, result.content.notes)).toEqual([]);
    return result.content.notes;
  };

  it('never come at 0 %, always at 100 %, and step into a line that begins on the bar line', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const [plain, led] = [draftedWith(0, seed), draftedWith(100, seed)];
      expect(plain.every(({ start }) => start >= 0)).toBe(true);
      const before = led.filter(({ start }) => start < 0);
      const first = led.find(({ start }) => start >= 0)!;
      expect(first.start).toBe(0);
      if (plain[0]!.start === 0) expect(led.filter(({ start }) => start >= 0)).toEqual(plain);
      expect(before.length).toBeGreaterThan(0);
      const line = [...before, first].map(({ pitch }) => pitch);
      line.slice(1).forEach((pitch, index) => expect(Math.abs(pitch - line[index]!)).toBeLessThanOrEqual(2));
    }
  });

  it('sound before their section and take the place of what the part played there', () => {
    const notes = [
      { start: -240, duration: 220, pitch: 64, velocity: 70 },
      { start: 0, duration: 480, pitch: 65, velocity: 80 },
    ];
    const id = chosenId(score.sections[1]!, melody!.id)!;
    const with_ = { ...takes, [id]: { ...editedTake(id, takes[id] as PartTake, notes) } };
    const sounding = heardNotes(score, with_).filter(({ part }) => part === melody!.id);
    expect(sounding.some(({ start, pitch }) => start === 2 * bar - 240 && pitch === 64)).toBe(true);
    expect(sounding.some(({ start, end }) => start < 2 * bar - 240 && end > 2 * bar - 240)).toBe(false);
  });
});
