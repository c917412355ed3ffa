import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { RunsCommand } from '../commands/runs-command';
import { SheetDesk } from '../desks/sheet-desk';
import { selectPart } from '../store/selectors';

/** What can be done to the selected bars, beside them on the sheet. */
@Component({
  selector: 'fd-bars-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, RunsCommand],
  template: `
    <div class="strip" role="toolbar" [attr.aria-label]="'Bars ' + name()">
      <span class="quiet">{{ name() }}</span>
      @if (part()) {
        <button matIconButton class="small" fdRuns="part.alone" aria-label="Hear this part alone">
          <mat-icon svgIcon="headphones" />
        </button>
        <button matButton class="small" fdRuns="bars.rest">Rest</button>
        <button matButton class="small" fdRuns="bars.octave-down" aria-label="Octave down">8 ↓</button>
        <button matButton class="small" fdRuns="bars.octave-up" aria-label="Octave up">8 ↑</button>
        <button matButton class="small" fdRuns="bars.softer">Softer</button>
        <button matButton class="small" fdRuns="bars.louder">Louder</button>
      }
      <button matButton class="small" fdRuns="bars.solo">Solo here</button>
      <button matIconButton class="small" fdRuns="sheet.drop" aria-label="Drop the selection">
        <mat-icon svgIcon="close" />
      </button>
    </div>
  `,
  styles: `
    .strip {
      display: flex;
      align-items: center;
      gap: 2px;
      padding: 2px 4px 2px 10px;
      background: var(--surface);
      border: 1px solid var(--accent);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
      font-size: 0.8125rem;
      white-space: nowrap;
    }
    .quiet {
      margin-inline-end: 6px;
    }
  `,
})
export class BarsStrip {
  private readonly desk = inject(SheetDesk);
  protected readonly part = inject(Store).selectSignal(selectPart);
  protected readonly name = computed(() => {
    const bars = this.desk.selected();
    if (!bars) return '';
    return bars.to - bars.from === 1 ? `${bars.from + 1}` : `${bars.from + 1}–${bars.to}`;
  });
}
