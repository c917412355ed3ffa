import { ChangeDetectionStrategy, Component } from '@angular/core';
import { Specimens } from './specimens';

/** Every small part of the interface in its states, by day and by night: for those who make Fendro. */
@Component({
  selector: 'fd-parts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Specimens],
  template: `
    <div class="page">
      <h1>Small parts</h1>
      <p class="lead">What every screen is made of, in its states, by day and by night.</p>
      <div class="themes">
        @for (theme of themes; track theme) {
          <fd-specimens [theme]="theme" />
        }
      </div>
    </div>
  `,
  styleUrl: '../pages.scss',
  styles: `
    .page {
      max-width: 84rem;
    }
    .themes {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 26rem), 1fr));
      gap: 16px;
    }
  `,
})
export class Parts {
  protected readonly themes = ['day', 'night'] as const;
}
