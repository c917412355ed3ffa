import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatTabLink, MatTabNav, MatTabNavPanel } from '@angular/material/tabs';

/** One of several views in the same place. */
export interface Tab<Id extends string = string> {
  readonly id: Id;
  readonly name: string;
}

/** A row of tabs over the view that is open: arrows go round and open, the open one takes Tab. */
@Component({
  selector: 'fd-tabs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTabLink, MatTabNav, MatTabNavPanel],
  template: `
    <nav mat-tab-nav-bar disablePagination [tabPanel]="panel" [attr.aria-label]="label()">
      @for (tab of tabs(); track tab.id) {
        <button
          mat-tab-link
          [active]="tab.id === current()"
          (click)="opened.emit(tab.id)"
          (focus)="tab.id !== current() && opened.emit(tab.id)"
        >
          {{ tab.name }}
        </button>
      }
    </nav>
    <mat-tab-nav-panel #panel class="panel"><ng-content /></mat-tab-nav-panel>
  `,
  styles: `
    :host,
    .panel {
      display: flex;
      flex-direction: column;
      gap: 8px;
      min-height: 0;
      flex: 1;
    }
  `,
})
export class Tabs<Id extends string = string> {
  readonly label = input.required<string>();
  readonly tabs = input.required<readonly Tab<Id>[]>();
  readonly current = input.required<Id>();
  readonly opened = output<Id>();
}
