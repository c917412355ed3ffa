import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { KeyTable } from '../commands/key-table';
import { Guide } from '../desks/guide';
import { OwnKeys } from './own-keys';

/** How things are done, the words, the keys. */
@Component({
  selector: 'fd-help',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeyTable, OwnKeys, MatButton],
  templateUrl: './help.html',
  styleUrls: ['./pages.scss', './help.scss'],
})
export class Help {
  private readonly guide = inject(Guide);
  private readonly router = inject(Router);

  protected takeUpGuide(): void {
    this.guide.resume();
    void this.router.navigateByUrl('/');
  }
}
