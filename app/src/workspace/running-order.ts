import { CdkDrag, CdkDragHandle, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
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
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { ENDING_NAMES, endSong } from '@fendro/core/compose/ending';
import { ENERGY_SHAPES, shapedEnergy } from '@fendro/core/song/energy';
import { freeName, nameOfKind } from '@fendro/core/song/edit';
import { LIMITS } from '@fendro/core/song/limits';
import { isDrumRole } from '@fendro/core/song/roles';
import { writtenNotes } from '@fendro/core/sounding/stages';
import { type Placed } from '@fendro/core/song/resolve';
import { SECTION_KINDS, type SectionKind, type SectionId } from '@fendro/core/song/schema';
import { newSection } from '@fendro/core/styles/band';
import { ENDINGS, type Ending } from '@fendro/core/song/style';
import { styleIn } from '@fendro/core/styles/styles';
import { TICKS_PER_QUARTER } from '@fendro/core/theory/units';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import {
  selectMusic,
  selectOwnScore,
  selectPlaced,
  selectScore,
  selectSession,
  selectTakes,
  selectView,
} from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { Icon } from '../ui/icon';
import { EnergyStrip } from './energy-strip';
import { NotePicture, shapeOf } from '../ui/note-picture';

/** The sections in the order in which they are played, as wide as they are long, with a glance at what each holds. */
@Component({
  selector: 'fd-running-order',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkDropList,
    CdkDrag,
    CdkDragHandle,
    EnergyStrip,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    Icon,
    NotePicture,
  ],
  templateUrl: './running-order.html',
  styleUrl: './running-order.scss',
})
export class RunningOrder {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly music = this.store.selectSignal(selectMusic);
  protected readonly placed = this.store.selectSignal(selectPlaced);
  protected readonly view = this.store.selectSignal(selectView);
  private readonly session = this.store.selectSignal(selectSession);
  protected readonly shapes = ENERGY_SHAPES;
  protected readonly kinds = SECTION_KINDS.map((kind) => ({ kind, name: nameOfKind(kind) }));
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly track = viewChild.required<ElementRef<HTMLElement>>('track');

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
      this.track()
        .nativeElement.querySelector<HTMLElement>('.section[aria-current="true"]')
        ?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((tick) => {
          const head = this.head().nativeElement;
          const score = this.score();
          head.hidden = tick === null;
          if (tick === null || !score) return;
          // Sections are laid out with gaps, so the mark goes by the section it is in rather than by the whole.
          const place = this.placed().findLastIndex(({ start }) => start <= tick);
          const box = this.track().nativeElement.children[place] as HTMLElement | undefined;
          const found = this.placed()[place];
          if (box && found)
            head.style.transform = `translateX(${box.offsetLeft + (box.offsetWidth * (tick - found.start)) / found.length}px)`;
        }),
      );
    });
  }

  protected shapeEnergy(shape: (typeof ENERGY_SHAPES)[number]): void {
    const score = this.score();
    if (score) this.store.dispatch(ScoreActions.energyShaped({ points: shapedEnergy(score, shape) }));
  }

  protected levelEnergy(): void {
    this.store.dispatch(ScoreActions.energyShaped({ points: [] }));
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
    if (this.playback.playing() && !this.session().looping) void this.playback.play(place.start);
  }

  protected label(place: Placed, index: number): string {
    return `${place.section.name}, ${place.section.bars} bars, ${index + 1} of ${this.placed().length}`;
  }

  protected key(event: KeyboardEvent, place: Placed, index: number): void {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (by === 0) {
      if (event.key === 'Delete') this.remove(place);
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    if (event.altKey) this.move(place, index + by);
    else {
      const next = this.placed()[index + by];
      if (!next) return;
      this.look(next);
    }
    setTimeout(() => {
      this.track().nativeElement.querySelector<HTMLElement>('.section[aria-current="true"]')?.focus();
    });
  }

  protected dropped({ item, currentIndex }: CdkDragDrop<Placed[]>): void {
    this.move(item.data as Placed, currentIndex);
  }

  private move(place: Placed, to: number): void {
    if (to >= 0 && to < this.placed().length)
      this.store.dispatch(ScoreActions.occurrenceMoved({ occurrence: place.occurrence.id, to }));
  }

  protected readonly placesFull = computed(() => (this.score()?.order.length ?? 0) >= LIMITS.places);
  protected readonly sectionsFull = computed(
    () => this.placesFull() || (this.score()?.sections.length ?? 0) >= LIMITS.sections,
  );
  protected readonly limit = computed(() => {
    if (this.placesFull()) return `A running order holds up to ${LIMITS.places} places. Take some out first.`;
    return this.sectionsFull()
      ? `A song holds up to ${LIMITS.sections} sections; those that are there can be repeated.`
      : null;
  });

  protected add(kind: SectionKind): void {
    const score = this.score();
    if (!score) return;
    const section = newSection(
      styleIn(score, score.ground.style),
      kind,
      newId('section'),
      freeName(score, nameOfKind(kind)),
    );
    const after = this.view()?.occurrence.id;
    this.store.dispatch(
      ScoreActions.sectionAdded({ section, occurrence: newId('occurrence'), ...(after ? { after } : {}) }),
    );
  }

  /** Ways to end the song, the style's own first. */
  protected readonly endingsOffered = computed(() => {
    const score = this.score();
    const own = styleIn(score, score?.ground.style ?? '').ending;
    return [own, ...ENDINGS.filter((ending) => ending !== own)].map((ending) => ({
      ending,
      text: `${ENDING_NAMES[ending].name}, ${ENDING_NAMES[ending].bars === 1 ? '1 bar' : '2 bars'}`,
    }));
  });

  /** Adds an ending that every part plays, after the last section. */
  protected end(ending: Ending): void {
    const score = this.ownScore();
    const ended = score ? endSong(score, this.takes(), ending, newId) : null;
    if (ended)
      this.store.dispatch(
        ScoreActions.revised({
          name: 'end the song',
          score: ended.score,
          takes: ended.takes,
          released: [],
          view: ended.occurrence,
        }),
      );
  }

  /** The sections that can sound again. */
  protected existing() {
    return this.score()?.sections ?? [];
  }

  protected repeat(section: SectionId): void {
    const after = this.view()?.occurrence.id;
    this.store.dispatch(
      ScoreActions.occurrenceAdded({ occurrence: { id: newId('occurrence'), section }, ...(after ? { after } : {}) }),
    );
  }

  protected remove(place: Placed): void {
    this.store.dispatch(ScoreActions.occurrenceRemoved({ occurrence: place.occurrence.id }));
  }
}
