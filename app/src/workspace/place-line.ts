import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RunsCommand } from '../commands/runs-command';
import { PlaceDesk } from '../desks/place-desk';

/** What is otherwise in the place in view, in words, and the way back. */
@Component({
  selector: 'fd-place-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, RunsCommand],
  template: `
    @if (desk.isOwn()) {
      <p role="note" aria-label="In this place">
        <span class="quiet">In this place:</span> {{ desk.told().join('; ') }}
        <button matButton class="small" fdRuns="place.plain">As everywhere</button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      align-items: center;
      gap: 8px;
      margin: 0;
      padding: 0 12px 2px 18px;
      font-size: 0.8125rem;
    }
  `,
})
export class PlaceLine {
  protected readonly desk = inject(PlaceDesk);
}
