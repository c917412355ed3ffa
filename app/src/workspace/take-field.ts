import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Note, PartTake, Take, TakeId } from '@fendro/core/song/schema';
import { chordFeatures, noteFeatures } from '@fendro/core/study/features';
import { layOutByLikeness, nextSpot, type Spot, type Way } from '@fendro/core/study/likeness';
import { keyOf } from '@fendro/core/song/ground';
import { AuditionDesk } from '../desks/audition-desk';
import { TakeView } from '../desks/take-view';
import {
  selectBar,
  selectGround,
  selectLineTakes,
  selectMusic,
  selectPart,
  selectPass,
  selectSection,
} from '../store/selectors';
import { ChordSymbol } from '../ui/chord-symbol';
import { HeardList, HeardOption } from '../ui/heard-list';
import { inSlices } from '../ui/in-slices';
import { NotePicture } from '../ui/note-picture';
import { shapeOf } from '../ui/note-shape';
import { sayTake } from '../ui/spoken';

/** Takes that lie on the field: more would be too many to look at. */
const MOST = 240;
/** A spot of the field, in px. */
const [WIDE, HIGH] = [107, 50];
/** Chords that tell one progression from another. */
const CHORDS = 4;

const WAYS: Readonly<Record<string, Way>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

/** The takes of the line in focus as pictures on a field, like near like: arrows hear the nearest in their direction. */
@Component({
  selector: 'fd-take-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'key($event)' },
  imports: [ChordSymbol, HeardList, HeardOption, MatIcon, NotePicture],
  template: `
    <div
      class="field"
      fdHeardList
      byCommands
      aria-label="Takes by likeness"
      [at]="sounding()"
      [style.width.px]="size().width"
      [style.height.px]="size().height"
      (heard)="audition.hear($event)"
    >
      @for (place of places(); track place.take.id) {
        <div
          class="spot"
          [fdHeardOption]="place.take.id"
          [class.chosen]="place.take.id === audition.chosen()"
          [attr.aria-label]="said(place.take)"
          [style.left.px]="place.spot.column * wide"
          [style.top.px]="place.spot.row * high"
        >
          @if (place.take.of === 'part') {
            <fd-note-picture
              [notes]="notesOf(place.take)"
              [to]="place.take.length"
              [bar]="bar()"
              [colour]="part()?.colour ?? 0"
              [shape]="shape()"
            />
          } @else {
            <span class="symbols">
              @for (span of place.take.chords.slice(0, chords); track span.start) {
                <fd-chord-symbol [chord]="span.chord" />
              }
            </span>
          }
          <span class="mono number"
            >{{ view.numberOf(place.take.id) ?? '·' }}
            @if (view.verdictOf(place.take.id) === 'kept') {
              <mat-icon svgIcon="thumb_up" />
            }
          </span>
        </div>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      overflow: auto;
      height: 100%;
    }
    .field {
      position: relative;
      margin: 4px;
    }
    .field:focus-visible {
      outline: 2px solid var(--accent);
      outline-offset: 2px;
    }
    .spot {
      position: absolute;
      width: 103px;
      height: 46px;
      padding: 2px 2px 2px 18px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--paper);
      cursor: pointer;
      overflow: hidden;
    }
    .spot.chosen {
      border-color: var(--accent);
    }
    .spot.current {
      border: 2px solid var(--accent);
      padding: 1px 1px 1px 17px;
      background: var(--surface);
    }
    fd-note-picture {
      height: 100%;
    }
    .number {
      position: absolute;
      display: grid;
      left: 3px;
      top: 1px;
      font-size: 0.6875rem;
      color: var(--quiet);
    }
    .number mat-icon {
      width: 11px;
      height: 11px;
    }
    .symbols {
      display: flex;
      flex-wrap: wrap;
      gap: 0 6px;
      padding: 2px 2px 0;
      font-size: 0.75rem;
      overflow: hidden;
    }
  `,
})
export class TakeField {
  private readonly store = inject(Store);
  protected readonly audition = inject(AuditionDesk);
  protected readonly view = inject(TakeView);
  private readonly all = this.store.selectSignal(selectLineTakes);
  private readonly ground = this.store.selectSignal(selectGround);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly bar = this.store.selectSignal(selectBar);
  protected readonly sounding = this.audition.sounding;
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly section = this.store.selectSignal(selectSection);
  protected readonly wide = WIDE;
  protected readonly high = HIGH;
  protected readonly chords = CHORDS;
  protected readonly shape = computed(() =>
    shapeOf(this.part()?.colour ?? 0, isDrumRole(this.part()?.role ?? 'melody')),
  );
  /** Those that are listed, in the order in which they came to be, the newest where there are too many. */
  private readonly takes = computed((): readonly Take[] => {
    const listed = new Set(this.view.shown().map(({ id }) => id));
    return this.all()
      .filter(({ id }) => listed.has(id))
      .slice(-MOST);
  });
  protected readonly places = signal<readonly { readonly take: Take; readonly spot: Spot }[]>([]);
  protected readonly size = computed(() => {
    const most = (of: (spot: Spot) => number): number =>
      this.places().reduce((far, { spot }) => Math.max(far, of(spot) + 1), 0);
    return { width: WIDE * most(({ column }) => column), height: HIGH * most(({ row }) => row) };
  });

  /** As it would sound over the chords that sound now. */
  protected notesOf(take: PartTake): readonly Note[] {
    const [music, section] = [this.music(), this.section()];
    return music && section ? passNotes(music, section, take, this.pass()) : take.notes;
  }

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect((end) => {
      const [takes, bar] = [this.takes(), this.bar()];
      let stale = false;
      end(() => (stale = true));
      const features = takes.map((take) =>
        take.of === 'part' ? noteFeatures(take.notes, take.length, bar) : chordFeatures(take.chords, take.length, bar),
      );
      void inSlices(layOutByLikeness(features)).then((spots) => {
        if (!stale) this.places.set(takes.map((take, index) => ({ take, spot: spots[index] as Spot })));
      });
    });
    // The keys belong to the field as soon as it is there, and the heard take is in sight.
    let entered = false;
    afterRenderEffect(() => {
      if (this.places().length > 0 && !entered) {
        entered = true;
        host.querySelector<HTMLElement>('.field')?.focus({ preventScroll: true });
      }
      if (this.sounding() !== null)
        host.querySelector('.spot.current')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  }

  protected key(event: KeyboardEvent): void {
    const way = WAYS[event.key];
    if (!way || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    const places = this.places();
    const from = places.findIndex(({ take }) => take.id === this.sounding());
    const next =
      from < 0
        ? 0
        : nextSpot(
            places.map(({ spot }) => spot),
            from,
            way,
          );
    const id: TakeId | undefined = next === null ? undefined : places[next]?.take.id;
    if (id !== undefined) this.audition.hear(id);
  }

  protected said(take: Take): string {
    const ground = this.ground();
    const drums = isDrumRole(this.part()?.role ?? 'melody');
    const key = ground ? keyOf(ground) : { tonic: 0, scale: 'major' };
    return sayTake(take, this.view.numberOf(take.id), this.view.count(), this.view.verdictOf(take.id), key, drums);
  }
}
