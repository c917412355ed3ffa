import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { PartId } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { NotePicture } from '../ui/note-picture';
import type { Lane } from './lanes';

/** What leads into the section's first bar, in a narrow stretch before it. */
@Component({
  selector: 'fd-pick-ups',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NotePicture],
  template: `
    <div class="line"></div>
    @for (lane of lanes(); track lane.part.id) {
      <div class="line" [class.tall]="focus() === lane.part.id" [class.muted]="lane.part.muted">
        <fd-note-picture
          [notes]="lane.notes"
          [from]="-lead()"
          [to]="0"
          [bar]="bar()"
          [colour]="lane.part.colour"
          [shape]="lane.shape"
          [tentative]="lane.tentative"
        />
      </div>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 2px;
      min-width: 0;
      pointer-events: none;
    }
    .line {
      height: var(--line-height);
    }
    .line.tall {
      height: calc(2 * var(--line-height));
    }
    .line.muted {
      opacity: 0.45;
    }
    fd-note-picture {
      height: 100%;
    }
  `,
})
export class PickUps {
  readonly lanes = input.required<readonly Lane[]>();
  /** How long before the first bar anything begins. */
  readonly lead = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  /** The part in focus, whose lane is taller. */
  readonly focus = input<PartId | null>(null);
}
