import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { Playback } from '../../sound/playback';
import type { Position } from '../../sound/position-watch';
import { MovingMark } from '../../ui/moving-mark';
import { NotePicture } from '../../ui/note-picture';
import type { NoteShape } from '../../ui/note-shape';

/** What a pattern sounds in the pass of this moment, over the chords, with the place that sounds. */
@Component({
  selector: 'fd-pattern-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NotePicture],
  template: `
    <fd-note-picture
      [notes]="notes()"
      [to]="length()"
      [bar]="bar()"
      [colour]="colour()"
      [shape]="shape()"
      [chords]="chords()"
    />
    <div #head class="head" hidden></div>
  `,
  styleUrl: '../../ui/moving-mark.scss',
  styles: `
    :host {
      display: block;
      position: relative;
    }
    fd-note-picture {
      height: 100%;
    }
  `,
})
export class PatternPicture {
  private readonly playback = inject(Playback);
  readonly notes = input.required<readonly Note[]>();
  readonly chords = input.required<readonly ChordSpan[]>();
  readonly length = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  readonly colour = input.required<number>();
  readonly shape = input.required<NoteShape>();
  /** Where the section lies in the running order, in ticks. */
  readonly start = input.required<Ticks>();
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const mark = new MovingMark(this.head().nativeElement);
      destroyed.onDestroy(
        this.playback.watch((position) => {
          this.follow(mark, position, host);
        }),
      );
    });
  }

  private follow(mark: MovingMark, position: Position | null, { clientWidth, clientHeight }: HTMLElement): void {
    const at = (position?.tick ?? -1) - this.start();
    const length = this.length();
    if (!position || at < 0 || at >= length) mark.hide();
    else mark.show({ from: 0, to: clientWidth, top: 0, height: clientHeight }, at / length, length / position.speed);
  }
}
