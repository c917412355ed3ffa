import { afterRenderEffect, ChangeDetectionStrategy, Component, ElementRef, inject } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { RunsCommand } from '../commands/runs-command';
import { VersionsDesk, type ShownVersion } from '../desks/versions-desk';
import { TextField } from '../ui/fields/text-field';

/** The versions of the section in view by their names, the one that plays underlined. */
@Component({
  selector: 'fd-section-versions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton, MatMenu, MatMenuItem, MatMenuTrigger, MatTooltip, RunsCommand, TextField],
  template: `
    <div class="versions" role="group" aria-label="Versions of the section">
      @for (version of desk.shown(); track version.id; let index = $index) {
        @if (version.present && desk.naming()) {
          <fd-text-field
            class="small naming"
            label="Name of this version"
            mayBeEmpty
            [value]="version.name"
            (changed)="desk.rename($event)"
            (focusout)="desk.naming.set(false)"
            (keydown.escape)="desk.naming.set(false)"
          />
        } @else {
          <button
            class="version"
            [class.present]="version.present"
            [attr.aria-pressed]="version.present"
            [matTooltip]="told(version, index)"
            (click)="desk.switchTo(index, $event.shiftKey)"
          >
            <span class="mono quiet">{{ index + 1 }}</span><span class="words">{{ version.name }}</span>
          </button>
        }
      }
      <button matIconButton class="small" [matMenuTriggerFor]="menu" aria-label="Further for versions">
        <mat-icon svgIcon="more_horiz" />
      </button>
    </div>
    <mat-menu #menu="matMenu">
      <button mat-menu-item fdRuns="version.name">Name this version …</button>
      @for (version of desk.shown(); track version.id; let index = $index) {
        @if (desk.places() > 1 && !version.present) {
          <button mat-menu-item (click)="desk.switchTo(index, true)">Only here: “{{ version.name }}”</button>
        }
      }
      <button mat-menu-item fdRuns="version.remove">Take this version out</button>
    </mat-menu>
  `,
  styles: `
    .versions {
      display: flex;
      align-items: center;
      gap: 4px;
      padding: 0 12px 0 18px;
      min-width: 0;
    }
    .version {
      display: flex;
      gap: 6px;
      align-items: baseline;
      min-width: 0;
      padding: 4px 8px;
      border: 0;
      border-bottom: 2px solid transparent;
      background: transparent;
      color: var(--ink);
      font-size: 0.8125rem;
      cursor: pointer;
    }
    .version.present {
      border-bottom-color: var(--accent);
      font-weight: 600;
    }
    .words {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .quiet {
      color: var(--quiet);
      font-weight: 400;
    }
    .naming {
      width: 11rem;
    }
    @media (pointer: coarse) {
      .version {
        min-height: 44px;
        align-items: center;
      }
    }
  `,
})
export class SectionVersions {
  protected readonly desk = inject(VersionsDesk);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterRenderEffect(() => {
      if (this.desk.naming()) host.querySelector<HTMLInputElement>('.naming input')?.select();
    });
  }

  protected told({ name, present, places }: ShownVersion, index: number): string {
    const played = places === 0 ? 'in no place' : places === 1 ? 'in one place' : `in ${places} places`;
    return present ? `“${name}” plays ${played}` : `“${name}” plays ${played}; ${index + 1} switches to it`;
  }
}
