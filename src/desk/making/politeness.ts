import { setTimeout as sleep } from 'node:timers/promises';
import type { Hop } from '../../core/badge/probe/evidence.js';
import type { Pace } from '../../core/sitemap/make/pace.js';
import { retryDelay } from '../../core/sitemap/make/retry-delay.js';
import type { Clock } from '../../core/time/clock.js';
import { DAY, MINUTE } from '../../core/time/duration.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { requireGoing } from '../../cancellation/cancellation.js';
import { Later } from '../jobs/work.js';

/** So much is waited for at the page; where a website wants more, the whole gathering rests. */
const WAITED_FOR = MINUTE;
/** A website that has refused for so long is taken at its word. */
const PATIENT_FOR = 2 * DAY;
/**
 * Milliseconds between two requests after the first refusal, and at the most: twice as long at each further one, a little less with each
 * answer, so that a bound on requests is found and kept to.
 */
const FIRST_GAP_MS = 250;
const LONGEST_GAP_MS = 3_000;
const EASED_BY = 0.9;
const NO_GAP_MS = 50;
/** Pages whose tries are counted. */
const MOST_COUNTED = 10_000;
/** A website that takes longer than this to answer is left alone as long again, up to a bound; in milliseconds. */
const SLOW_MS = 500;
const LONGEST_REST_MS = 5_000;

/** How a gathering heeds a website that wants to be asked more slowly, or not at all for a while. */
export class Politeness {
  private readonly tries = new Map<string, number>();
  private restUntil = 0;
  private askedAt = -Infinity;
  private gapMs = 0;
  private underWay = 0;
  private turns: Promise<void> = Promise.resolve();
  private freed: () => void = () => undefined;
  /** What was waited for after refusals, in milliseconds: it is none of the time that a gathering may take. */
  restedMs = 0;

  /** @param flush writes down what is known, before the gathering rests */
  constructor(
    private readonly clock: Clock,
    private readonly since: Date,
    private readonly pace: Pace,
    private readonly flush: () => Promise<void>,
  ) {}

  /** Requests that are made at once just now. */
  get atOnce(): number {
    return this.pace.atOnce;
  }

  /**
   * Asks for a page once that may be done. Throws Later where that is not soon.
   * @returns null where the page is to be asked for once more, later
   */
  async ask<T extends { readonly hop: Hop }>(url: string, request: () => Promise<T>): Promise<T | null> {
    const turn = this.turns.then(() => this.wait());
    this.turns = turn.catch(() => undefined);
    await turn;
    try {
      const answer = await request();
      const { hop } = answer;
      const isRefused = this.isRefused(url, hop);
      this.pace.met(hop.ms, isRefused);
      // Its turn ends only then: while one rests, as many fewer ask.
      if (!isRefused && hop.ms > SLOW_MS) await sleep(Math.min(hop.ms, LONGEST_REST_MS));
      return isRefused ? null : answer;
    } finally {
      this.underWay -= 1;
      this.freed();
    }
  }

  private isRefused(url: string, hop: Pick<Hop, 'status' | 'headers'>): boolean {
    const tries = (this.tries.get(url) ?? 0) + 1;
    const now = this.clock.now();
    const isPatient = now.getTime() - this.since.getTime() < PATIENT_FOR;
    const rest = isPatient ? retryDelay(hop, tries, now) : null;
    if (rest === null) {
      this.tries.delete(url);
      this.gapMs = this.gapMs < NO_GAP_MS ? 0 : this.gapMs * EASED_BY;
      return false;
    }
    if (this.tries.size < MOST_COUNTED) this.tries.set(url, tries);
    // What was under way at the first refusal is refused with it: that is one word, not several.
    if (performance.now() >= this.restUntil)
      this.gapMs = Math.min(Math.max(this.gapMs * 2, FIRST_GAP_MS), LONGEST_GAP_MS);
    this.restUntil = Math.max(this.restUntil, performance.now() + rest);
    return true;
  }

  /** Waits until the next request may be made. */
  private async wait(): Promise<void> {
    while (this.underWay >= this.pace.atOnce)
      await new Promise<void>((done) => {
        this.freed = done;
      });
    this.underWay += 1;
    try {
      await this.rest();
      const delay = this.askedAt + this.pace.delayMs - performance.now();
      if (delay > 0) await sleep(delay);
      requireGoing();
      this.askedAt = performance.now();
    } catch (error) {
      this.underWay -= 1;
      throw error;
    }
  }

  private async rest(): Promise<void> {
    const rest = Math.max(this.restUntil - performance.now(), this.gapMs);
    if (rest <= 0) return;
    if (rest > WAITED_FOR) {
      await this.flush();
      const until = new Date(this.clock.now().getTime() + rest);
      throw new Later(
        until,
        `The website asks us to wait until ${writtenMinute(until)} UTC; it goes on then.`,
      );
    }
    this.restedMs += rest;
    await sleep(rest);
  }
}
