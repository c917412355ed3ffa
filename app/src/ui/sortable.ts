import type { DragRef, DropListRef } from '@angular/cdk/drag-drop';
import {
  booleanAttribute,
  Directive,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  type OnDestroy,
} from '@angular/core';
import { fetchWhenIdle } from './fetch-ahead';

export interface Moved {
  readonly from: number;
  readonly to: number;
}

/**
 * A row of items that can be dragged to other places, each by its handle. What drags them is fetched when the page has
 * nothing better to do, or when a pointer comes near.
 */
@Directive({ selector: '[fdSortable]', host: { '(pointerenter)': 'dragging ?? fetch()' } })
export class Sortable implements OnDestroy {
  private readonly injector = inject(Injector);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** The things that the items stand for: other things are other items. */
  readonly fdSortable = input.required<readonly unknown[]>();
  /** Finds the items in the row. */
  readonly items = input.required<string>();
  /** Finds what an item is dragged by, in the item; all of it where nothing is said. */
  readonly handle = input<string>();
  /** True where the items go on in further lines, as words do. */
  readonly wraps = input(false, { transform: booleanAttribute });
  readonly moved = output<Moved>();
  protected dragging: Promise<void> | null = null;
  private list: DropListRef | null = null;
  private drags: DragRef[] = [];
  private gone = false;

  constructor() {
    effect(() => {
      this.fdSortable();
      if (this.dragging) this.fetch();
    });
    fetchWhenIdle(() => {
      this.fetch();
    });
  }

  protected fetch(): void {
    // The items are on the page by then.
    this.dragging = import('@angular/cdk/drag-drop').then((dragging) => {
      if (!this.gone) this.attach(dragging);
    });
  }

  private attach({ createDragRef, createDropListRef }: typeof import('@angular/cdk/drag-drop')): void {
    if (!this.list) {
      this.list = createDropListRef(this.injector, this.element).withOrientation(this.wraps() ? 'mixed' : 'horizontal');
      if (!this.wraps()) this.list.lockAxis = 'x';
      this.list.dropped.subscribe(({ previousIndex, currentIndex }) => {
        if (previousIndex !== currentIndex) this.moved.emit({ from: previousIndex, to: currentIndex });
      });
    }
    for (const drag of this.drags) drag.dispose();
    this.drags = [...this.element.querySelectorAll<HTMLElement>(this.items())].map((item) => {
      const by = this.handle();
      const handle = by === undefined ? null : item.querySelector<HTMLElement>(by);
      return createDragRef(this.injector, item).withHandles(handle ? [handle] : []);
    });
    this.list.withItems(this.drags);
  }

  ngOnDestroy(): void {
    this.gone = true;
    for (const drag of this.drags) drag.dispose();
    this.list?.dispose();
  }
}
