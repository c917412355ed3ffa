import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import type { Placed } from '@fendro/core/song/resolve';
import { ArrangementDesk } from '../desks/arrangement-desk';
import { selectScore } from '../store/selectors';
import { ValueStrip, type ValuePoint } from '../ui/value-strip';

/** What the strip shows of a tempo, in % of the section's own. */
const [SLOWEST, FASTEST] = [50, 150];

/** How the tempo goes over a section, in all of its places. */
@Component({
  selector: 'fd-tempo-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ValueStrip],
  template: `
    <fd-value-strip
      [hint]="hint()"
      [label]="'Tempo of ' + place().section.name"
      [plain]="words(100)"
      [inWords]="words"
      [length]="place().length"
      [low]="slowest"
      [high]="fastest"
      [curve]="place().section.tempos ?? null"
      [stands]="100"
      (drawn)="draw($event)"
      (stepped)="draw($event, 'tempos ' + place().section.id)"
    />
  `,
})
export class TempoStrip {
  private readonly desk = inject(ArrangementDesk);
  private readonly score = inject(Store).selectSignal(selectScore);
  readonly place = input.required<Placed>();
  protected readonly slowest = SLOWEST;
  protected readonly fastest = FASTEST;
  protected readonly hint = computed(
    () => `Drag: how the tempo goes in ${this.place().section.name}, wherever it plays. Double click: steady`,
  );
  private readonly own = computed(() => {
    const score = this.score();
    return score ? groundOf(score, this.place().section).tempo : 0;
  });
  protected readonly words = (share: number): string => `${Math.round((this.own() * share) / 100)} beats a minute`;

  protected draw(points: readonly ValuePoint[], gesture?: string): void {
    this.desk.drawTempo(this.place().section, points, gesture);
  }
}
