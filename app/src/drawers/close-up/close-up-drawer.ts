import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { keyOf, groundOf } from '@fendro/core/song/ground';
import { holdersIn, holdsOf } from '@fendro/core/song/holds';
import { listed } from '@fendro/core/song/limits';
import { own } from '@fendro/core/song/look-up';
import { partTake } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { chosenId } from '@fendro/core/song/section';
import type { Note } from '@fendro/core/song/schema';
import { EXPRESSION_NAMES } from '@fendro/core/shaping/curves';
import { meant } from '@fendro/core/shaping/room';
import { handsOf } from '@fendro/core/sounding/dealt';
import { drumName } from '@fendro/core/sounding/drum-names';
import { writtenNotes } from '@fendro/core/sounding/written';
import { beatsOf } from '@fendro/core/theory/metre';
import { isTreated } from '@fendro/core/treat/treated';
import { InRegion } from '../../commands/regions';
import { RunsCommand } from '../../commands/runs-command';
import { CloseUpDesk } from '../../desks/close-up-desk';
import { CloseUpView, ROW_CHOICES, SNAPS } from '../../desks/close-up-view';
import { NotesDesk } from '../../desks/notes-desk';
import { TakeEdits } from '../../desks/take-edits';
import { TakeView } from '../../desks/take-view';
import { selectBar, selectChords, selectHeard, selectMusic, selectPart, selectSection } from '../../store/selectors';
import { ChoiceField, choicesOf } from '../../ui/fields/choice-field';
import { NumberField } from '../../ui/fields/number-field';
import { shapeOf } from '../../ui/note-shape';
import { nameIn } from '../../ui/spoken';
import { ChordBlocks } from './chord-blocks';
import { rowsOf } from './row-layout';
import { CloseUpStrip } from './close-up-strip';
import { CloseUpSurface, type Shown } from './surface';

const NONE: readonly Note[] = [];

/** The notes of the part in focus, to be shaped one by one while the music plays on. */
@Component({
  selector: 'fd-close-up-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    ChordBlocks,
    CloseUpStrip,
    CloseUpSurface,
    InRegion,
    MatButton,
    MatIcon,
    MatIconButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    NumberField,
    RunsCommand,
  ],
  templateUrl: './close-up-drawer.html',
  styleUrls: ['../drawer.scss', './close-up-drawer.scss'],
})
export class CloseUpDrawer {
  private readonly store = inject(Store);
  protected readonly desk = inject(CloseUpDesk);
  protected readonly view = inject(CloseUpView);
  private readonly picks = inject(NotesDesk);
  protected readonly edits = inject(TakeEdits);
  private readonly takes = inject(TakeView);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly scroller = viewChild<ElementRef<HTMLElement>>('scroller');

  protected readonly snaps = SNAPS;
  protected readonly rowChoices = choicesOf(ROW_CHOICES);
  protected readonly strips = computed(() => choicesOf(this.view.strips()));
  protected readonly expressions = EXPRESSION_NAMES;
  protected readonly percentBounds = { least: 0, most: 100 };
  protected readonly strikesBounds = { least: 1, most: 16 };

  private readonly ground = computed(() => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? groundOf(music.score, section) : null;
  });
  protected readonly drums = this.desk.drums;
  protected readonly player = this.desk.player;

  protected readonly rows = computed(() => {
    const [ground, room] = [this.ground(), this.desk.room()];
    return rowsOf({
      choice: this.view.rows(),
      notes: [...this.desk.notes(), ...this.rival()],
      drums: this.drums(),
      key: ground ? keyOf(ground) : { tonic: 0, scale: 'major' },
      chords: this.chords(),
      room: room ?? { low: 48, high: 84 },
    });
  });

  /** The chosen take's notes while another one is heard. */
  private readonly rival = computed((): readonly Note[] => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section || !part || own(own(this.heard(), section.id), part.id) === undefined) return NONE;
    return partTake(music.takes, chosenId(section, part.id))?.notes ?? NONE;
  });

  private readonly behind = computed(() => {
    const [music, section] = [this.music(), this.section()];
    if (!music || !section) return [];
    return music.score.parts
      .filter(({ id }) => id !== this.part()?.id && this.view.behind().includes(id))
      .map((part) => ({ notes: writtenNotes(music, section, part.id), colour: part.colour }));
  });

  protected readonly shown = computed((): Shown => {
    const [section, part, take, ground] = [this.section(), this.part(), this.picks.take(), this.ground()];
    const held = section && part && take ? [...holdersIn(holdsOf(section, part.id), take).keys()] : [];
    const beats = ground ? beatsOf(ground.metre) : [];
    return {
      notes: this.desk.notes(),
      held: new Set(held),
      behind: this.behind(),
      rival: this.rival(),
      chords: this.chords(),
      drums: this.drums(),
      colour: this.player()?.colour ?? 0,
      shape: shapeOf(this.player()?.colour ?? 0, false),
      bar: this.bar(),
      beat: beats[1]?.at ?? 480,
    };
  });

  /** Parts whose notes can stand behind: those of a kind, since drums have rows of their own. */
  protected readonly others = computed(() =>
    (this.music()?.score.parts ?? []).filter(
      ({ id, role }) => id !== this.part()?.id && isDrumRole(role) === this.drums(),
    ),
  );

  protected readonly title = computed(() => {
    const id = this.edits.soundingId();
    return id === null ? 'nothing is played here yet' : `${this.takes.nameOf(id)}${this.further()}`;
  });

  /** What becomes of the notes that are shown before they sound; empty where they sound as they are. */
  private readonly further = computed(() => {
    const [music, section, part, take] = [this.music(), this.section(), this.part(), this.picks.take()];
    if (!music || !section || !part || !take) return '';
    const still = [
      ...(isTreated(part, take) ? ['treated'] : []),
      ...(handsOf(music, section, part).length > 0 ? ['dealt out'] : []),
    ];
    return still.length === 0 ? '' : `, before it is ${listed(still)}`;
  });

  protected readonly names = computed(() => {
    const ground = this.ground();
    if (!ground) return [];
    const drums = this.drums();
    return this.rows()
      .all.filter(({ kind }) => kind === 'full')
      .map((row) => ({ ...row, text: drums ? drumName(row.pitch) : nameIn(keyOf(ground), row.pitch) }));
  });

  /** What is picked, in words for everyone. */
  protected readonly told = computed(() => {
    const [count, picked] = [this.desk.notes().length, this.desk.ids().size];
    if (picked === 0) return count === 1 ? '1 note' : `${count} notes`;
    return `${picked} of ${count} picked`;
  });

  protected readonly chance = computed(() => this.shared((note) => note.chance ?? 100) ?? 100);
  protected readonly strikes = computed(() => this.shared((note) => note.strikes ?? 1) ?? 1);

  /** What all picked notes have; that of the first where they differ. */
  private shared(of: (note: Note) => number): number | null {
    const [first] = meant(this.desk.notes(), this.desk.ids());
    return first ? of(first) : null;
  }

  constructor() {
    // The line is in view when the drawer opens, and whenever another line is.
    let last: string | undefined;
    const middle = (): number =>
      untracked(() => {
        const rows = this.rows();
        const tops = this.desk.notes().flatMap(({ pitch }) => rows.of(pitch)?.top ?? []);
        return tops.length === 0 ? 0 : (Math.min(...tops) + Math.max(...tops)) / 2;
      });
    afterRenderEffect(() => {
      const name = `${this.section()?.id} ${this.part()?.id} ${this.view.rows()}`;
      const scroller = this.scroller()?.nativeElement;
      if (!scroller || name === last) return;
      last = name;
      scroller.scrollTop = middle() - scroller.clientHeight / 2;
    });
  }
}
