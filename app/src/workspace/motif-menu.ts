import { ChangeDetectionStrategy, Component, inject, viewChild } from '@angular/core';
import { MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RunsCommand } from '../commands/runs-command';
import { MotifDesk, SAYINGS } from '../desks/motif-desk';
import { sayingOf } from '../ui/take-words';

/** What can be done with motifs by hand: remembered from the selected bars, and said by the part in focus. */
@Component({
  selector: 'fd-motif-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger, RunsCommand],
  template: `
    <mat-menu>
      <ng-template matMenuContent>
        @if (desk.found(); as found) {
          <button mat-menu-item fdRuns="motif.remember">Remember “{{ found.name }}”</button>
        }
        @for (motif of desk.motifs(); track motif.id) {
          <button mat-menu-item [matMenuTriggerFor]="uses">“{{ motif.name }}”</button>
          <mat-menu #uses="matMenu">
            <ng-template matMenuContent>
              @for (use of sayings; track use) {
                <button mat-menu-item (click)="desk.say(use, motif)">{{ words[use] }}</button>
              }
            </ng-template>
          </mat-menu>
        } @empty {
          @if (!desk.found()) {
            <button mat-menu-item disabled class="told">
              Nothing is remembered yet. Select up to four bars of a part, and remember what they say.
            </button>
          }
        }
      </ng-template>
    </mat-menu>
  `,
})
export class MotifMenu {
  readonly menu = viewChild.required(MatMenu);
  protected readonly desk = inject(MotifDesk);
  protected readonly sayings = SAYINGS;
  protected readonly words = Object.fromEntries(
    SAYINGS.map((use) => [use, sayingOf(use, 'it').replace(/^./, (letter) => letter.toUpperCase())]),
  );
}
