import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { KEY_LIST } from '../shell/key-list';
import { Guide } from '../desks/guide';

/** How things are done, the words, the keys. */
@Component({
  selector: 'fd-help',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './help.html',
  styleUrls: ['./pages.scss', './help.scss'],
})
export class Help {
  private readonly guide = inject(Guide);
  private readonly router = inject(Router);
  protected readonly groups = KEY_LIST;

  protected takeUpGuide(): void {
    this.guide.resume();
    void this.router.navigateByUrl('/');
  }
}
