import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatFormField, MatLabel } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatProgressBar } from '@angular/material/progress-bar';
import { BankDesk } from '../../desks/shelf/bank-desk';
import { FileButton } from '../../ui/fields/file-button';

/** A folder of MIDI files: from whom it is, under which terms, and what came of it. */
@Component({
  selector: 'fd-shelf-bank',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FileButton, MatButton, MatFormField, MatInput, MatLabel, MatProgressBar, ReactiveFormsModule],
  template: `
    <form [formGroup]="form" aria-label="Bring in a folder of MIDI files" (submit)="$event.preventDefault()">
      <mat-form-field>
        <mat-label>Where they come from</mat-label>
        <input matInput formControlName="source" maxlength="60" placeholder="the folder’s name" />
      </mat-form-field>
      <mat-form-field>
        <mat-label>Licence</mat-label>
        <input matInput formControlName="licence" maxlength="120" placeholder="my own, or what you may do with them" />
      </mat-form-field>
      @if (desk.progress(); as progress) {
        <mat-progress-bar
          mode="determinate"
          aria-label="Files that have been read"
          [value]="(100 * progress.done) / progress.of"
        />
        <span class="mono">{{ progress.done }} of {{ progress.of }}</span>
        <button matButton="outlined" class="small" type="button" (click)="desk.cancel()">Give up</button>
      } @else {
        <fd-file-button
          class="small"
          label="Folder of MIDI files"
          accept=".mid,.midi,audio/midi"
          [folder]="true"
          [multiple]="true"
          (picked)="fill($event)"
          >Choose the folder</fd-file-button
        >
        <fd-file-button
          class="small"
          label="MIDI files"
          accept=".mid,.midi,audio/midi"
          [multiple]="true"
          (picked)="fill($event)"
          >or single files</fd-file-button
        >
        <button matButton class="small" type="button" (click)="left.emit()">Close</button>
      }
    </form>
    <p role="status">{{ desk.told() ?? hint }}</p>
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 10px;
    }
    mat-form-field {
      flex: 1 1 10rem;
    }
    mat-progress-bar {
      width: 12rem;
    }
    p {
      margin: 4px 0 0;
      font-size: 0.8125rem;
      color: var(--quiet);
    }
  `,
})
export class ShelfBank {
  protected readonly desk = inject(BankDesk);
  readonly left = output();
  protected readonly form = new FormGroup({
    source: new FormControl('', { nonNullable: true }),
    licence: new FormControl('', { nonNullable: true }),
  });
  protected readonly hint =
    'Phrases of up to four bars and drum patterns of up to two are cut out of every line; doubles stay out.';

  protected fill(files: readonly File[]): void {
    const { source, licence } = this.form.getRawValue();
    void this.desk.fill(files, { source: source.trim() || folderOf(files), licence: licence.trim() });
  }
}

/** The name of the folder that files were picked as; empty where they were picked one by one. */
const folderOf = ([file]: readonly File[]): string => (file?.webkitRelativePath.split('/')[0] ?? '').slice(0, 60);
