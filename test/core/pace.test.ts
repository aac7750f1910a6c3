import { describe, expect, it } from 'vitest';
import { Pace } from '../../src/core/sitemap/make/pace.js';

/** How many requests at once it allows after answers of so many milliseconds each. */
function after(pace: Pace, ms: number, count: number, isRefused = false): number {
  for (let nth = 0; nth < count; nth += 1) pace.met(ms, isRefused);
  return pace.atOnce;
}

describe('the pace of a gathering', () => {
  it('begins with two at once, whatever is allowed', () => {
    expect(new Pace(8).atOnce).toBe(2);
    expect(new Pace(1).atOnce).toBe(1);
  });
  it('grows while a website answers quickly, and not beyond what is allowed', () => {
    expect(after(new Pace(8), 1, 8)).toBe(3);
    expect(after(new Pace(8), 1, 1_000)).toBe(8);
    expect(after(new Pace(3), 1, 1_000)).toBe(3);
  });
  it('stays as it is where a website takes its time', () => {
    expect(after(new Pace(8), 300, 1_000)).toBe(2);
  });
  it('is halved where a website slows down, once for all that was under way', () => {
    const pace = new Pace(8);
    after(pace, 2, 1_000);
    expect(after(pace, 900, 1)).toBe(4);
    expect(after(pace, 900, 8)).toBe(4);
    expect(after(pace, 1_200, 1)).toBe(2);
  });
  it('is halved by a refusal, and grows again', () => {
    const pace = new Pace(8);
    after(pace, 2, 1_000);
    expect(after(pace, 2, 1, true)).toBe(4);
    expect(after(pace, 2, 1_000)).toBe(8);
    expect(after(pace, 2, 100, true)).toBe(1);
  });
  it('keeps to the wait that a robots.txt asks for', () => {
    const pace = new Pace(8, 2.5);
    expect(after(pace, 1, 1_000)).toBe(1);
    expect(pace.delayMs).toBe(2_500);
    expect(new Pace(8).delayMs).toBe(0);
  });
});
