import { inject, Injectable, Injector } from '@angular/core';
import { Dialogs } from '../commands/dialogs';

const WIDE = { width: '56rem', maxWidth: 'calc(100vw - 32px)' };

/** The sheets that lie over a page for a moment; all that they need is loaded when the first is asked for. */
@Injectable()
export class PageDialogs extends Dialogs {
  private readonly injector = inject(Injector);
  private readonly load = () =>
    Promise.all([
      import('@angular/material/dialog'),
      import('../commands/key-sheet'),
      import('../commands/command-search'),
      import('../workspace/carry-sheet'),
    ]);

  warmUp(): void {
    void this.load();
  }

  private opening(): ReturnType<typeof this.load> {
    this.isOpening = true;
    return this.load().finally(() => {
      this.isOpening = false;
    });
  }

  async openKeys(): Promise<void> {
    const [{ MatDialog, MatDialogConfig }, { KeySheet }] = await this.opening();
    const config = new MatDialogConfig();
    Object.assign(config, { ...WIDE, ariaLabelledBy: 'keys-title' });
    this.injector.get(MatDialog).open(KeySheet, config);
  }

  async openCarry(): Promise<void> {
    const [{ MatDialog, MatDialogConfig }, , , { CarrySheet }] = await this.opening();
    const config = new MatDialogConfig();
    Object.assign(config, { ...WIDE, width: '36rem', ariaLabelledBy: 'carry-title' });
    this.injector.get(MatDialog).open(CarrySheet, config);
  }

  async openSearch(): Promise<void> {
    const [{ MatDialog, MatDialogConfig }, , { CommandSearch }] = await this.opening();
    const config = new MatDialogConfig();
    Object.assign(config, { ...WIDE, width: '34rem', position: { top: '12vh' }, ariaLabel: 'Find a command' });
    this.injector.get(MatDialog).open(CommandSearch, config);
  }
}
