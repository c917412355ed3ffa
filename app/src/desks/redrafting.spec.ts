import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { removePart } from '@fendro/core/song/edit';
import { chosenId } from '@fendro/core/song/section';
import { holdsOf } from '@fendro/core/song/holds';
import { HARMONY, type HarmonyTake, type Note, type PartTake } from '@fendro/core/song/schema';
import { storedSong } from '@fendro/core/testing/sounding';
import { Playback } from '../sound/playback';
import { logWhatSounds } from '../store/effects';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { provideSong } from '../store/provide-song';
import { selectScore, selectSong, selectSounding } from '../store/selectors';
import { SessionActions } from '../store/session';
import type { SongState } from '../store/song.reducer';
import { ScoreActions, SongActions, TakeActions } from '../store/song.actions';
import { silentPlayback, SMALL } from '../testing/view';
import { BarsDesk } from './bars-desk';
import { CatchDesk } from './catch-desk';
import { ChordDesk } from './chord-desk';
import { DraftRuns } from './draft-runs';
import { HoldDesk } from './hold-desk';
import { LogbookDesk } from './logbook-desk';
import { Redrafting } from './redrafting';
import { TreatDesk } from './treat-desk';

const BAR = 1920;
const [melody] = SMALL.score.parts;
const section = SMALL.score.sections[0]!;

describe('holding and redrafting', () => {
  let store: Store;
  let redrafting: Redrafting;
  let holds: HoldDesk;
  const song = () => store.selectSignal(selectSong)();
  const now = () => store.selectSignal(selectScore)()!.sections[0]!;
  const sounding = () => song().takes[store.selectSignal(selectSounding)()!] as PartTake;
  const inBar = <N extends Note>(notes: readonly N[], bar: number): N[] =>
    notes.filter(({ start }) => Math.floor(start / BAR) === bar);
  const select = (from: number, to: number): void => {
    store.dispatch(SessionActions.barsSelected({ bars: { from, to } }));
  };
  const focus = (line: string): void => {
    store.dispatch(SessionActions.lineFocused({ line }));
  };

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [provideSong(), provideEffects({ logWhatSounds }), { provide: Playback, useFactory: silentPlayback }],
    });
    store = TestBed.inject(Store) as Store;
    redrafting = TestBed.inject(Redrafting);
    holds = TestBed.inject(HoldDesk);
    store.dispatch(SongActions.opened({ song: storedSong({ ...SMALL, heard: {} }) }));
    focus(melody!.id);
  });

  it('holds the selected bars in all or some aspects, frees them again, each a step of undo, and says so', () => {
    select(1, 2);
    holds.toggle(['rhythm']);
    expect(holdsOf(now(), melody!.id)).toMatchObject([{ aspects: ['rhythm'], bars: [1], take: sounding().id }]);
    expect(TestBed.inject(News).latest().text).toBe('Bar 2 of Melody held: rhythm');
    expect([holds.isHeld(['rhythm']), holds.isHeld()]).toEqual([true, false]);
    holds.toggle();
    expect(holds.isHeld()).toBe(true);
    holds.toggle();
    expect(now().holds).toEqual({});
    expect(song().past.map(({ name }) => name)).toEqual(['hold bars', 'hold bars', 'free bars']);
    select(0, 2);
    holds.toggle();
    holds.freeAll();
    expect(now().holds).toEqual({});
  });

  it('drafts the selected bars again, the others stay note for note; always something new, until all was shown', async () => {
    const before = sounding();
    select(1, 2);
    for (let round = 0; round < 3; round++) {
      await redrafting.redraft();
      expect(inBar(sounding().notes, 0)).toEqual(inBar(before.notes, 0));
    }
    const made = Object.values(song().takes).filter(({ origin }) => origin.asking?.holds);
    const seen = [before, ...made].map((take) => JSON.stringify(inBar((take as PartTake).notes, 1)));
    expect(new Set(seen).size).toBe(4);
    expect(chosenId(now(), melody!.id)).toBe(before.id);
    expect(made[0]!.origin.parents).toEqual([before.id]);
  });

  it('keeps the timing for new pitches, the notes for new dynamics', async () => {
    const before = sounding();
    select(0, 2);
    await redrafting.redraft(['pitch']);
    const times = ({ notes }: PartTake) => notes.map(({ start, duration, velocity }) => [start, duration, velocity]);
    expect(times(sounding())).toEqual(times(before));
    expect(sounding().notes).not.toEqual(before.notes);
    const pitched = sounding();
    await redrafting.redraft(['dynamics']);
    const notes = ({ notes: all }: PartTake) => all.map(({ start, duration, pitch }) => [start, duration, pitch]);
    expect(notes(sounding())).toEqual(notes(pitched));
    expect(sounding().notes).not.toEqual(pitched.notes);
  });

  it('stays behind the treatments that the held notes were written out of', async () => {
    TestBed.inject(TreatDesk).add('octave');
    TestBed.inject(CatchDesk).write();
    const written = sounding();
    select(1, 2);
    await redrafting.redraft();
    expect(sounding().id).not.toBe(written.id);
    expect(sounding().treated).toBe(true);
    expect(inBar(sounding().notes, 0)).toEqual(inBar(written.notes, 0));
  });

  it('tells when nothing is left that was not shown', async () => {
    select(0, 2);
    holds.toggle();
    await redrafting.redraft();
    expect(TestBed.inject(DraftRuns).problemInFocus()?.reason).toMatch(/All that is free here has been shown/);
  });

  it('keeps what is held through an edit, and holds the edit then', async () => {
    select(0, 1);
    holds.toggle();
    TestBed.inject(BarsDesk).louder(1);
    const edited = sounding();
    expect(edited.origin.how).toBe('edited');
    expect(holdsOf(now(), melody!.id)[0]!.take).toBe(edited.id);
    store.dispatch(SessionActions.barsSelected({ bars: null }));
    await redrafting.reshuffle();
    expect(inBar(sounding().notes, 0)).toEqual(inBar(edited.notes, 0));
    expect(inBar(sounding().notes, 1)).not.toEqual(inBar(edited.notes, 1));
  });

  it('reshuffles every part that plays, and leaves the chords', async () => {
    const before = song().takes;
    await redrafting.reshuffle();
    const made = Object.values(song().takes).filter(({ id }) => !(id in before));
    const playing = SMALL.score.parts.filter(({ id }) => chosenId(section, id) !== null);
    expect(made.map((take) => take.of === 'part' && take.part).sort()).toEqual(playing.map(({ id }) => id).sort());
    expect(TestBed.inject(News).latest().text).toBe(`${playing.length} of ${playing.length} parts drafted again`);
  });

  it('drafts bars again in several parts: in those that are heard alone, else in all', async () => {
    const made = (before: SongState['takes']) =>
      Object.values(song().takes).flatMap((take) => (take.id in before || take.of !== 'part' ? [] : [take.part]));
    const [first, second] = SMALL.score.parts.filter(({ id }) => chosenId(section, id) !== null);
    const wanted = [first!.id, second!.id];
    for (const part of wanted) store.dispatch(SessionActions.aloneToggled({ part }));
    select(1, 2);
    const before = song().takes;
    await redrafting.redraftParts();
    expect(made(before).sort()).toEqual([...wanted].sort());
    for (const part of wanted) store.dispatch(SessionActions.aloneToggled({ part }));
    const later = song().takes;
    await redrafting.redraftParts();
    expect(made(later).length).toBeGreaterThan(2);
  });

  it('makes and holds nothing while a change of key is only heard, and says what to do first', async () => {
    const pending = { section: null, change: { tonic: 2 }, how: 'move' as const };
    store.dispatch(SessionActions.groundTried({ pending }));
    const before = song();
    await redrafting.redraft();
    holds.toggle();
    expect(song().takes).toBe(before.takes);
    expect(song().score).toBe(before.score);
    const told = TestBed.inject(Notices)
      .open()
      .map(({ text }) => text);
    expect(told).toEqual([expect.stringMatching(/^First say how the music follows the new key/)]);
    store.dispatch(SessionActions.groundTried({ pending: null }));
    await redrafting.redraft();
    expect(song().takes).not.toBe(before.takes);
  });

  it('has parts say a motif in the selected bars, in takes that stay what they are elsewhere', async () => {
    const motif = { id: 'call', name: 'Call', bars: 1, barTicks: BAR, notes: [{ start: 480, duration: 240, step: 0 }] };
    const before = sounding();
    await redrafting.say(melody!.id, { motif, use: 'quotes', bars: { from: 1, to: 2 } });
    expect(sounding().origin.asking?.motif).toMatchObject({ name: 'Call', use: 'quotes', over: { from: 1, to: 2 } });
    expect(inBar(sounding().notes, 0)).toEqual(inBar(before.notes, 0));
    expect(inBar(sounding().notes, 1).map(({ start }) => start % BAR)).toContain(480);
    expect(TestBed.inject(News).latest().text).toMatch(/says “Call”/);
  });

  it('holds chords and drafts the others again; typed chords go on being held', async () => {
    focus(HARMONY);
    select(0, 1);
    holds.toggle();
    const chords = () => (song().takes[store.selectSignal(selectSounding)()!] as HarmonyTake).chords;
    TestBed.inject(ChordDesk).transpose(2);
    expect(holdsOf(now(), HARMONY)[0]!.take).toBe(chosenId(now(), HARMONY));
    const typed = chords().filter(({ start }) => start < BAR);
    select(1, 2);
    await redrafting.redraft();
    expect(chords().filter(({ start }) => start < BAR)).toEqual(typed);
  });

  it('varies the heard take and blends it with the chosen one, each under its parents', async () => {
    const first = sounding();
    redrafting.share.set(40);
    await redrafting.vary();
    const relative = sounding();
    expect(relative.origin.asking!.kin).toEqual({ by: 'variation', takes: [first.id], share: 40 });
    expect(redrafting.partner()).toBe(first.id);
    for (const [by, kin] of [
      ['rhythm', { by: 'rhythm and pitches', takes: [relative.id, first.id] }],
      ['pitches', { by: 'rhythm and pitches', takes: [first.id, relative.id] }],
      ['bars', { by: 'bars in turn', takes: [relative.id, first.id] }],
      ['halfway', { by: 'halfway', takes: [relative.id, first.id] }],
    ] as const) {
      store.dispatch(TakeActions.heard({ take: relative.id, section: section.id, line: melody!.id }));
      await redrafting.blend(by);
      const asked = Object.values(song().takes).some(
        ({ origin }) => JSON.stringify(origin.asking?.kin) === JSON.stringify(kin),
      );
      // Two near takes may have nothing between them that was not shown; then it is told.
      expect(asked || TestBed.inject(DraftRuns).problemInFocus() !== null).toBe(true);
    }
    // With the chosen take heard, the partner is what was heard before it.
    store.dispatch(TakeActions.released({ section: section.id, line: melody!.id }));
    expect(redrafting.partner()).not.toBeNull();
    expect(redrafting.partner()).not.toBe(first.id);
  });

  it('loses no key that is pressed while something is drafted: the newest waits for its turn', async () => {
    const first = sounding();
    select(1, 2);
    const all = [redrafting.vary(), redrafting.redraft(['dynamics']), redrafting.redraft()];
    await Promise.all(all);
    const made = Object.values(song().takes).slice(Object.keys(SMALL.takes).length);
    expect(made.filter(({ origin }) => origin.asking?.kin)).not.toEqual([]);
    // What waited gave way to what came after it.
    expect(made.filter(({ origin }) => origin.asking?.holds)).toHaveLength(1);
    expect(sounding().origin.parents).not.toContain(first.id);
    const runs = TestBed.inject(DraftRuns);
    const cancelled = [redrafting.vary(), redrafting.reshuffle()];
    runs.cancel();
    await Promise.all(cancelled);
    expect(runs.busy()).toBe(false);
  });

  it('offers the bars that say the same', () => {
    const take = sounding();
    const again = inBar(take.notes, 0).map((note) => ({ ...note, start: note.start + BAR, id: note.id + 500 }));
    const notes = [...inBar(take.notes, 0), ...again];
    const twice = { ...take, id: 'twice', notes };
    store.dispatch(TakeActions.madeAndHeard({ takes: [twice], take: 'twice', section: section.id, line: melody!.id }));
    select(0, 1);
    expect(redrafting.echoes()).toEqual(inBar(take.notes, 0).length > 1 ? [1] : []);
  });

  describe('the logbook', () => {
    it('has every take that began to sound, the newest first, and finds it by words', async () => {
      const log = TestBed.inject(LogbookDesk);
      expect(log.count()).toBe(0);
      await redrafting.vary();
      select(1, 2);
      await redrafting.redraft();
      const [second, first] = log.found();
      expect(log.count()).toBe(2);
      expect([first!.who, first!.where]).toEqual(['Melody', section.name]);
      expect(first!.what).toMatch(/^take \d+: take 1, varied by 25 %$/);
      expect(second!.what).toMatch(/^take \d+: take \d+, bar 2 anew$/);
      log.query.set('melody VARIED');
      expect(log.found()).toEqual([first]);
      log.query.set('trombone');
      expect(log.found()).toEqual([]);
    });

    it('hears one take among what sounds now, or the whole band of that moment', async () => {
      const log = TestBed.inject(LogbookDesk);
      const bass = SMALL.score.parts.find(({ role }) => role === 'bass')!;
      const heard = () => store.selectSignal(selectSounding)();
      await redrafting.vary();
      const varied = heard();
      focus(bass.id);
      await redrafting.redraft();
      const lower = heard();
      store.dispatch(TakeActions.released({ section: section.id, line: bass.id }));
      focus(melody!.id);
      store.dispatch(TakeActions.released({ section: section.id, line: melody!.id }));
      const entry = log.found().find(({ take }) => take.id === lower)!;
      log.hear(entry);
      expect(heard()).toBe(lower);
      focus(melody!.id);
      expect(heard()).toBe(chosenId(now(), melody!.id));
      log.restore(entry);
      focus(melody!.id);
      expect(heard()).toBe(varied);
      focus(bass.id);
      expect(heard()).toBe(lower);
    });

    it('still knows what was heard of a part that is gone, which has no place to sound in', async () => {
      await redrafting.vary();
      store.dispatch(SongActions.undone());
      const score = song().score!;
      store.dispatch(
        SongActions.opened({
          song: {
            ...storedSong({ score: removePart(score, melody!.id), takes: song().takes, heard: {} }),
            ledger: { takes: song().takes, heard: song().heard },
          },
        }),
      );
      const [entry] = TestBed.inject(LogbookDesk).found();
      expect([entry!.who, entry!.canSound]).toEqual(['a part that is gone', false]);
    });
  });

  it('drafts the bars that a longer section is missing, chords first, and leaves what is there', async () => {
    store.dispatch(ScoreActions.sectionChanged({ section: section.id, change: { bars: section.bars + 2 } }));
    const lines = [HARMONY, ...SMALL.score.parts.map(({ id }) => id)];
    expect([...redrafting.missing().keys()]).toEqual(lines);
    const before = sounding();
    await redrafting.draftMissing();
    expect(redrafting.missing().size).toBe(0);
    const after = sounding();
    for (let bar = 0; bar < section.bars; bar++) expect(inBar(after.notes, bar)).toEqual(inBar(before.notes, bar));
    expect([2, 3].flatMap((bar) => inBar(after.notes, bar)).length).toBeGreaterThan(0);
    expect(TestBed.inject(News).latest().text).toBe(`${lines.length} of ${lines.length} lines go on to the end`);
    // Nothing was chosen: all of it is heard.
    expect(now().chosen).toEqual(section.chosen);
  });
});
