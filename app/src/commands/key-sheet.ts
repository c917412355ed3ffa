import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { KeyTable } from './key-table';

/** All keys on one sheet, over whatever page is open. */
@Component({
  selector: 'fd-key-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeyTable, MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle, RouterLink],
  template: `
    <h2 matDialogTitle id="keys-title">Keys</h2>
    <mat-dialog-content tabindex="0"><fd-key-table /></mat-dialog-content>
    <mat-dialog-actions align="end">
      <a matButton routerLink="/help" fragment="keys" matDialogClose>Change keys</a>
      <button matButton="filled" matDialogClose>Close</button>
    </mat-dialog-actions>
  `,
})
export class KeySheet {}
