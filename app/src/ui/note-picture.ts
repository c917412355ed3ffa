import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  input,
  linkedSignal,
  viewChild,
} from '@angular/core';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { NoteRole } from '@fendro/core/study/note-roles';
import type { Ticks } from '@fendro/core/theory/units';
import { hostSize } from './canvas';
import { inView } from './in-view';
import { layersOf, noteUnder, type Layer, type NoteScene } from './note-layers';
import type { NoteShape } from './note-shape';

/**
 * A picture of notes over time, over faint bands of the chords. Decorative: the words beside it say what it shows. It is
 * an SVG: each canvas is a layer of its own for the browser, and a page shows dozens of pictures.
 */
@Component({
  selector: 'fd-note-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg #surface aria-hidden="true">
      @for (layer of layers(); track $index) {
        <path
          [attr.d]="layer.path"
          [style.fill]="layer.stroke ? 'none' : 'var(' + layer.token + ')'"
          [style.stroke]="layer.stroke ? 'var(' + layer.token + ')' : 'none'"
          [attr.stroke-width]="layer.stroke"
          [attr.fill-opacity]="layer.opacity"
          [attr.stroke-opacity]="layer.opacity"
        />
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
  `,
})
export class NotePicture {
  readonly notes = input.required<readonly Note[]>();
  readonly from = input<Ticks>(0);
  readonly to = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  readonly colour = input(0);
  readonly shape = input<NoteShape>('bar');
  readonly chords = input<readonly ChordSpan[]>([]);
  /** Places in the list of notes that are marked, as rubbing against the chords. */
  readonly marks = input<readonly number[]>([]);
  /** Places in the list of notes that are held, each by itself. */
  readonly held = input<readonly number[]>([]);
  /** Places in the list of notes that are picked. */
  readonly picked = input<readonly number[]>([]);
  /** What each note does against its chord, in the order of the notes: drawn as a sign over all but chord notes. */
  readonly roles = input<readonly NoteRole[]>([]);
  /** Notes of another take, drawn hollow over these. */
  readonly hollow = input<readonly Note[]>([]);
  /** Draws the notes faintly, as of a take that is only tried. */
  readonly tentative = input(false);

  private readonly surface = viewChild.required<ElementRef<SVGElement>>('surface');
  private readonly seen = inView();
  private readonly size = hostSize();

  private readonly scene = computed<NoteScene>(() => ({
    notes: this.notes(),
    from: this.from(),
    to: this.to(),
    bar: this.bar(),
    colour: this.colour(),
    shape: this.shape(),
    chords: this.chords(),
    marks: this.marks(),
    held: this.held(),
    picked: this.picked(),
    roles: this.roles(),
    hollow: this.hollow(),
    tentative: this.tentative(),
    size: this.size(),
  }));

  /** Out of view it stays as it was drawn, and is drawn again when it comes into view. */
  protected readonly layers = linkedSignal<readonly Layer[] | null, readonly Layer[]>({
    source: () => (this.seen() ? layersOf(this.scene()) : null),
    computation: (drawn, before) => drawn ?? before?.value ?? [],
  });

  /** The note under a pointer, as its place in the list; null where there is none. */
  noteAt({ clientX, clientY }: Pick<PointerEvent, 'clientX' | 'clientY'>): number | null {
    const frame = this.surface().nativeElement.getBoundingClientRect();
    return noteUnder(this.scene(), clientX - frame.left, clientY - frame.top);
  }
}
