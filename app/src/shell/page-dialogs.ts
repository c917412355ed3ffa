import { inject, Injectable, Injector } from '@angular/core';
import { MatDialog, MatDialogConfig } from '@angular/material/dialog';
import { Dialogs } from '../commands/dialogs';

const wide = (own: Partial<MatDialogConfig>): MatDialogConfig =>
  Object.assign(new MatDialogConfig(), { width: '56rem', maxWidth: 'calc(100vw - 32px)' }, own);

/** The sheets that lie over a page for a moment; each is loaded when it is first asked for. */
@Injectable()
export class PageDialogs extends Dialogs {
  private readonly injector = inject(Injector);

  private readonly load = {
    keys: () => import('../commands/key-sheet'),
    search: () => import('../commands/command-search'),
  };

  /** Has them at hand before they are asked for. */
  warmUp(): void {
    void this.load.keys();
    void this.load.search();
  }

  async openKeys(): Promise<void> {
    const { KeySheet } = await this.load.keys();
    this.injector.get(MatDialog).open(KeySheet, wide({ ariaLabelledBy: 'keys-title' }));
  }

  async openSearch(): Promise<void> {
    const { CommandSearch } = await this.load.search();
    this.injector
      .get(MatDialog)
      .open(CommandSearch, wide({ width: '34rem', position: { top: '12vh' }, ariaLabel: 'Find a command' }));
  }
}
