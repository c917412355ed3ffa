import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { groundFor, newSection, startScore } from '@fendro/core/styles/band';
import { STYLES } from '@fendro/core/styles/styles';

import { chosenId } from '@fendro/core/song/section';
import { takesOf } from '@fendro/core/song/resolve';
import { HARMONY, SONG_VERSION, type Song } from '@fendro/core/song/schema';
import { DraftRuns } from './draft-runs';
import { Drafting, TAKES_AT_A_TIME } from './drafting';
import { UnheardDesk } from './unheard-desk';
import { HarmonyDesk } from './harmony-desk';
import { logWhatSounds } from '../store/effects';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectHeard, selectScore, selectSong, selectTakes } from '../store/selectors';
import { ScoreActions, SongActions, TakeActions } from '../store/song.actions';
import { provideSong } from '../store/provide-song';

const style = STYLES[0]!;
const score = startScore('Dew Point', groundFor(style, { tonic: 0, scale: 'major' }), style);
const song: Song = {
  format: 'fendro-song',
  version: SONG_VERSION,
  id: 's',
  seed: 11,
  score,
  ledger: { takes: {}, heard: [] },
  hearing: {},
};

describe('drafting', () => {
  let store: Store;
  let drafting: Drafting;
  let runs: DraftRuns;
  const takes = () => store.selectSignal(selectTakes)();

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong(), provideEffects({ logWhatSounds })] });
    store = TestBed.inject(Store) as Store;
    drafting = TestBed.inject(Drafting);
    runs = TestBed.inject(DraftRuns);
    store.dispatch(SongActions.opened({ song }));
  });

  const sounds = (line: string) => {
    const section = store.selectSignal(selectScore)()!.sections[0]!;
    return [chosenId(section, line), store.selectSignal(selectHeard)()['section-1']?.[line]];
  };

  it('adds eight different takes; the first of an empty line is the song’s, one undo takes it back', async () => {
    await drafting.draft('section-1', 'part-1');
    const made = takesOf(takes(), 'section-1', 'part-1');
    expect(made).toHaveLength(TAKES_AT_A_TIME);
    expect(sounds('part-1')).toEqual([made[0]!.id, undefined]);
    expect(
      store
        .selectSignal(selectSong)()
        .heard.map(({ take }) => take),
    ).toEqual([made[0]!.id]);
    expect(TestBed.inject(News).latest().text).toBe('8 takes drafted for Melody');
    store.dispatch(SongActions.undone());
    expect(sounds('part-1')).toEqual([null, undefined]);
    expect(takesOf(takes(), 'section-1', 'part-1')).toHaveLength(TAKES_AT_A_TIME);
    store.dispatch(SongActions.redone());
  });

  it('hears the first of more takes beside the chosen one, and Escape goes back to it; each differs', async () => {
    await drafting.draft('section-1', 'part-1');
    const [first] = takesOf(takes(), 'section-1', 'part-1');
    await drafting.draft('section-1', 'part-1');
    const all = takesOf(takes(), 'section-1', 'part-1');
    expect(sounds('part-1')).toEqual([first!.id, all[TAKES_AT_A_TIME]!.id]);
    expect(new Set(all.map((take) => (take.of === 'part' ? JSON.stringify(take.notes) : ''))).size).toBe(16);
    const desk = TestBed.inject(HarmonyDesk);
    expect(desk.backToChosen('section-1', 'part-1')).toBe(true);
    expect(sounds('part-1')).toEqual([first!.id, undefined]);
  });

  it('never lets a line fall silent that has nothing chosen', async () => {
    await drafting.draft('section-1', 'part-1');
    const [first] = takesOf(takes(), 'section-1', 'part-1');
    store.dispatch(SongActions.undone());
    store.dispatch(TakeActions.heard({ take: first!.id, section: 'section-1', line: 'part-1' }));
    expect(TestBed.inject(HarmonyDesk).backToChosen('section-1', 'part-1')).toBe(false);
    expect(sounds('part-1')).toEqual([null, first!.id]);
  });

  it('makes one step of a whole band’s first takes', async () => {
    await drafting.draftBand('section-1', 2);
    expect(store.selectSignal(selectSong)().past).toHaveLength(1);
    for (const line of ['harmony', ...score.parts.map(({ id }) => id)])
      expect(sounds(line)).toEqual([takesOf(takes(), 'section-1', line)[0]!.id, undefined]);
    store.dispatch(SongActions.undone());
    expect(store.selectSignal(selectScore)()).toEqual(score);
  });

  it('ends with the song that asked: nothing of it comes into another', async () => {
    const running = drafting.draftBand('section-1', 4);
    store.dispatch(SongActions.opened({ song: { ...song, id: 'other' } }));
    await running;
    expect(takes()).toEqual({});
    expect(runs.busy()).toBe(false);
    await drafting.draft('section-1', 'part-1', 2);
    expect(Object.keys(takes())).toHaveLength(2);
  });

  it('clears what nobody heard, says so and brings it back', async () => {
    await drafting.draft('section-1', 'part-1');
    const made = takesOf(takes(), 'section-1', 'part-1');
    store.dispatch(TakeActions.judged({ take: made[3]!.id, verdict: 'kept' }));
    TestBed.inject(UnheardDesk).clear('section-1', 'part-1');
    expect(takesOf(takes(), 'section-1', 'part-1')).toEqual([made[0], made[3]]);
    const notices = TestBed.inject(Notices);
    expect(notices.open()[0]).toMatchObject({ text: '6 unheard takes were cleared for Melody.' });
    notices.act(notices.open()[0]!);
    expect(takesOf(takes(), 'section-1', 'part-1')).toHaveLength(TAKES_AT_A_TIME);
  });

  it('lets the oldest unheard takes go beyond two thousand, and says so', async () => {
    await drafting.draft('section-1', 'part-1', 2);
    const [, model] = takesOf(takes(), 'section-1', 'part-1');
    store.dispatch(
      TakeActions.made({ takes: Array.from({ length: 2000 }, (_, index) => ({ ...model!, id: `many-${index}` })) }),
    );
    await drafting.draft('section-1', 'part-1', 2);
    expect(takes()[model!.id]).toBeUndefined();
    expect(takes()['many-1999']).toBeDefined();
    expect(TestBed.inject(Notices).open().at(-1)?.text).toMatch(
      /2,000 takes that nobody has heard or judged. The 2 oldest/,
    );
  });

  it('drafts the whole band, chords first and every part to them', async () => {
    await drafting.draftBand('section-1', 2);
    const [harmony] = takesOf(takes(), 'section-1', 'harmony');
    for (const part of score.parts) {
      const own = takesOf(takes(), 'section-1', part.id);
      expect(own).toHaveLength(2);
      for (const take of own) expect(take.origin.asking?.harmony).toBe(harmony!.id);
    }
    const drums = score.parts.find(({ role }) => role === 'drums')!;
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    expect(takesOf(takes(), 'section-1', bass.id)[0]!.origin.asking?.beside).toEqual([
      takesOf(takes(), 'section-1', drums.id)[0]!.id,
    ]);
  });

  it('drafts some parts in every section, and chords where there are none, and leaves all others as they are', async () => {
    const second = newSection(style, 'chorus', 'section-2');
    store.dispatch(ScoreActions.sectionAdded({ section: { ...second, bars: 4 }, occurrence: 'occurrence-2' }));
    await drafting.draft('section-1', 'harmony', 1);
    const before = Object.keys(takes()).length;
    const bass = score.parts.find(({ role }) => role === 'bass')!.id;
    expect(await drafting.draftParts(new Set([bass]))).toBe(true);
    for (const section of ['section-1', 'section-2']) {
      expect(takesOf(takes(), section, bass)).toHaveLength(2);
      for (const { id } of score.parts) if (id !== bass) expect(takesOf(takes(), section, id)).toHaveLength(0);
    }
    expect(takesOf(takes(), 'section-1', 'harmony')).toHaveLength(1);
    expect(takesOf(takes(), 'section-2', 'harmony')).toHaveLength(2);
    expect(Object.keys(takes()).length).toBe(before + 6);
  });

  it('says at the part what cannot be met', async () => {
    store.dispatch(ScoreActions.briefChanged({ part: 'part-4', change: { low: 49, high: 50 } }));
    await drafting.draft('section-1', 'part-4');
    expect(runs.problem()).toMatchObject({
      section: 'section-1',
      line: 'part-4',
      reason: expect.stringContaining('Widen') as string,
      setting: 'register',
    });
    expect(takesOf(takes(), 'section-1', 'part-4')).toHaveLength(0);
    const nearest = runs.problem()?.nearest;
    expect(nearest).toBeDefined();
    store.dispatch(ScoreActions.briefChanged({ part: 'part-4', change: nearest! }));
    await drafting.draft('section-1', 'part-4');
    expect(runs.problem()).toBeNull();
    expect(takesOf(takes(), 'section-1', 'part-4').length).toBeGreaterThan(0);
  });

  it('drafts a whole song: the hook of its chorus first, which the verse then answers, in one step of undo', async () => {
    const chorus = newSection(style, 'chorus', 'section-2');
    store.dispatch(ScoreActions.sectionAdded({ section: { ...chorus, bars: 4 }, occurrence: 'occurrence-2' }));
    TestBed.tick();
    await drafting.draftSong(new Set(['section-1', 'section-2']));
    const made = store.selectSignal(selectScore)()!;
    for (const section of made.sections)
      for (const line of [HARMONY, ...made.parts.map(({ id }) => id)]) expect(chosenId(section, line)).not.toBeNull();
    expect(made.motifs.map(({ name }) => name)).toEqual(['Hook of Chorus']);
    const [hook] = made.motifs;
    expect(made.sections.map(({ plan }) => [plan.motif, plan.use])).toEqual([
      [hook!.id, 'answers'],
      [hook!.id, 'states'],
    ]);
    const melody = made.parts.find(({ role }) => role === 'melody')!;
    const verse = takes()[chosenId(made.sections[0]!, melody.id)!]!;
    expect(verse.origin.asking?.motif?.use).toBe('answers');
    expect(drafting.whole()).toBeNull();
    expect(TestBed.inject(News).latest().text).toBe('The song is drafted');
    store.dispatch(SongActions.undone());
    expect(store.selectSignal(selectScore)()!.motifs).toEqual([]);
    expect(chosenId(store.selectSignal(selectScore)()!.sections[0]!, melody.id)).toBeNull();
  });

  it('stops a whole song where it is cancelled', async () => {
    const running = drafting.draftSong(new Set(['section-1']));
    runs.cancel();
    await running;
    expect(TestBed.inject(News).latest().text).toBe('Drafting stopped');
    expect(runs.busy()).toBe(false);
  });
});
