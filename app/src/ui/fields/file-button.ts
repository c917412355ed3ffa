import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';

/** A button that lets files be picked. */
@Component({
  selector: 'fd-file-button',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon],
  template: `
    <button matButton="outlined" (click)="field.click()"><mat-icon svgIcon="upload" /><ng-content /></button>
    <input
      #field
      class="spoken-only"
      type="file"
      tabindex="-1"
      [attr.aria-label]="label()"
      [accept]="accept()"
      [multiple]="multiple()"
      [attr.webkitdirectory]="folder() ? '' : null"
      (change)="pick(field)"
    />
  `,
  styles: `
    :host {
      position: relative;
      display: inline-flex;
    }
  `,
})
export class FileButton {
  readonly label = input.required<string>();
  readonly accept = input.required<string>();
  readonly multiple = input(false);
  /** A whole folder is picked, with what lies in folders inside it. */
  readonly folder = input(false);
  readonly picked = output<readonly File[]>();

  protected pick(field: HTMLInputElement): void {
    const files = [...(field.files ?? [])];
    // The same file may be picked again.
    field.value = '';
    if (files.length > 0) this.picked.emit(files);
  }
}
