import {
  afterNextRender,
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  viewChild,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending-names';
import { ENERGY_SHAPES } from '@fendro/core/song/energy';
import { nameOfKind } from '@fendro/core/song/edit';
import { isDrumRole } from '@fendro/core/song/roles';
import { writtenNotes } from '@fendro/core/sounding/written';
import { type Placed } from '@fendro/core/song/resolve';
import { SECTION_KINDS } from '@fendro/core/song/schema';
import { TICKS_PER_QUARTER } from '@fendro/core/theory/units';
import { InRegion } from '../commands/regions';
import { RunsCommand } from '../commands/runs-command';
import { ArrangementDesk, SECTION_FORMS } from '../desks/arrangement-desk';
import { Playback } from '../sound/playback';
import { tellPlace } from '@fendro/core/song/place';
import { CutDesk } from '../desks/cut-desk';
import { METRES, metreText } from '@fendro/core/theory/metre';
import { range } from '@fendro/core/theory/units';
import { MOVE_KINDS } from '@fendro/core/song/moves';
import { isOfSong, MovesDesk, nameOfLine } from '../desks/moves-desk';
import { PlaceDesk } from '../desks/place-desk';
import { selectMusic, selectPart, selectPlaced, selectView } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { EnergyStrip } from './energy-strip';
import { MoveStrip } from './move-strip';
import { TempoStrip } from './tempo-strip';
import { growing } from '../ui/growing';
import { MovingMark } from '../ui/moving-mark';
import { NotePicture } from '../ui/note-picture';
import { shapeOf } from '../ui/note-shape';
import { Sortable, type Moved } from '../ui/sortable';

/** The sections in the order in which they are played, as wide as they are long, with a glance at what each holds. */
@Component({
  selector: 'fd-running-order',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Sortable,
    EnergyStrip,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    NotePicture,
    InRegion,
    RunsCommand,
    MatButton,
    MatIconButton,
    MatIcon,
    MoveStrip,
    TempoStrip,
  ],
  templateUrl: './running-order.html',
  styleUrl: './running-order.scss',
})
export class RunningOrder {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly music = this.store.selectSignal(selectMusic);
  protected readonly placed = this.store.selectSignal(selectPlaced);
  protected readonly shownPlaces = growing(this.placed, 4, ({ occurrence }) => occurrence.id);
  protected readonly view = this.store.selectSignal(selectView);
  private readonly looping = this.store.selectSignal(sessionFeature.selectLooping);
  protected readonly desk = inject(ArrangementDesk);
  protected readonly inPlace = inject(PlaceDesk);
  protected readonly playCounts = range(8).map((index) => index + 1);
  protected readonly moveKinds = MOVE_KINDS;
  protected readonly cuts = inject(CutDesk);
  protected readonly metreChoices = METRES.map((metre) => ({ metre, text: metreText(metre) }));
  protected readonly part = this.store.selectSignal(selectPart);
  private readonly moves = inject(MovesDesk);
  /** What is drawn over the sections in place of the energy: how the part in focus moves. */
  protected readonly drawnMove = computed(() => {
    const [part, line] = [this.part(), this.moves.line()];
    return part && !isOfSong(line) ? { part, kind: line } : null;
  });
  protected readonly showsTempo = computed(() => this.moves.line() === 'tempo');
  protected readonly lineName = computed(() => {
    const move = this.drawnMove();
    return nameOfLine(move ? move.kind : this.showsTempo() ? 'tempo' : 'energy');
  });
  protected readonly sectionForms = SECTION_FORMS;
  protected readonly shapes = ENERGY_SHAPES;
  /** What an ending is and how long it lasts. */
  protected readonly endings = computed(() =>
    this.desk
      .endings()
      .map((ending) => ({
        ending,
        text: `${ENDING_NAMES[ending].name}, ${ENDING_NAMES[ending].bars === 1 ? '1 bar' : '2 bars'}`,
      })),
  );
  protected readonly kinds = SECTION_KINDS.map((kind) => ({ kind, name: nameOfKind(kind) }));
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly track = viewChild.required<ElementRef<HTMLElement>>('track');

  /** What sections are called, with their versions where several of one sound. */
  protected readonly names = computed(
    () => new Map(this.desk.existing().map(({ section, name }) => [section.id, name])),
  );

  /** The parts that tell most at a glance: what sounds highest and what beats. */
  protected glance(place: Placed) {
    const music = this.music();
    if (!music) return [];
    return music.score.parts
      .map((part) => ({ part, notes: writtenNotes(music, place.section, part.id) }))
      .filter(({ notes, part }) => notes.length > 0 && !isDrumRole(part.role) && part.role !== 'pad')
      .slice(0, 2)
      .map(({ part, notes }) => ({ id: part.id, notes, colour: part.colour, shape: shapeOf(part.colour, false) }));
  }

  constructor() {
    // Long running orders scroll: the place in view stays in sight.
    afterRenderEffect(() => {
      this.view();
      this.placed();
      const now = this.track().nativeElement.querySelector<HTMLElement>('.section[aria-current="true"]');
      now?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
      if (document.activeElement?.matches('.section') && document.activeElement !== now) now?.focus();
    });
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const mark = new MovingMark(this.head().nativeElement);
      destroyed.onDestroy(
        this.playback.watch((position) => {
          // Sections are laid out with gaps, so the mark goes by the section it is in rather than by the whole.
          const index = position ? this.placed().findLastIndex(({ start }) => start <= position.tick) : -1;
          const [place, box] = [this.placed()[index], this.track().nativeElement.children[index]];
          if (position && place && box instanceof HTMLElement)
            mark.show(
              { from: box.offsetLeft, to: box.offsetLeft + box.offsetWidth, top: 0 },
              (position.tick - place.start) / place.length,
              place.length / position.speed,
            );
          else mark.hide();
        }),
      );
    });
  }

  protected barsOf(place: Placed): number {
    return place.length / TICKS_PER_QUARTER;
  }

  protected total(): number {
    return this.placed().reduce((bars, { section }) => bars + section.bars, 0);
  }

  protected look(place: Placed): void {
    this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: place.occurrence.id }));
    // While the song plays through, another section is gone to, not only looked at.
    if (this.playback.playing() && !this.looping()) void this.playback.play(place.start);
  }

  protected label(place: Placed, index: number): string {
    const own = tellPlace(place.occurrence, this.music()?.score.parts ?? []);
    return [
      this.names().get(place.section.id),
      `${place.section.bars} bars`,
      `${index + 1} of ${this.placed().length}`,
      ...own,
    ].join(', ');
  }

  /** What is otherwise in a place, as short as can be. */
  protected marks({ occurrence: { lift, rests } }: Placed): string {
    return [lift === undefined ? '' : lift > 0 ? `+${lift}` : `−${-lift}`, rests ? 'rests' : '']
      .filter(Boolean)
      .join(' ');
  }

  protected readonly restWords = computed(() => {
    const part = this.part()?.name ?? 'the part';
    return this.inPlace.rests() ? `${part} plays again, here only` : `${part} rests, here only`;
  });

  /** From section to section; the focus goes along. */
  protected key(event: KeyboardEvent, index: number): void {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (by === 0 || event.altKey || event.shiftKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    const next = this.placed()[index + by];
    if (next) this.look(next);
  }

  protected dropped({ from, to }: Moved): void {
    const place = this.placed()[from];
    if (place) this.desk.move(place.occurrence.id, to);
  }
}
