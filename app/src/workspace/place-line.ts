import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RunsCommand } from '../commands/runs-command';
import { PlaceDesk } from '../desks/place-desk';
import { Redrafting } from '../desks/redrafting';

/** What is otherwise in the place in view, in words, and the way back; bars that are missing, and how they come. */
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
    @if (missing(); as words) {
      <p role="note" aria-label="Missing bars">
        {{ words }}
        <button matButton="outlined" class="small" fdRuns="section.draft-missing">Draft the missing bars</button>
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
  private readonly redrafting = inject(Redrafting);
  /** “Bars 9 to 12 are empty in 6 lines.” */
  protected readonly missing = computed(() => {
    const lines = [...this.redrafting.missing().values()];
    const [from, to] = [Math.min(...lines.flat()) + 1, Math.max(...lines.flat()) + 1];
    if (lines.length === 0) return null;
    const bars = from === to ? `Bar ${from} is` : `Bars ${from} to ${to} are`;
    return `${bars} empty in ${lines.length === 1 ? 'one line' : `${lines.length} lines`}.`;
  });
}
