import { afterRenderEffect, ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { ActivatedRoute, Router } from '@angular/router';
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
  private readonly fragment = toSignal(inject(ActivatedRoute).fragment);

  constructor() {
    // To the part of the page that a link names: the page scrolls inside its frame, where the browser does not look.
    afterRenderEffect(() => {
      const part = document.getElementById(this.fragment() ?? '');
      part?.scrollIntoView();
      part?.focus({ preventScroll: true });
    });
  }

  protected takeUpGuide(): void {
    this.guide.resume();
    void this.router.navigateByUrl('/');
  }
}
