import { describe, expect, test } from 'vitest';
import { badgeIntervals, type StandingHistory } from '../../src/core/badge/intervals.js';

const day = (number: number) => new Date(Date.UTC(2026, 5, number));
const bare: StandingHistory = { enrolledAt: day(1), endedAt: null, tokens: [], checks: [], ownerships: [] };
const token = (issued: number, replaced: number | null = null, id = 'first') => ({
  id,
  method: 'meta' as const,
  issuedAt: day(issued),
  replacedAt: replaced === null ? null : day(replaced),
});
const check = (first: number, last: number, seen: boolean, tokenId = 'first') => ({
  tokenId,
  method: 'meta' as const,
  told: seen ? ('seen' as const) : ('gone' as const),
  firstAt: day(first),
  at: day(last),
  toldSince: day(first),
});
const held = (at: number) => ({ kind: 'confirmed' as const, method: 'meta' as const, at: day(at) });
const lost = (at: number) => ({ kind: 'withdrawn' as const, reason: 'no tag', at: day(at) });

describe('the badges of an enrolment over its time', () => {
  test.each<[string, Partial<StandingHistory>, string]>([
    ['enrolled, and no more', {}, 'bare 1-'],
    ['a token came later', { tokens: [token(3)] }, 'bare 1-3, issued 3-'],
    [
      'placed, claimed, lost from the page, put back',
      {
        tokens: [token(1)],
        checks: [check(2, 4, true), check(9, 10, false), check(12, 20, true)],
        ownerships: [held(5)],
      },
      'issued 1-2, in-place 2-5, held 5-9, slipping 9-12, held 12-',
    ],
    [
      'withdrawn, though it stands again, and confirmed anew',
      {
        tokens: [token(1)],
        checks: [check(2, 3, true), check(8, 9, false), check(14, 15, true)],
        ownerships: [held(4), lost(11), held(16)],
      },
      'issued 1-2, in-place 2-4, held 4-8, slipping 8-11, lost 11-16, held 16-',
    ],
    [
      'another token made what stood old',
      {
        tokens: [token(1, 6), token(6, null, 'second')],
        checks: [check(2, 5, true), check(8, 9, true, 'second')],
      },
      'issued 1-2, in-place 2-6, issued 6-8, in-place 8-',
    ],
    [
      'one that was forgotten leaves it bare',
      { tokens: [token(1, 6)], checks: [check(2, 5, true)] },
      'issued 1-2, in-place 2-6, bare 6-',
    ],
    [
      'ended: what was recorded afterwards counts no more',
      {
        endedAt: day(10),
        tokens: [token(2)],
        checks: [check(3, 9, true), check(12, 13, false)],
        ownerships: [held(4)],
      },
      'bare 1-2, issued 2-3, in-place 3-4, held 4-10',
    ],
    [
      'in whatever order it comes',
      { ownerships: [lost(9), held(4)], tokens: [token(1)] },
      'issued 1-4, held 4-9, lost 9-',
    ],
  ])('%s', (_, more, expected) => {
    const told = badgeIntervals({ ...bare, ...more }).map(
      ({ badge, from, until }) =>
        `${badge} ${String(from.getUTCDate())}-${until === null ? '' : String(until.getUTCDate())}`,
    );
    expect(told.join(', ')).toBe(expected);
  });
});
