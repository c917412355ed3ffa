import { prefersReducedMotion } from './reduced-motion';

/** A stretch of the page that a mark goes along, in px. */
export interface Way {
  readonly from: number;
  readonly to: number;
  readonly top: number;
  /** Of the mark; as its style says where it is left out. */
  readonly height?: number;
}

/** Least time between two steps of the mark with reduced motion, in ms. */
const STEP_MS = 100;
/** A mark may be this much early or late before it is set right. */
const TOLERATED_MS = 25;

const translation = (x: number, { top }: Way): string => `translate(${x}px, ${top}px)`;

const same = (a: Way | null, b: Way): boolean =>
  a !== null && a.from === b.from && a.to === b.to && a.top === b.top && a.height === b.height;

/**
 * A mark that goes over the page as the music goes on. The browser's compositor moves it: between two stretches the
 * page itself has nothing to do. With reduced motion it moves in steps, and the compositor rests between them.
 */
export class MovingMark {
  private way: Way | null = null;
  private lasts = 0;
  private moving: Animation | null = null;
  private stepped = -Infinity;

  constructor(private readonly element: HTMLElement) {}

  hide(): void {
    this.moving?.cancel();
    this.moving = null;
    this.way = null;
    this.stepped = -Infinity;
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
    if (prefersReducedMotion()) this.step(way, at, lasts);
    else if (!this.moving || !same(this.way, way) || !this.isInTime(at, lasts)) this.glide(way, at, lasts);
  }

  /** Places the mark, unless its last step along the same stretch was only just taken. */
  private step(way: Way, at: number, lasts: number): void {
    const now = performance.now();
    if (Number.isFinite(lasts) && same(this.way, way) && now - this.stepped < STEP_MS) return;
    this.begin(way);
    this.stepped = now;
    this.element.style.transform = translation(way.from + at * (way.to - way.from), way);
  }

  /** Lets the browser move the mark. Before the first note it stands. */
  private glide(way: Way, at: number, lasts: number): void {
    this.begin(way);
    this.lasts = lasts;
    const still = !Number.isFinite(lasts);
    const duration = still ? 1 : lasts;
    this.moving = this.element.animate(
      [way.from, way.to].map((x) => ({ transform: translation(x, way) })),
      { duration, fill: 'both' },
    );
    if (still) this.moving.pause();
    this.moving.currentTime = at * duration;
  }

  private begin(way: Way): void {
    this.moving?.cancel();
    this.moving = null;
    this.way = way;
    this.element.hidden = false;
    this.element.style.height = way.height === undefined ? '' : `${way.height}px`;
  }

  private isInTime(at: number, lasts: number): boolean {
    if (!Number.isFinite(lasts)) return false;
    const now = Number(this.moving?.currentTime ?? 0);
    const left = (1 - at) * lasts;
    return Math.abs(now - at * this.lasts) <= TOLERATED_MS && Math.abs(this.lasts - now - left) <= TOLERATED_MS;
  }
}
