import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import type { PartId } from '@fendro/core/song/schema';
import { selectBar, selectView } from '../store/selectors';
import { timeScale } from '../ui/time-scale';
import type { System } from './bar-geometry';

/** Pales the bars of a lane in which its part rests in the place in view. Decorative: the line above says it. */
@Component({
  selector: 'fd-rest-shade',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (rest of rests(); track rest.left) {
    <span [style.left.%]="rest.left" [style.width.%]="rest.width"></span>
  }`,
  styles: `
    span {
      position: absolute;
      top: 0;
      bottom: 0;
      z-index: 1;
      background: var(--surface);
      opacity: 0.78;
      pointer-events: none;
    }
  `,
})
export class RestShade {
  private readonly store = inject(Store);
  readonly part = input.required<PartId>();
  readonly system = input.required<System>();
  private readonly view = this.store.selectSignal(selectView);
  private readonly bar = this.store.selectSignal(selectBar);

  protected readonly rests = computed(() => {
    const [bars, { from, to }, bar] = [this.view()?.occurrence.rests?.[this.part()] ?? [], this.system(), this.bar()];
    const x = timeScale(from, to);
    return bars
      .filter((own) => own * bar >= from && own * bar < to)
      .map((own) => ({ left: x(own * bar), width: x((own + 1) * bar) - x(own * bar) }));
  });
}
