import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, resource } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { InRegion } from '../commands/regions';
import { SessionActions, type Drawer } from '../store/session';
import { pageMemory } from '../ui/page-memory';
import { DRAWERS } from './registry';

const LEAST_PX = 120;
const STEP_PX = 24;
/** Of the window's height; the sheet keeps the rest. */
const MOST = 2 / 3;

const keptUnder = (drawer: Drawer): string => `fendro drawer ${drawer}`;

/** The frame of whatever stands open under the sheet: its name, its way out, and a handle that pulls it higher. */
@Component({
  selector: 'fd-drawer-frame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NgComponentOutlet, InRegion, MatIconButton, MatIcon],
  template: `
    <section
      class="drawer"
      fdRegion="drawer"
      [attr.aria-label]="entry().name"
      [attr.data-opened-by]="'[data-opens=' + drawer() + ']'"
      [style.height.px]="height()"
    >
      <div
        class="handle"
        role="separator"
        aria-orientation="horizontal"
        tabindex="0"
        aria-label="Height of the drawer"
        [attr.aria-valuenow]="height()"
        [attr.aria-valuemin]="least"
        [attr.aria-valuemax]="most()"
        (pointerdown)="grip($event)"
        (pointermove)="pull($event)"
        (pointerup)="from = null"
        (pointercancel)="from = null"
        (dblclick)="set(entry().height)"
        (keydown)="key($event)"
      ></div>
      <button
        matIconButton
        class="small close"
        [attr.aria-label]="'Close the ' + entry().name.toLowerCase()"
        (click)="close()"
      >
        <mat-icon svgIcon="close" />
      </button>
      @if (content.value(); as component) {
        <ng-container [ngComponentOutlet]="component" />
      } @else if (content.error()) {
        <p class="problem" role="alert">
          {{ entry().name }} could not be loaded. Check the connection, close the drawer and open it again.
        </p>
      }
    </section>
  `,
  styleUrl: './drawer-frame.scss',
})
export class DrawerFrame {
  private readonly store = inject(Store);
  readonly drawer = input.required<Drawer>();
  protected readonly entry = computed(() => DRAWERS[this.drawer()]);
  protected readonly content = resource({
    params: () => this.drawer(),
    loader: ({ params }) => DRAWERS[params].load(),
  });
  protected readonly least = LEAST_PX;
  protected readonly most = (): number => Math.max(LEAST_PX, Math.floor(window.innerHeight * MOST));
  private readonly wished = linkedSignal(() => {
    const kept = Number(pageMemory.get(keptUnder(this.drawer())) ?? Number.NaN);
    return Number.isFinite(kept) ? kept : this.entry().height;
  });
  protected readonly height = computed(() => Math.max(LEAST_PX, Math.min(this.most(), this.wished())));
  /** Where the pointer took hold, and how high the drawer stood. */
  protected from: { readonly y: number; readonly height: number } | null = null;

  protected set(height: number): void {
    this.wished.set(height);
    pageMemory.set(keptUnder(this.drawer()), String(this.height()));
  }

  protected grip(event: PointerEvent): void {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.from = { y: event.clientY, height: this.height() };
  }

  protected pull(event: PointerEvent): void {
    if (this.from) this.set(this.from.height + this.from.y - event.clientY);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'ArrowUp') this.set(this.height() + STEP_PX);
    else if (event.key === 'ArrowDown') this.set(this.height() - STEP_PX);
    else if (event.key === 'Home') this.set(LEAST_PX);
    else if (event.key === 'End') this.set(this.most());
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected close(): void {
    this.store.dispatch(SessionActions.drawerToggled({ drawer: this.drawer() }));
  }
}
