import { scoreProblem } from '../song/check';
import { followGround } from '../song/follow-ground';
import { NOTHING_HEARD, partTake } from '../song/resolve';
import {
  ASPECTS,
  HARMONY,
  type ChordSpan,
  type HarmonyTake,
  type Hold,
  type Kin,
  type Note,
  type PartTake,
  type TakeNote,
} from '../song/schema';
import { fittedNotes } from '../song/follow-chords';
import { draftedTake, editedTake, looseTake } from '../song/take';
import { draft, type DraftRequest } from './draft';
import { attemptsAt } from './stages';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { kinRequest, redraftRequest, requestAgain, requestFor } from './asking';
import { ENGINE } from './engine';
import { chosenId, withChoice } from '../song/section';
import { held, holdsOf } from '../song/holds';

const { score, takes } = scoreWith(1, 0);
const section = score.sections[0]!;
const partOf = (role: string) => score.parts.find((part) => part.role === role)!;
const music = musicOf(score, takes);

describe('an asking', () => {
  it('says all that a draft depends on, and who is listened to', () => {
    const bass = partOf('bass');
    const request = requestFor(music, section, bass.id, 7)!;
    const drums = takes[chosenId(section, partOf('drums').id)!] as PartTake;
    expect(request.asking).toMatchObject({
      engine: ENGINE,
      ground: score.ground,
      bars: 2,
      kind: 'verse',
      role: 'bass',
      brief: bass.brief,
      harmony: section.harmony,
      beside: [drums.id],
    });
    expect(request.beside).toEqual([drums]);
    expect(request.chords).toBe((takes[section.harmony!] as { chords: unknown }).chords);
    expect(request.seed).not.toBe(requestFor(music, section, partOf('melody').id, 7)!.seed);
    expect(request.asking).not.toHaveProperty('energy');
    expect(requestFor(music, section, 'nobody', 7)).toBeNull();
  });

  it('listens to what is heard, leans on the energy line, keeps to a solo’s bars and takes a part’s own style', () => {
    const [bass, drums] = [partOf('bass'), partOf('drums')];
    const heard = { [section.id]: { [drums.id]: `${section.id}-${drums.id}-1` } };
    expect(requestFor({ ...music, heard }, section, bass.id, 7)!.asking.beside).toEqual([
      `${section.id}-${drums.id}-1`,
    ]);
    const lifted = {
      ...score,
      parts: score.parts.map((part) => (part === bass ? { ...part, style: 'reggae' } : part)),
      energy: [{ occurrence: score.order[0]!.id, at: 0, value: 90 }],
    };
    const solo = { ...section, solos: [{ part: bass.id, over: null, from: 1, to: 2 }] };
    const { asking } = requestFor(musicOf(lifted, takes), solo, bass.id, 7)!;
    expect(asking).toMatchObject({ energy: 90, only: { from: 1, to: 2 }, ground: { style: 'reggae' } });
  });

  it('for chords keeps what is held of them, and hears the melody they go under', () => {
    const under = { ...section, harmonyBrief: { ...section.harmonyBrief, under: partOf('melody').id } };
    const kept = held(under, HARMONY, section.harmony!, { bars: [1], notes: [] }, ASPECTS);
    const { asking, beside, models } = requestFor(music, kept, HARMONY, 7)!;
    expect(asking.holds).toEqual(holdsOf(kept, HARMONY));
    expect(models).toEqual([takes[section.harmony!]]);
    expect(beside.map(({ part }) => part)).toEqual([partOf('melody').id]);
    const silent = { ...kept, chosen: {} };
    expect(requestFor(musicOf(score, takes, NOTHING_HEARD), silent, HARMONY, 7)!.asking.harmonyBrief!.under).toBeNull();
  });

  it('for a part keeps what is held of it, however it was edited since', () => {
    const melody = partOf('melody');
    const id = chosenId(section, melody.id)!;
    const kept = held(section, melody.id, id, { bars: [0], notes: [] }, ['rhythm']);
    const { asking, models } = requestFor(music, kept, melody.id, 7)!;
    expect(asking.holds).toEqual([{ take: id, aspects: ['rhythm'], bars: [0], notes: [] }]);
    expect(models).toEqual([takes[id]]);
    expect(requestFor(music, kept, partOf('bass').id, 7)!.asking).not.toHaveProperty('holds');
  });
});

describe('an asking for what is there already', () => {
  const melody = partOf('melody');
  const take = takes[chosenId(section, melody.id)!] as PartTake;
  const bar = 1920;
  const notesOf = (request: DraftRequest, attempt: number): readonly Note[] => {
    const result = draft(request, attempt);
    if (!result.ok || result.content.of !== 'part') throw new Error('nothing drafted');
    return result.content.notes;
  };
  const inBar = (notes: readonly Note[], of: number): readonly Note[] =>
    notes.filter(({ start }) => Math.floor(start / bar) === of);

  it('again keeps all but the selected bars, and of those what is not selected', () => {
    const pitches = { bars: [1], aspects: ['pitch'] as const };
    const request = redraftRequest(music, section, melody.id, 7, pitches)!;
    expect(request.kept).toEqual({ plan: 0, rhythm: 0, dynamics: 0 });
    const notes = [5, 6, 7, 8].map((attempt) => notesOf(request, attempt));
    for (const again of notes) {
      expect(inBar(again, 0)).toEqual(inBar(take.notes, 0));
      expect(inBar(again, 1).map(({ start, velocity }) => [start, velocity])).toEqual(
        inBar(take.notes, 1).map(({ start, velocity }) => [start, velocity]),
      );
    }
    expect(new Set(notes.map((again) => JSON.stringify(again))).size).toBeGreaterThan(1);
    expect(redraftRequest(music, section, 'nobody', 7, pitches)).toBeNull();
    expect(redraftRequest(music, { ...section, chosen: {} }, melody.id, 7, pitches)).toBeNull();
  });

  it('puts what the writer holds before everything else', () => {
    const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars: [], notes: [take.notes.at(-1)!.id] };
    const all = { bars: [0, 1], aspects: ASPECTS };
    const kept = { ...section, holds: { [melody.id]: [hold] } };
    const request = redraftRequest(music, kept, melody.id, 7, all)!;
    expect(request.asking.holds![0]).toBe(hold);
    expect(notesOf(request, 9)).toContainEqual(take.notes.at(-1));
  });

  it('again keeps the plan that its line was drafted by, however it was edited since', () => {
    const edited = editedTake('mine', take, take.notes.slice(1));
    const again = editedTake('again', edited, edited.notes.slice(1));
    const now = musicOf(score, { ...takes, mine: edited, again });
    const changed = withChoice(section, melody.id, 'again');
    const selection = { bars: [1], aspects: ASPECTS };
    const { kept, seed } = redraftRequest(now, changed, melody.id, 7, selection)!;
    expect([kept, seed]).toEqual([{ plan: 0 }, take.origin.seed]);
    const typed = musicOf(score, {
      ...takes,
      mine: looseTake({ ...take, id: 'mine' }, melody.id, [], { how: 'edited' }),
    });
    const loose = withChoice(section, melody.id, 'mine');
    expect(redraftRequest(typed, loose, melody.id, 7, selection)).not.toHaveProperty('kept');
  });

  it('again keeps the chords of all bars but the selected ones', () => {
    const chords = (request: DraftRequest, attempt: number): readonly ChordSpan[] => {
      const result = draft(request, attempt);
      if (!result.ok || result.content.of !== 'harmony') throw new Error('no chords');
      return result.content.chords;
    };
    const before = (takes[section.harmony!] as HarmonyTake).chords;
    const first = (spans: readonly ChordSpan[]): ChordSpan[] => spans.filter(({ start }) => start < bar);
    const request = redraftRequest(music, section, HARMONY, 7, { bars: [1], aspects: ASPECTS })!;
    const all = [3, 4, 5, 6, 7, 8].map((attempt) => chords(request, attempt));
    for (const spans of all) expect(first(spans)).toEqual(first(before));
    expect(new Set(all.map((spans) => JSON.stringify(spans))).size).toBeGreaterThan(1);
  });

  it('holds a take as it sounds over the chords of now', () => {
    const other: HarmonyTake = {
      ...(takes[section.harmony!] as HarmonyTake),
      id: 'typed',
      chords: [{ start: 0, duration: 2 * bar, chord: { root: 3, tones: ['1', '3', '5'], bass: null } }],
    };
    const now = musicOf(score, { ...takes, typed: other });
    const changed = { ...section, harmony: 'typed' };
    const request = redraftRequest(now, changed, melody.id, 7, { bars: [1], aspects: ASPECTS })!;
    expect(inBar(notesOf(request, 4), 0)).toEqual(inBar(fittedNotes(now, changed, take), 0));
    expect(fittedNotes(now, changed, take)).not.toEqual(take.notes);
  });

  it('holds on through another key and scale, however the music follows', () => {
    for (const part of score.parts)
      for (const how of ['move', 'refit', 'stay'] as const) {
        const id = chosenId(section, part.id)!;
        const hold: Hold = { take: id, aspects: [...ASPECTS], bars: [0], notes: [] };
        const held = { ...section, holds: { [part.id]: [hold] } };
        const before = { ...score, sections: score.sections.map((own) => (own === section ? held : own)) };
        const change = { section: null, change: { tonic: 3, scale: 'minor' } };
        let serial = 0;
        const followed = followGround(before, takes, NOTHING_HEARD, change, how, () => `followed-${serial++}`);
        const all = { ...takes, ...Object.fromEntries(followed.takes.map((own) => [own.id, own])) };
        const now = musicOf(followed.score, all);
        const there = followed.score.sections.find((own) => own.id === section.id)!;
        expect(scoreProblem(followed.score, all, before)).toBeNull();
        // What is held is what sounds now, not what sounded in the old key.
        expect(there.holds[part.id]).toEqual([{ ...hold, take: chosenId(there, part.id) }]);
        const sounding = partTake(all, chosenId(there, part.id))!;
        const request = redraftRequest(now, there, part.id, 7, { bars: [1], aspects: ASPECTS })!;
        expect(inBar(notesOf(request, 4), 0)).toEqual(inBar(fittedNotes(now, there, sounding), 0));
      }
  });

  it('of kin is made again from what is stored of it, note for note', () => {
    const second = `${section.id}-${melody.id}-1`;
    const kins: Kin[] = [
      { by: 'variation', takes: [take.id], share: 30 },
      { by: 'bars in turn', takes: [take.id, second] },
      { by: 'rhythm and pitches', takes: [take.id, second] },
      { by: 'halfway', takes: [take.id, second] },
    ];
    for (const kin of kins) {
      const request = kinRequest(music, section, melody.id, 7, kin)!;
      const notes = notesOf(request, 12);
      const made = draftedTake(
        { id: 'made', section: section.id, length: 2 * bar },
        { asking: request.asking, seed: request.seed, attempts: attemptsAt(12, request.kept) },
        { of: 'part', part: melody.id, notes },
      );
      expect(made.origin.parents).toEqual(kin.takes);
      expect(notesOf(requestAgain(music, made)!, 0)).toEqual(notes);
    }
    // What is varied is another thing each time, though the plan stays.
    const varied = kinRequest(music, section, melody.id, 7, kins[0]!)!;
    expect(varied.kept).toEqual({ plan: 0 });
    const changed = (attempt: number): TakeNote[] => {
      const notes = notesOf(varied, attempt);
      return take.notes.filter(
        (note) => !notes.some(({ start, pitch }) => note.start === start && note.pitch === pitch),
      );
    };
    const ever = new Set([1, 2, 3, 4, 5, 6, 7, 8].flatMap(changed));
    expect(ever.size).toBeGreaterThan(Math.ceil(take.notes.length * 0.3) + 1);
    expect(kinRequest(music, section, 'nobody', 7, kins[0]!)).toBeNull();
    expect(requestAgain(music, editedTake('mine', take, []))).toBeNull();
  });

  it('of kin for chords varies some of them, and blends two progressions', () => {
    const chords = (id: string, roots: readonly number[]): HarmonyTake => ({
      ...(takes[section.harmony!] as HarmonyTake),
      id,
      chords: roots.map((root, index) => ({
        start: (index * 2 * bar) / roots.length,
        duration: (2 * bar) / roots.length,
        chord: { root, tones: ['1', '3', '5'], bass: null },
      })),
    });
    const [one, two] = [chords('one', [0, 1, -1, 0]), chords('two', [1, -1])];
    const now = musicOf(score, { ...takes, one, two });
    const given = (kin: Kin, changed = section, attempt = 3): readonly ChordSpan[] => {
      const result = draft(kinRequest(now, changed, HARMONY, 7, kin)!, attempt);
      if (!result.ok || result.content.of !== 'harmony') throw new Error('no chords');
      return result.content.chords;
    };
    const kept = [0, 1, 2, 3, 4, 5].map((attempt) => {
      const varied = given({ by: 'variation', takes: ['one'], share: 25 }, section, attempt);
      return one.chords.filter((span) => varied.some((other) => JSON.stringify(other) === JSON.stringify(span))).length;
    });
    expect(kept.every((count) => count >= 3)).toBe(true);
    expect(kept).toContain(3);
    const rhythm = given({ by: 'rhythm and pitches', takes: ['one', 'two'] });
    expect(rhythm.map(({ start, chord }) => [start, chord!.root])).toEqual([
      [0, 1],
      [960, 1],
      [1920, -1],
      [2880, -1],
    ]);
    const turns = given({ by: 'bars in turn', takes: ['one', 'two'] });
    expect(turns).toHaveLength(3);
    expect(turns.reduce((end, { start, duration }) => (start === end ? end + duration : -1), 0)).toBe(2 * bar);
    // Chords that are held come back out of a blend too.
    const fixed = held(section, HARMONY, 'one', { bars: [1], notes: [] }, ASPECTS);
    const blended = given({ by: 'rhythm and pitches', takes: ['one', 'two'] }, fixed);
    for (const span of one.chords.slice(2)) expect(blended).toContainEqual(span);
    const timed = held(section, HARMONY, 'one', { bars: [1], notes: [] }, ['rhythm']);
    const inTurn = given({ by: 'bars in turn', takes: ['two', 'two'] }, timed);
    expect(inTurn.map(({ start, chord }) => [start, chord!.root])).toEqual([
      [0, 1],
      [1920, -1],
      [2880, -1],
    ]);
  });
});
