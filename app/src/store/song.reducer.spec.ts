import { combineReducers, type Action } from '@ngrx/store';
import * as fc from 'fast-check';
import { importInto } from '@fendro/core/files/incoming/imported-song';
import type { ImportFile } from '@fendro/core/files/incoming/file-model';
import { freeName } from '@fendro/core/song/edit';
import { takesOf } from '@fendro/core/song/resolve';
import type { Score, Song, Take } from '@fendro/core/song/schema';
import { placeSolo } from '@fendro/core/song/solo';
import { openSong } from '@fendro/core/song/song-file';
import { newPart, newSection } from '@fendro/core/styles/band';
import { styleOf, withStyle } from '@fendro/core/styles/styles';
import { scoreWith } from '@fendro/core/testing/scores';
import { refusalsChangeNothing } from './refusals';
import { selectHeardChoices } from './selectors';
import { FRESH, SessionActions, sessionReducer, type SessionState } from './session';
import { ScoreActions, SongActions, TakeActions } from './song.actions';
import { CLOSED, songReducer, type SongState } from './song.reducer';

const { song } = scoreWith(1, 0);
const opened = songReducer(CLOSED, SongActions.opened({ song }));
const after = (...actions: Parameters<typeof songReducer>[1][]): SongState =>
  actions.reduce((state, action) => songReducer(state, action), opened);

describe('the song', () => {
  it('undoes and redoes by name, and forgets what was undone when something new is done', () => {
    const renamed = after(ScoreActions.titleSet({ title: 'Gale' }));
    expect(renamed.past.map(({ name }) => name)).toEqual(['rename the song']);
    const undone = songReducer(renamed, SongActions.undone());
    expect(undone.score).toBe(opened.score);
    const redone = songReducer(undone, SongActions.redone());
    expect(redone.score).toEqual(renamed.score);
    expect(songReducer(undone, ScoreActions.titleSet({ title: 'Breeze' })).future).toEqual([]);
    expect(songReducer(opened, SongActions.undone())).toBe(opened);
    expect(songReducer(opened, SongActions.redone())).toBe(opened);
  });

  it('makes one step of one gesture', () => {
    const levels = [10, 20, 30].map((level) =>
      ScoreActions.partChanged({ part: 'part-1', change: { level }, gesture: 'level part-1' }),
    );
    const dragged = after(...levels);
    expect(dragged.past).toHaveLength(1);
    expect(songReducer(dragged, SongActions.undone()).score).toBe(opened.score);
    expect(
      after(...levels, ScoreActions.partChanged({ part: 'part-2', change: { level: 5 }, gesture: 'level part-2' }))
        .past,
    ).toHaveLength(2);
  });

  it('never loses a take by undoing', () => {
    const take = { ...Object.values(song.ledger.takes)[0]!, id: 'fresh' };
    const chosen = after(
      TakeActions.made({ takes: [take] }),
      TakeActions.heard({ take: 'fresh', section: 'section-1', line: 'harmony' }),
      TakeActions.chosen({ section: 'section-1', line: 'harmony', take: 'fresh' }),
    );
    expect(chosen.score?.sections[0]?.harmony).toBe('fresh');
    const undone = songReducer(chosen, SongActions.undone());
    expect(undone.score?.sections[0]?.harmony).not.toBe('fresh');
    expect(undone.takes['fresh']).toBe(take);
    expect(takesOf(undone.takes, 'section-1', 'harmony').map(({ id }) => id)).toContain('fresh');
  });

  it('revises the score with new takes in one step', () => {
    const take = { ...Object.values(song.ledger.takes)[0]!, id: 'typed' };
    const revised = after(
      ScoreActions.revised({
        name: 'type a chord',
        score: { ...song.score, title: 'Revised' },
        takes: [take],
        released: [],
      }),
    );
    expect(revised.score?.title).toBe('Revised');
    expect(revised.takes['typed']).toBe(take);
    expect(revised.past.at(-1)?.name).toBe('type a chord');
    expect(songReducer(revised, SongActions.undone()).score).toBe(song.score);
  });

  it('knows whether it is saved', () => {
    const changed = after(TakeActions.judged({ take: 'x', verdict: 'kept' }));
    expect(changed.saving).toBe('changed');
    expect(songReducer(changed, SongActions.saved({ whole: true })).saving).toBe('saved');
    expect(songReducer(changed, SongActions.saved({ whole: false })).saving).toBe('changed');
    const failed = songReducer(changed, SongActions.savingFailed());
    expect(failed.saving).toBe('failed');
    expect(songReducer(failed, ScoreActions.titleSet({ title: 'Squall' })).saving).toBe('failed');
    expect(songReducer(changed, SongActions.closed())).toBe(CLOSED);
    expect(songReducer(CLOSED, ScoreActions.titleSet({ title: 'no song' }))).toBe(CLOSED);
  });
});

describe('edits that could not be opened again', () => {
  const part = song.score.parts[0]!;
  const chord = Object.values(song.ledger.takes).find(({ of }) => of === 'harmony')!;
  const reduce = refusalsChangeNothing(combineReducers({ song: songReducer, session: sessionReducer }));
  const whole = reduce(undefined, SongActions.opened({ song }));

  it('are refused in words and change nothing, neither what is in view nor what is heard', () => {
    const full = Array.from({ length: 24 - song.score.parts.length }, (_, index) =>
      ScoreActions.partAdded({ part: { ...part, id: `more-${index}` } }),
    ).reduce(reduce, whole);
    expect(full.song.score?.parts).toHaveLength(24);
    const refused = reduce(full, ScoreActions.partAdded({ part: { ...part, id: 'one-too-many' } }));
    expect(refused.song.refused?.reason).toMatch(/up to 24 parts/);
    expect({ ...refused.song, refused: null }).toEqual(full.song);
    expect(refused.session).toBe(full.session);
    // The same refusal is told again, and other edits go on.
    expect(reduce(refused, ScoreActions.partAdded({ part: { ...part, id: 'one-too-many' } })).song.refused).not.toBe(
      refused.song.refused,
    );
    expect(reduce(refused, ScoreActions.titleSet({ title: 'Gale' })).song.score?.title).toBe('Gale');
  });

  it('bring no takes along when they are refused', () => {
    const take = {
      ...chord,
      id: 'typed',
      chords: [{ start: 0, duration: 1, chord: null, unread: 'x'.repeat(50) }],
    } as Take;
    const refused = reduce(
      whole,
      ScoreActions.revised({ name: 'type a chord', score: song.score, takes: [take], released: [] }),
    );
    expect(refused.song.refused?.reason).toMatch(/these chords/);
    expect(refused.song.takes).toBe(whole.song.takes);
    const titled = reduce(
      whole,
      ScoreActions.revised({
        name: 'x',
        score: { ...song.score, title: '' },
        takes: [{ ...chord, id: 'good' }],
        released: [],
      }),
    );
    expect(titled.song.takes).toBe(whole.song.takes);
  });

  it('never come of any run of edits and imports: what results opens as it is', () => {
    const text = fc.oneof(
      fc.string({ maxLength: 140 }),
      fc.constantFrom('', 'x'.repeat(60), 'x'.repeat(61), 'x'.repeat(121), '__proto__'),
    );
    const number = fc.oneof(
      fc.integer({ min: -5, max: 300 }),
      fc.constantFrom(Number.NaN, Number.POSITIVE_INFINITY, 0.5),
    );
    const acts = fc.record({ kind: fc.nat(17), text, number, place: fc.nat(5) });
    const file = importFileOf(song);
    fc.assert(
      fc.property(fc.array(acts, { minLength: 1, maxLength: 40 }), (steps) => {
        let serial = 0;
        const newId = (kind: string): string => `${kind}-made-${serial++}`;
        let state = whole;
        for (const step of steps) state = reduce(state, actionFor(step, state.song, newId, file));
        const { score, takes, heard } = state.song;
        const now: Song = { ...song, score: score!, ledger: { takes, heard }, hearing: state.session.heard };
        const again = openSong(JSON.parse(JSON.stringify(now)));
        expect(again).toEqual({ ok: true, song: JSON.parse(JSON.stringify(now)) as Song, setAside: [] });
      }),
      { numRuns: 150 },
    );
  });
});

/** What one random act of a writer does, sensible or not. */
function actionFor(
  { kind, text, number, place }: { kind: number; text: string; number: number; place: number },
  { score, takes }: SongState,
  newId: (kind: string) => string,
  file: ImportFile,
): Action {
  const now = score!;
  const [section, part, at] = [
    now.sections[place % now.sections.length]!,
    now.parts[place % Math.max(1, now.parts.length)],
    now.order[place % now.order.length]!,
  ];
  const ids = Object.keys(takes);
  const revised = (name: string, next: Score, made: readonly Take[] = []): Action =>
    ScoreActions.revised({ name, score: next, takes: made, released: [] });
  const style = { ...styleOf('soul'), id: newId('style').replaceAll(/[^a-z0-9-]/g, ''), name: text.trim() };
  const line = {
    id: 'line',
    name: text.slice(0, 60) || 'Line',
    drums: false,
    role: 'melody' as const,
    instrument: 'flute',
    moves: {},
    notes: file.lines[0]!.notes,
  };
  switch (kind) {
    case 0:
      return ScoreActions.titleSet({ title: text });
    case 1:
      return ScoreActions.groundSet({ change: { tempo: number } });
    case 2:
      return ScoreActions.partAdded({ part: newPart(styleOf('soul'), 'melody', newId('part'), place) });
    case 3:
      return ScoreActions.partRemoved({ part: part?.id ?? '' });
    case 4:
      return ScoreActions.partChanged({ part: part?.id ?? '', change: { name: text, level: number } });
    case 5:
      return ScoreActions.briefChanged({ part: part?.id ?? '', change: { busyness: number } });
    case 6:
      return ScoreActions.sectionAdded({
        section: newSection(styleOf('soul'), 'verse', newId('section'), freeName(now, text || 'Verse')),
        occurrence: newId('place'),
        after: at.id,
      });
    case 7:
      return ScoreActions.sectionChanged({ section: section.id, change: { name: text, bars: number } });
    case 8:
      return ScoreActions.occurrenceAdded({ occurrence: { id: newId('place'), section: section.id }, after: at.id });
    case 9:
      return ScoreActions.occurrenceRemoved({ occurrence: at.id });
    case 10:
      return ScoreActions.occurrenceMoved({ occurrence: at.id, to: place });
    case 11:
      return ScoreActions.energyDrawn({ occurrence: at.id, points: [{ at: 0, value: number }] });
    case 12:
      return TakeActions.chosen({ section: section.id, line: part?.id ?? 'harmony', take: ids[place] ?? null });
    case 13:
      return TakeActions.judged({ take: ids[place] ?? text, verdict: 'kept' });
    case 14:
      return revised('apply a style', withStyle({ ...now, ground: { ...now.ground, style: style.id } }, style));
    case 15: {
      const made = importInto(
        now,
        { ...file, lines: [line] },
        [],
        { lines: ['line'], key: { tonic: 0, scale: 'major' }, move: 'leave', file: text },
        newId,
      );
      return revised('bring in', made.score, made.takes);
    }
    case 16:
      return SongActions.undone();
    default:
      return part
        ? revised(
            'give bars to a solo',
            placeSolo(now, section.id, { part: part.id, over: null, from: place, to: number }),
          )
        : SongActions.redone();
  }
}

/** A small file with a line and more markers than one section. */
function importFileOf({ score }: Song): ImportFile {
  const { metre } = score.ground;
  return {
    lines: [
      {
        id: 'line',
        name: 'Line',
        drums: false,
        role: 'melody',
        instrument: 'flute',
        moves: {},
        notes: Array.from({ length: 12 }, (_, bar) => ({
          start: bar * 1920,
          duration: 480,
          pitch: 60 + bar,
          velocity: 80,
        })),
      },
    ],
    sections: Array.from({ length: 12 }, (_, bar) => ({
      name: `The needle falls and falls and falls and falls and falls ${bar}`,
      start: bar * 1920,
      bars: 1,
      metre,
      tempo: 96,
      tempos: [],
      key: null,
    })),
    length: 12 * 1920,
    chords: [],
    remarks: [],
  };
}

describe('the session', () => {
  const run = (...actions: Parameters<typeof sessionReducer>[1][]): SessionState =>
    actions.reduce((state, action) => sessionReducer(state, action), FRESH);
  const hear = (line: string, take: string) => TakeActions.heard({ take, section: 'section-1', line });

  it('opens where there is something of the first part to hear', () => {
    expect(run(SongActions.opened({ song }))).toMatchObject({ occurrence: 'occurrence-1', line: 'part-1' });
    const bare = {
      ...song,
      score: { ...song.score, sections: song.score.sections.map((section) => ({ ...section, chosen: {} })) },
    };
    expect(run(SongActions.opened({ song: bare }))).toMatchObject({ occurrence: 'occurrence-1', line: 'harmony' });
  });

  it('keeps heard takes together until they are chosen or let go', () => {
    const two = run(hear('part-1', 'a'), hear('part-2', 'b'));
    expect(two.heard).toEqual({ 'section-1': { 'part-1': 'a', 'part-2': 'b' } });
    expect(
      sessionReducer(two, TakeActions.released({ section: 'section-1', line: 'part-1' })).heard['section-1'],
    ).toEqual({ 'part-2': 'b' });
    expect(sessionReducer(two, TakeActions.allChosen({ choices: [] })).heard).toEqual({});
    expect(selectHeardChoices.projector(song.score, two.heard)).toHaveLength(2);
  });

  it('drops the bar selection when another section is viewed', () => {
    const selected = run(SessionActions.barsSelected({ bars: { from: 1, to: 3 } }));
    expect(sessionReducer(selected, SessionActions.occurrenceViewed({ occurrence: 'occurrence-2' })).bars).toBeNull();
  });

  it('hears parts alone by turns', () => {
    expect(
      run(
        SessionActions.aloneToggled({ part: 'a' }),
        SessionActions.aloneToggled({ part: 'b' }),
        SessionActions.aloneToggled({ part: 'a' }),
      ).alone,
    ).toEqual(['b']);
  });
});
