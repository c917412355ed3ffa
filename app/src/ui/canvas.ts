import { afterNextRender, DestroyRef, effect, ElementRef, inject, signal, type Signal } from '@angular/core';

/** How large something is on the page, in px. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** How large the element of a component is, as it changes; nothing until it stands on the page. */
export function hostSize(): Signal<Size> {
  const host = inject<ElementRef<HTMLElement>>(ElementRef);
  const destroyed = inject(DestroyRef);
  const size = signal<Size>({ width: 0, height: 0 });
  afterNextRender(() => {
    if (typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) size.set({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(host.nativeElement);
    destroyed.onDestroy(() => {
      observer.disconnect();
    });
  });
  return size.asReadonly();
}

/** How wide an element of a component's template is, as it changes; 0 while it is not there. */
export function widthOf(element: Signal<ElementRef<HTMLElement> | undefined>): Signal<number> {
  const width = signal(0);
  effect((end) => {
    const node = element()?.nativeElement;
    if (!node || typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(() => {
      width.set(node.clientWidth);
    });
    observer.observe(node);
    end(() => {
      observer.disconnect();
    });
  });
  return width.asReadonly();
}

/** The pen of a canvas that is so large on the page, in units of its px; null while there is nothing to draw on. */
export function penOf(canvas: HTMLCanvasElement, { width, height }: Size): CanvasRenderingContext2D | null {
  if (width === 0 || height === 0) return null;
  const [wide, high] = [Math.round(width * devicePixelRatio), Math.round(height * devicePixelRatio)];
  // Setting its size costs more than drawing on it.
  if (canvas.width !== wide) canvas.width = wide;
  if (canvas.height !== high) canvas.height = high;
  const pen = canvas.getContext('2d');
  if (!pen) return null;
  pen.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  pen.clearRect(0, 0, width, height);
  return pen;
}
