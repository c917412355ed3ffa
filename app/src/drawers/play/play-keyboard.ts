import { DestroyRef, inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import type { Addition } from '@fendro/core/live/chords-offered';
import { isCovered, takesText } from '../../commands/keys';
import { PlayDesk } from '../../desks/playing/play-desk';
import { ADDING_KEYS, LEFT_KEYS, RIGHT_KEYS, TURNING_KEYS } from '../../desks/playing/play-keys';

const placeIn = (keys: readonly string[], code: string): number => keys.indexOf(code);

/**
 * Lets the letters play while the desk is armed: they come here before they could mean commands. What is typed into text
 * stays there, and whatever takes the keys away takes all fingers off.
 */
@Injectable()
export class PlayKeyboard {
  private readonly desk = inject(PlayDesk);
  private readonly router = inject(Router);
  private readonly adding = new Set<Addition>();
  /** Keys that turn the chord, the last one pressed last. */
  private turning: readonly string[] = [];
  /** Keys that are down: what was begun here ends here. */
  private readonly pressed = new Set<string>();

  constructor() {
    const down = (event: KeyboardEvent): void => {
      this.down(event);
    };
    const up = (event: KeyboardEvent): void => {
      this.up(event);
    };
    const rest = (): void => {
      this.rest();
    };
    const hidden = (): void => {
      if (document.hidden) this.rest();
    };
    document.addEventListener('keydown', down, { capture: true });
    document.addEventListener('keyup', up, { capture: true });
    document.addEventListener('visibilitychange', hidden);
    window.addEventListener('blur', rest);
    inject(DestroyRef).onDestroy(() => {
      document.removeEventListener('keydown', down, { capture: true });
      document.removeEventListener('keyup', up, { capture: true });
      document.removeEventListener('visibilitychange', hidden);
      window.removeEventListener('blur', rest);
      this.desk.disarm();
    });
  }

  private down(event: KeyboardEvent): void {
    if (!this.listens(event)) return;
    if (event.key === 'Escape') {
      this.forget();
      this.desk.disarm();
    } else if (TURNING_KEYS.has(event.code)) {
      // Shift goes on meaning what it means elsewhere.
      if (!event.repeat) this.turn([...this.turning, event.code], event.timeStamp);
      return;
    } else if (!this.plays(event)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
  }

  private listens(event: KeyboardEvent): boolean {
    const elsewhere = this.router.url.split(/[?#]/)[0] !== '/' || takesText(event.target) || isCovered(event.target);
    return this.desk.armed() && !elsewhere && !event.ctrlKey && !event.metaKey && !event.altKey && !event.isComposing;
  }

  /** @returns whether the key is one of the desk's */
  private plays({ code, repeat, timeStamp }: KeyboardEvent): boolean {
    const [left, right, addition] = [placeIn(LEFT_KEYS, code), placeIn(RIGHT_KEYS, code), ADDING_KEYS.get(code)];
    if (left < 0 && right < 0 && addition === undefined) return false;
    if (repeat) return true;
    this.pressed.add(code);
    if (left >= 0) this.desk.hold(code, left, timeStamp);
    else if (right >= 0) this.desk.touch(code, right, timeStamp);
    else if (addition !== undefined) this.desk.add(new Set(this.adding.add(addition)), timeStamp);
    return true;
  }

  private up({ code, timeStamp }: KeyboardEvent): void {
    if (this.turning.includes(code))
      this.turn(
        this.turning.filter((other) => other !== code),
        timeStamp,
      );
    if (!this.pressed.delete(code)) return;
    const addition = ADDING_KEYS.get(code);
    if (addition === undefined) this.desk.letGo(code, timeStamp);
    else {
      this.adding.delete(addition);
      this.desk.add(new Set(this.adding), timeStamp);
    }
  }

  private turn(keys: readonly string[], at: number): void {
    this.turning = keys;
    this.desk.turn(TURNING_KEYS.get(keys.at(-1) ?? '') ?? null, at);
  }

  private rest(): void {
    this.forget();
    this.desk.rest();
  }

  private forget(): void {
    this.pressed.clear();
    this.adding.clear();
    this.turning = [];
  }
}
