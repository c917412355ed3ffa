import { prefersReducedMotion } from './reduced-motion';

/** A stretch of the page that a mark goes along, in px. */
export interface Way {
  readonly from: number;
  readonly to: number;
  readonly top: number;
  /** Of the mark; as its style says where it is left out. */
  readonly height?: number;
}

/** Time between two steps of the mark with reduced motion, in ms. */
const STEP_MS = 125;
/** A mark may be this much early or late before it is set right. */
const TOLERATED_MS = 25;

const easingOf = (lasts: number): string =>
  prefersReducedMotion() && Number.isFinite(lasts) ? `steps(${Math.max(1, Math.round(lasts / STEP_MS))})` : 'linear';

const same = (a: Way | null, b: Way): boolean =>
  a !== null && a.from === b.from && a.to === b.to && a.top === b.top && a.height === b.height;

/**
 * A mark that goes over the page as the music goes on. The browser's compositor moves it: between two stretches the
 * page itself has nothing to do.
 */
export class MovingMark {
  private way: Way | null = null;
  private lasts = 0;
  private moving: Animation | null = null;

  constructor(private readonly element: HTMLElement) {}

  hide(): void {
    this.moving?.cancel();
    this.moving = null;
    this.way = null;
    this.element.hidden = true;
  }

  /**
   * Says where the mark is now; it goes on from there by itself.
   *
   * @param way    the stretch that it goes along
   * @param at     how much of it lies behind, 0–1
   * @param lasts  how long the whole of it takes, in ms; Infinity where the music stands
   */
  show(way: Way, at: number, lasts: number): void {
    if (this.moving && same(this.way, way) && this.isInTime(at, lasts)) return;
    this.moving?.cancel();
    this.way = way;
    this.lasts = lasts;
    this.element.hidden = false;
    this.element.style.height = way.height === undefined ? '' : `${way.height}px`;
    // Before the first note it stands.
    const still = !Number.isFinite(lasts);
    this.moving = this.element.animate(
      [way.from, way.to].map((x) => ({ transform: `translate(${x}px, ${way.top}px)` })),
      { duration: still ? 1 : lasts, easing: easingOf(lasts), fill: 'both' },
    );
    if (still) this.moving.pause();
    this.moving.currentTime = at * (still ? 1 : lasts);
  }

  private isInTime(at: number, lasts: number): boolean {
    if (!Number.isFinite(lasts)) return false;
    const now = Number(this.moving?.currentTime ?? 0);
    const left = (1 - at) * lasts;
    return Math.abs(now - at * this.lasts) <= TOLERATED_MS && Math.abs(this.lasts - now - left) <= TOLERATED_MS;
  }
}
