import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { nameOf } from '@fendro/core/song/edit';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { heldRuns, holdersIn } from '@fendro/core/song/holds';
import { chordsIn, sectionOf } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import { isDrumRole, isLine } from '@fendro/core/song/roles';
import { HARMONY, type ChordSpan, type Note, type Take, type TakeNote } from '@fendro/core/song/schema';
import { noteRoles, type NoteRole } from '@fendro/core/study/note-roles';
import { barTicks, METRES, type Metre } from '@fendro/core/theory/metre';
import { AuditionDesk } from '../desks/audition-desk';
import { DragOut } from '../desks/drag-out';
import { HoldDesk } from '../desks/hold-desk';
import { RunThrough } from '../desks/run-through';
import { TakeView } from '../desks/take-view';
import { selectMusic, selectPart, selectPass, selectSection } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { ChordSymbol } from '../ui/chord-symbol';
import { HeldHatch } from '../ui/held-hatch';
import { FillingLine } from '../ui/filling-line';
import { NotePicture } from '../ui/note-picture';
import { shapeOf } from '../ui/note-shape';
import { sayTake } from '../ui/spoken';

/** Bars of a progression that stand in one line. */
export const BARS_IN_LINE = 4;

/** One and the same empty lists, so that pictures without notes or signs are not drawn again. */
const SILENT: readonly Note[] = [];
const NO_ROLES: readonly NoteRole[] = [];
const NO_MARKS: readonly number[] = [];
const NO_CHORDS: readonly ChordSpan[] = [];
const COMMON_TIME = METRES[2] as Metre;

/** A take as a picture of its notes or in chord symbols, with its place and verdict. */
@Component({
  selector: 'fd-take-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NotePicture, FillingLine, HeldHatch, ChordSymbol, MatIcon],
  templateUrl: './take-row.html',
  styleUrl: './take-row.scss',
  host: {
    '[class.heard]': 'heard() && !chosen()',
    '[class.chosen]': 'chosen()',
    '[class.discarded]': "verdict() === 'discarded'",
    '[attr.aria-label]': 'said()',
    '[attr.aria-posinset]': 'place()',
    '[attr.aria-setsize]': 'count()',
    '[draggable]': "take().of === 'part'",
    '(pointerenter)': 'out.comeNear()',
    '(dragstart)': 'out.start($event, music(), take())',
  },
})
export class TakeRow {
  private readonly store = inject(Store);
  private readonly audition = inject(AuditionDesk);
  private readonly view = inject(TakeView);
  readonly take = input.required<Take>();
  /** Its place in the list, from 1 on. */
  readonly place = input.required<number>();
  /** How many takes there are. */
  readonly count = input.required<number>();
  private readonly holds = inject(HoldDesk);
  private readonly run = inject(RunThrough);
  protected readonly out = inject(DragOut);
  protected readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly inView = this.store.selectSignal(selectSection);
  /** The section that the take is of: in a list of every section's takes, not the one in view. */
  private readonly section = computed(() => {
    const [score, inView, of] = [this.music()?.score, this.inView(), this.take().section];
    return inView?.id === of || !score ? inView : (sectionOf(score, of) ?? inView);
  });
  private readonly ground = computed(() => {
    const [score, section] = [this.music()?.score, this.section()];
    return score && section ? groundOf(score, section) : null;
  });
  private readonly rolesShown = this.store.selectSignal(sessionFeature.selectRolesShown);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly chords = computed(() => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? chordsIn(section, music.takes, music.heard) : NO_CHORDS;
  });
  protected readonly bar = computed(() => barTicks(this.ground()?.metre ?? COMMON_TIME));
  protected readonly number = computed(() => this.view.numberOf(this.take().id));
  protected readonly verdict = computed(() => this.view.verdictOf(this.take().id));
  /** How long it goes on sounding in a run-through, where it is the one that sounds. */
  protected readonly until = computed(() =>
    this.heard() && this.run.lines().includes(this.part()?.id ?? HARMONY) ? this.run.step() : null,
  );
  protected readonly heard = computed(() => this.take().id === this.audition.sounding());
  protected readonly chosen = computed(() => {
    const section = this.section();
    return section !== null && chosenId(section, this.part()?.id ?? HARMONY) === this.take().id;
  });
  private readonly drums = computed(() => isDrumRole(this.part()?.role ?? 'melody'));
  protected readonly shape = computed(() => shapeOf(this.part()?.colour ?? 0, this.drums()));
  protected readonly notes = computed(() => {
    const [music, section, take] = [this.music(), this.section(), this.take()];
    return music && section && take.of === 'part'
      ? passNotes(music, section, take, this.heard() ? this.pass() : 0)
      : SILENT;
  });
  protected readonly roles = computed(() => {
    const metre = this.ground()?.metre;
    return metre && this.rolesShown() && isLine(this.part()?.role ?? 'drums')
      ? noteRoles(this.notes(), this.chords(), metre)
      : NO_ROLES;
  });
  protected readonly said = computed(() => {
    const [score, section, take] = [this.music()?.score, this.section(), this.take()];
    if (!score) return '';
    const key = keyOf(section ? groundOf(score, section) : score.ground);
    const said = sayTake(take, this.number(), this.view.count(), this.verdict(), key, this.drums());
    return [said, this.caption(), ...(this.chosen() ? ['chosen'] : [])].filter(Boolean).join(', ');
  });
  /** Its name, and what it was made of. */
  protected readonly caption = computed(() => this.view.captionOf(this.take()));
  protected readonly name = computed(() => {
    const score = this.music()?.score;
    return score ? nameOf(score, this.take().id) : null;
  });
  /** Bars of the line that no draft changes. */
  protected readonly held = computed(() => heldRuns(this.holds.holds(), this.section()?.bars ?? 0));
  /** Places of single notes that no draft changes. */
  protected readonly heldNotes = computed((): readonly number[] => {
    const [notes, held] = [this.notes(), holdersIn(this.holds.holds(), this.take())];
    return held.size === 0
      ? NO_MARKS
      : notes.flatMap((note, index) => (held.has((note as TakeNote).id) ? [index] : []));
  });
  /** A progression in lines of four bars. */
  protected readonly lines = computed((): readonly (readonly ChordSpan[])[] => {
    const take = this.take();
    const lines: ChordSpan[][] = [];
    for (const span of take.of === 'harmony' ? take.chords : [])
      (lines[Math.floor(span.start / (BARS_IN_LINE * this.bar()))] ??= []).push(span);
    return lines.filter((line) => line.length > 0);
  });
}
