import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { struckChords } from '@fendro/core/sounding/chord-line';
import { choose, chooseMadeOf } from '@fendro/core/song/edit';
import { followGround, withGround, type GroundChange } from '@fendro/core/song/follow-ground';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { lineOf } from '@fendro/core/song/logbook';
import { own } from '@fendro/core/song/look-up';
import { chordsIn, NOTHING_HEARD, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import {
  HARMONY,
  type ChordSpan,
  type LineId,
  type Score,
  type Section,
  type Take,
  type PartId,
  type SectionId,
  type TakeId,
} from '@fendro/core/song/schema';
import { fittedTakes } from '@fendro/core/song/follow-chords';
import type { Style } from '@fendro/core/song/style';
import { styleIn } from '@fendro/core/styles/styles';
import type { Key } from '@fendro/core/theory/key';
import type { Stretch } from '@fendro/core/song/chord-edit';
import type { Typing } from '@fendro/core/song/chord-typing';
import type { Ticks } from '@fendro/core/theory/units';
import { newId } from '../store/ids';
import { NoteNames } from '../ui/note-names';
import {
  selectBar,
  selectChords,
  selectChordSetting,
  selectGround,
  selectHeard,
  selectHeardChoices,
  selectOwnScore,
  selectScore,
  selectSection,
  selectSong,
  selectTakes,
} from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { ScoreActions, TakeActions } from '../store/song.actions';
import { voicedTake, type Place, chordsTake } from '@fendro/core/song/take';
import { hasMusic } from '@fendro/core/song/section';

/** Everything that is done to chords: edits, ideas that are heard first, and choices that the whole band follows. */
@Injectable({ providedIn: 'root' })
export class HarmonyDesk {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  /** While a change of key is heard, what was heard before it. */
  private readonly ownHeard = this.store.selectSignal(sessionFeature.selectHeard);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  private readonly pendingGround = this.store.selectSignal(sessionFeature.selectPendingGround);
  private readonly choices = this.store.selectSignal(selectHeardChoices);
  private readonly bar = this.store.selectSignal(selectBar);
  readonly section = this.store.selectSignal(selectSection);
  readonly ground = this.store.selectSignal(selectGround);
  readonly chords = this.store.selectSignal(selectChords);
  private readonly names = inject(NoteNames);
  readonly setting = this.store.selectSignal(selectChordSetting);

  readonly key = computed((): Key => {
    const ground = this.ground();
    return ground ? keyOf(ground) : { tonic: 0, scale: 'major' };
  });
  /** The style of the section in view. */
  readonly style = computed((): Style => styleIn(this.score(), this.ground()?.style ?? ''));
  readonly length = computed((): Ticks => {
    const [score, section] = [this.score(), this.section()];
    return score && section ? sectionTicks(score, section) : 0;
  });
  readonly typing = computed((): Typing => ({
    key: this.key(),
    metre: this.ground()?.metre ?? { beats: 4, unit: 4, groups: [2, 2] },
    length: this.length(),
    writing: { german: this.names.german() },
  }));

  /** The chord that the bench speaks of: the one that sounds at the focused place. */
  readonly focused = computed((): ChordSpan | null => {
    const at = this.chordAt();
    return (
      this.chords().find(({ start, duration }) => start <= at && at < start + duration) ??
      this.chords().find(({ chord }) => chord !== null) ??
      null
    );
  });

  /** What an edit concerns: the selected bars, else the chord in focus. */
  readonly stretch = computed((): Stretch => {
    const [bars, chordAt] = [this.bars(), this.chordAt()];
    if (bars) return { from: bars.from * this.bar(), to: Math.min(this.length(), bars.to * this.bar()) };
    const span = this.focused();
    return span ? { from: span.start, to: span.start + span.duration } : { from: chordAt, to: chordAt + this.bar() };
  });

  /** Makes other chords the section's own in one step; parts that follow chords follow. */
  edit(name: string, chords: readonly ChordSpan[], gesture?: string): void {
    const [score, section] = [this.ownScore(), this.section()];
    if (!score || !section || (!this.trying() && same(chords, this.chords()))) return;
    const parent = soundingId(section, HARMONY, this.heard());
    const take = chordsTake(this.place(section), chords, {
      how: name === 'type a chord' ? 'typed' : 'edited',
      parents: parent ? [parent] : [],
    });
    this.settle(
      name,
      chooseMadeOf(score, section.id, HARMONY, parent, take.id),
      [take],
      [{ section: section.id, line: HARMONY }],
      gesture,
    );
  }

  /** Lets other chords be heard with the whole band; the song is unchanged until they are taken. */
  hear(chords: readonly ChordSpan[], from: string): void {
    const section = this.section();
    if (!section) return;
    const take = chordsTake(this.place(section), chords, { how: 'picked', from });
    this.store.dispatch(TakeActions.madeAndHeard({ takes: [take], take: take.id, section: section.id, line: HARMONY }));
  }

  letGo(): void {
    const section = this.section();
    if (section) this.backToChosen(section.id, HARMONY);
  }

  /**
   * Lets the chosen take of a line sound again. A line that has nothing chosen keeps what is heard: it would fall
   * silent.
   *
   * @returns false where nothing changed
   */
  backToChosen(sectionId: SectionId, line: LineId): boolean {
    const section = this.ownScore()?.sections.find(({ id }) => id === sectionId);
    if (!section || chosenId(section, line) === null || own(own(this.heard(), sectionId), line) === undefined)
      return false;
    this.store.dispatch(TakeActions.released({ section: sectionId, line }));
    return true;
  }

  /**
   * The first draft of an empty line becomes the song's: there is nothing that it could replace. One gesture is one
   * step of undo.
   */
  adopt(take: Take, gesture: string): void {
    const score = this.ownScore();
    const line = lineOf(take);
    if (score)
      this.settle(
        'draft',
        choose(score, take.section, line, take.id),
        [take],
        [{ section: take.section, line }],
        gesture,
      );
  }

  readonly trying = computed(() => {
    const section = this.section();
    return section ? own(own(this.heard(), section.id), HARMONY) !== undefined : false;
  });

  /** Chooses a take of any line; after chords, the takes of parts that follow them are made and chosen with them. */
  choose(section: SectionId, line: LineId, take: TakeId): void {
    const score = this.ownScore();
    if (score) this.settle('choose a take', choose(score, section, line, take), [], [{ section, line }]);
  }

  /** Makes a changed song the song's own, with a take of it chosen; parts that follow chords follow in the same step. */
  chooseIn(changed: Score, take: Take, name: string): void {
    const { section } = take;
    const line = lineOf(take);
    this.settle(name, choose(changed, section, line, take.id), [], [{ section, line }]);
  }

  chooseAll(): void {
    const score = this.ownScore();
    const choices = this.choices();
    if (!score || choices.length === 0) return;
    this.settle(
      'choose all heard takes',
      choices.reduce((now, { section, line, take }) => choose(now, section, line, take), score),
      [],
      choices,
    );
  }

  /** Makes takes of what parts sound after a change of chords, and does all of it as one step. */
  private settle(
    name: string,
    score: Score,
    made: readonly Take[],
    released: readonly { section: SectionId; line: LineId }[],
    gesture?: string,
  ): void {
    const takes = { ...this.takes(), ...Object.fromEntries(made.map((take) => [take.id, take])) };
    const touched = new Set(released.map(({ section }) => section));
    const fitted = score.sections
      .filter(({ id }) => touched.has(id))
      .flatMap((section) => fittedTakes({ score, takes, heard: NOTHING_HEARD }, section, () => newId('take')));
    const settled = fitted.reduce((now, take) => {
      const section = now.sections.find(({ id }) => id === take.section);
      const before = section ? chosenId(section, take.part) : null;
      return chooseMadeOf(now, take.section, take.part, before, take.id);
    }, score);
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: settled,
        takes: [...made, ...fitted],
        released,
        ...(gesture === undefined ? {} : { gesture }),
      }),
    );
  }

  /**
   * A change of key, scale, tempo or metre: at once where no music has to follow, else it is heard and asked about
   * first.
   */
  changeGround(change: GroundChange): void {
    const score = this.ownScore();
    if (!score) return;
    const keyChanges = change.change.tonic !== undefined || change.change.scale !== undefined;
    const music = score.sections.some(
      (section) => (change.section === null || section.id === change.section) && hasMusic(section),
    );
    if (keyChanges && music)
      this.store.dispatch(
        SessionActions.groundTried({
          pending: { ...change, how: this.pendingGround()?.how ?? (this.tonicMoves(score, change) ? 'move' : 'refit') },
        }),
      );
    else
      this.store.dispatch(
        ScoreActions.revised({ name: 'change the ground', score: withGround(score, change), takes: [], released: [] }),
      );
  }

  /** A new tonic is mostly a transposition, the same tonic in another scale a new colour. */
  private tonicMoves(score: Score, { section, change }: GroundChange): boolean {
    const own = score.sections.find(({ id }) => id === section);
    const { tonic } = own ? groundOf(score, own) : score.ground;
    return change.tonic !== undefined && change.tonic !== tonic;
  }

  /** Decides a change of ground that was being heard. */
  applyGround(): void {
    const pending = this.pendingGround();
    const { score, takes } = this.song();
    if (!pending || !score) return;
    const heard = this.ownHeard();
    const followed = followGround(score, takes, heard, pending, pending.how, () => newId('take'));
    const released =
      pending.how === 'stay'
        ? []
        : Object.entries(heard).flatMap(([section, lines]) => Object.keys(lines).map((line) => ({ section, line })));
    this.store.dispatch(
      ScoreActions.revised({
        name: pending.section === null ? 'change the key' : 'change the section’s key',
        score: followed.score,
        takes: followed.takes,
        released,
      }),
    );
  }

  /** Gives what the chord line plays to a part, as a take that follows its chords. */
  giveTo(partId: PartId): void {
    const [score, section, ground] = [this.ownScore(), this.section(), this.ground()];
    const part = score?.parts.find(({ id }) => id === partId);
    const harmony = section ? soundingId(section, HARMONY, this.heard()) : null;
    if (!score || !section || !ground || !part || harmony === null) return;
    const chords = chordsIn(section, this.takes(), this.heard());
    const notes = struckChords(chords, this.setting(), ground.metre, section.bars);
    const take = voicedTake(this.place(section), part, notes, {
      from: 'the chord line',
      parents: [harmony],
      harmony,
      ground,
    });
    this.settle(
      'give the chords to a part',
      choose(score, section.id, part.id, take.id),
      [take],
      [{ section: section.id, line: part.id }],
    );
  }

  private place(section: Section): Place {
    return { id: newId('take'), section: section.id, length: this.length() };
  }
}

const same = (a: readonly ChordSpan[], b: readonly ChordSpan[]): boolean => JSON.stringify(a) === JSON.stringify(b);
