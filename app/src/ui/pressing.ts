import { booleanAttribute, Directive, input, output } from '@angular/core';

/** Something that sounds as long as it is pressed, by pointer, finger or key; each finger presses for itself. */
@Directive({
  selector: '[fdPressing]',
  host: {
    '(pointerdown)': 'press($event)',
    '(pointerup)': 'letGo()',
    '(pointercancel)': 'letGo()',
    '(lostpointercapture)': 'letGo()',
    '(keydown)': 'key($event)',
    '(keyup)': 'keyUp($event)',
    '(blur)': 'letGo()',
  },
})
export class Pressing {
  /** False where it could do nothing. */
  readonly fdPressing = input(true, { transform: booleanAttribute });
  /** When it was pressed and let go, in ms of the page's clock. */
  readonly pressed = output<number>();
  readonly released = output<number>();
  private down = false;

  protected press(event: PointerEvent): void {
    if (event.button !== 0 || !this.fdPressing()) return;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.begin();
  }

  protected key(event: KeyboardEvent): void {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    if (!event.repeat && this.fdPressing()) this.begin();
  }

  protected keyUp({ key }: KeyboardEvent): void {
    if (key === 'Enter' || key === ' ') this.letGo();
  }

  private begin(): void {
    if (this.down) return;
    this.down = true;
    this.pressed.emit(performance.now());
  }

  protected letGo(): void {
    if (!this.down) return;
    this.down = false;
    this.released.emit(performance.now());
  }
}
