import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Notices } from '../store/notices';

/** The notices that are open, one below the other: what they offer, and putting them away. */
@Component({
  selector: 'fd-notice-slips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIconButton, MatIcon],
  template: `
    <ul aria-label="Messages">
      @for (notice of notices.open(); track notice.id) {
        <li>
          <span>{{ notice.text }}</span>
          @if (notice.action; as action) {
            <button matButton="outlined" class="small" (click)="notices.act(notice)">{{ action.label }}</button>
          }
          <button matIconButton class="small" aria-label="Dismiss" (click)="notices.dismiss(notice.id)">
            <mat-icon svgIcon="close" />
          </button>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 4px 6px 4px 12px;
    }
    li + li {
      border-top: 1px solid var(--line);
    }
    span {
      flex: 1;
    }
  `,
})
export class NoticeSlips {
  protected readonly notices = inject(Notices);
}
