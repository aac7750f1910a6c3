import { SECOND } from '../../time/duration.js';

/** Requests at once with which it begins, whatever the website. */
const FIRST_AT_ONCE = 2;
/** A website that answers faster than this bears one request more, once it has done so for a while; in milliseconds. */
const FAST_MS = 150;
/** One that takes so much longer than it usually does is asked less; in times, and never for less than so many milliseconds. */
const SLOWER = 4;
const SLOW_MS = 500;
/** How much one answer counts for what is usual. */
const WEIGHT = 0.1;

/**
 * How fast a website is gone through, by what it bears: more requests at once while it answers quickly, half as many where it slows down
 * or refuses.
 */
export class Pace {
  private now: number;
  private usualMs = 0;
  /** Quick answers since the number was changed. */
  private quick = 0;
  /** Answers that were under way when the number was changed say nothing of what it is now. */
  private passedOver = 0;

  /**
   * @param most requests at once
   * @param delaySeconds between two requests, as the robots.txt asks (`Crawl-delay`, which no standard has and many files do)
   */
  constructor(
    private readonly most: number,
    private readonly delaySeconds: number | null = null,
  ) {
    this.now = delaySeconds === null ? Math.min(most, FIRST_AT_ONCE) : 1;
  }

  /** Requests that may be under way at once. */
  get atOnce(): number {
    return this.now;
  }

  /** Milliseconds between two requests. */
  get delayMs(): number {
    return (this.delaySeconds ?? 0) * SECOND;
  }

  /** Takes an answer into account. @param ms that it took @param isRefused whether it asks for patience */
  met(ms: number, isRefused: boolean): void {
    if (this.delaySeconds !== null) return;
    if (this.passedOver > 0) {
      this.passedOver -= 1;
      return;
    }
    const isSlow = this.usualMs > 0 && ms > Math.max(this.usualMs * SLOWER, SLOW_MS);
    if (isRefused || isSlow) {
      this.become(Math.max(1, this.now >> 1));
      return;
    }
    this.usualMs = this.usualMs === 0 ? ms : this.usualMs + (ms - this.usualMs) * WEIGHT;
    this.quick = ms <= FAST_MS ? this.quick + 1 : 0;
    if (this.quick >= this.now * 4 && this.now < this.most) this.become(this.now + 1);
  }

  private become(next: number): void {
    this.passedOver = next < this.now ? this.now : 0;
    this.now = next;
    this.quick = 0;
  }
}
