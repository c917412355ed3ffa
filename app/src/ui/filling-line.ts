import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import { prefersReducedMotion } from './reduced-motion';

/** A thin line that fills until something comes. It moves on the compositor; where motion is unwanted it stands full. */
@Component({
  selector: 'fd-filling-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: `
    :host {
      display: block;
      height: 2px;
      flex: none;
      border-radius: 1px;
      background: var(--accent);
      transform-origin: left;
    }
  `,
  host: { 'aria-hidden': 'true' },
})
export class FillingLine {
  /** When it began, on the clock of `performance`, and how long it lasts, in ms. */
  readonly since = input.required<number>();
  readonly lasts = input.required<number>();

  constructor() {
    const line = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect((end) => {
      const [since, lasts] = [this.since(), this.lasts()];
      if (typeof line.animate !== 'function' || prefersReducedMotion()) return;
      const gone = performance.now() - since;
      const moving = line.animate([{ transform: 'scaleX(0)' }, { transform: 'scaleX(1)' }], {
        duration: Math.max(1, lasts),
        delay: -gone,
        fill: 'both',
      });
      end(() => {
        moving.cancel();
      });
    });
  }
}
