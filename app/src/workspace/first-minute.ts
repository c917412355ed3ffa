import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Guide, GUIDE_STEPS } from '../desks/guide';

/** The guided first minute as a strip along the foot of the workspace. */
@Component({
  selector: 'fd-first-minute',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIconButton, MatIcon],
  template: `
    @if (guide.open()) {
      <section class="strip" aria-label="First minute">
        <ol>
          @for (step of steps; track step.title; let index = $index) {
            <li
              [class.now]="index === guide.step()"
              [class.done]="index < guide.step()"
              [attr.aria-current]="index === guide.step() ? 'step' : null"
            >
              @if (index < guide.step()) {
                <mat-icon svgIcon="check" />
              } @else {
                <span class="mono">{{ index + 1 }}</span>
              }
              {{ step.title }}
            </li>
          }
        </ol>
        <p aria-live="polite">{{ now()?.text }}</p>
        <button matButton="outlined" class="small" (click)="guide.go(guide.step() + 1)">Next</button>
        <button matIconButton class="small" aria-label="Put the first minute away" (click)="guide.dismiss()">
          <mat-icon svgIcon="close" />
        </button>
      </section>
    }
  `,
  styles: `
    .strip {
      flex: none;
      flex-wrap: wrap;
      display: flex;
      align-items: center;
      gap: 4px 16px;
      padding: 6px 14px;
      border-top: 1px solid var(--line);
      background: var(--accent-faint);
    }
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 14px;
      margin: 0;
      padding: 0;
      list-style: none;
      color: var(--quiet);
      white-space: nowrap;
    }
    li {
      display: flex;
      align-items: center;
      gap: 5px;
    }
    li.now {
      color: var(--ink);
      font-weight: 600;
    }
    li mat-icon {
      width: 16px;
      height: 16px;
      color: var(--accent);
    }
    p {
      flex: 1 1 12rem;
      margin: 0;
    }
  `,
})
export class FirstMinute {
  protected readonly guide = inject(Guide);
  protected readonly steps = GUIDE_STEPS;
  protected readonly now = computed(() => GUIDE_STEPS[this.guide.step()]);
}
