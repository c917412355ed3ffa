import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MOVES, movesOf, standing, type MoveKind } from '@fendro/core/song/moves';
import type { Placed } from '@fendro/core/song/resolve';
import type { Part } from '@fendro/core/song/schema';
import { MovesDesk, nameOfLine } from '../desks/moves-desk';
import { ValueStrip, type ValuePoint } from '../ui/value-strip';

/** How the part in focus moves in the mix over one place of the running order. */
@Component({
  selector: 'fd-move-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ValueStrip],
  template: `
    <fd-value-strip
      [hint]="'Drag: how the ' + kind() + ' of ' + part().name + ' moves here. Double click: as in the mix'"
      [label]="name() + ' of ' + part().name + ' in ' + place().section.name"
      plain="as in the mix"
      [colour]="'var(--part-' + part().colour + ')'"
      [length]="place().length"
      [low]="range().low"
      [high]="range().high"
      [curve]="curve()"
      [stands]="stands()"
      (drawn)="draw($event)"
      (stepped)="draw($event, kind() + ' ' + place().occurrence.id)"
    />
  `,
})
export class MoveStrip {
  private readonly desk = inject(MovesDesk);
  readonly place = input.required<Placed>();
  readonly part = input.required<Part>();
  readonly kind = input.required<MoveKind>();
  protected readonly name = computed(() => nameOfLine(this.kind()));
  protected readonly range = computed(() => MOVES[this.kind()]);
  protected readonly curve = computed(() => movesOf(this.place().occurrence, this.part().id)[this.kind()] ?? null);
  protected readonly stands = computed(() => standing(this.part(), this.kind()));

  protected draw(points: readonly ValuePoint[], gesture?: string): void {
    this.desk.draw(this.place().occurrence.id, this.kind(), points, gesture);
  }
}
