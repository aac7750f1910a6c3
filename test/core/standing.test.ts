import { describe, expect, it, test } from 'vitest';
import { standing, type StandingFacts } from '../../src/core/badge/standing.js';
import { houseToken } from '../../src/core/badge/token/house-token.js';
import { decisiveCheck } from '../../src/core/worklist/decisive-check.js';
import { nextStep } from '../../src/core/worklist/next-step.js';
import type { StepFacts } from '../../src/core/worklist/step-facts.js';
import { byHarm } from '../../src/core/worklist/step.js';

const day = (number: number) => new Date(Date.UTC(2026, 10, number));
const seen = (at: number, isSeen = true, method: 'meta' | 'dns' = 'meta') => ({
  method,
  told: isSeen ? ('seen' as const) : ('gone' as const),
  at: day(at),
  since: day(at),
});
const confirmed = (at: number) => ({ kind: 'confirmed', method: 'meta', at: day(at) }) as const;

describe('the badge, from what is recorded', () => {
  const base: StandingFacts = { enrolledAt: day(1), tokenAt: null, checks: [], ownership: null };
  test.each([
    ['nothing but the enrolment', {}, 'bare', 1],
    ['a token', { tokenAt: day(2) }, 'issued', 2],
    ['a check that does not see it', { tokenAt: day(2), checks: [seen(3, false)] }, 'issued', 2],
    ['a check that sees it', { tokenAt: day(2), checks: [seen(3)] }, 'in-place', 3],
    [
      'another method sees it',
      { tokenAt: day(2), checks: [seen(3, false), seen(4, true, 'dns')] },
      'in-place',
      4,
    ],
    ['confirmed', { tokenAt: day(2), checks: [seen(3)], ownership: confirmed(4) }, 'held', 4],
    [
      'confirmed, and an older check had not seen it',
      { tokenAt: day(2), checks: [seen(3, false)], ownership: confirmed(4) },
      'held',
      4,
    ],
    [
      'confirmed, then gone',
      { tokenAt: day(2), checks: [seen(6, false)], ownership: confirmed(4) },
      'slipping',
      6,
    ],
    [
      'confirmed by meta, and dns was never placed',
      { tokenAt: day(2), checks: [seen(6, false, 'dns')], ownership: confirmed(4) },
      'held',
      4,
    ],
    [
      'withdrawn',
      {
        tokenAt: day(2),
        checks: [seen(6)],
        ownership: { kind: 'withdrawn', at: day(5), reason: 'tag not found' },
      },
      'lost',
      5,
    ],
  ] as const)('%s: %s', (_, facts, badge, since) => {
    expect(standing({ ...base, ...facts } as StandingFacts)).toEqual({ badge, since: day(since) });
  });
});

describe('the next step', () => {
  const base: StepFacts = {
    engineTitle: 'Veldrane',
    byHand: false,
    missingSince: null,
    tokenExpiresAt: null,
    suspended: [],
    endAsked: null,
    methods: ['meta'],
    carried: [],
    heldBy: null,
    badge: 'bare',
    badgeSince: day(1),
    lastCheck: null,
    openClaim: null,
    refusal: null,
    takesSitemaps: true,
    leadsOnly: false,
    sitemaps: [],
  };
  const check = (forecast: 'accept' | 'refuse', at = 3, visibleAt: Date | null = null) => ({
    at: day(at),
    forecast,
    visibleAt,
    says: 'No tag there.',
    tried: true,
    hindered: null,
  });
  const sitemap = {
    url: 'https://quay.example/sitemap.xml',
    state: 'clean',
    worst: null,
    submitted: true,
    counts: 'equal',
    dueBy: null,
    tooManyBy: null,
    apartSince: null,
    since: day(5),
  } as const;
  test.each([
    ['no token', {}, 'get-token'],
    ['a token that nobody has seen', { badge: 'issued' }, 'place'],
    [
      'not seen, and resolvers may remember',
      { badge: 'issued', lastCheck: check('refuse', 3, day(20)) },
      'wait',
    ],
    ['not seen, and nothing to wait for', { badge: 'issued', lastCheck: check('refuse') }, 'place'],
    ['in place', { badge: 'in-place', lastCheck: check('accept') }, 'claim'],
    [
      'refused after our check saw it',
      { badge: 'in-place', lastCheck: check('accept', 3), refusal: { at: day(4), reason: 'no' } },
      'check',
    ],
    [
      'refused, then checked again',
      { badge: 'in-place', lastCheck: check('accept', 5), refusal: { at: day(4), reason: 'no' } },
      'claim',
    ],
    ['a claim without an answer', { badge: 'in-place', openClaim: day(4) }, 'ask-engine'],
    ['held, nothing submitted', { badge: 'held' }, 'submit-sitemap'],
    ['held, no sitemaps taken', { badge: 'held', takesSitemaps: false }, 'none'],
    ['held, all read', { badge: 'held', sitemaps: [sitemap] }, 'none'],
    [
      'held, engine has yet to read',
      { badge: 'held', sitemaps: [{ ...sitemap, counts: 'waiting', dueBy: day(12) }] },
      'wait',
    ],
    [
      'held, engine is overdue',
      { badge: 'held', sitemaps: [{ ...sitemap, counts: 'overdue' }] },
      'read-sitemap',
    ],
    [
      'held, and one sitemap too many',
      { badge: 'held', sitemaps: [{ ...sitemap, tooManyBy: 'https://quay.example/all.xml' }] },
      'withdraw-sitemap',
    ],
    ['held, counts apart', { badge: 'held', sitemaps: [{ ...sitemap, counts: 'apart' }] }, 'read-sitemap'],
    [
      'held, sitemap broken',
      { badge: 'held', sitemaps: [{ ...sitemap, state: 'unreachable' }] },
      'mend-sitemap',
    ],
    ['slipping', { badge: 'slipping', lastCheck: check('refuse') }, 'repair'],
    ['lost', { badge: 'lost' }, 'prove-again'],
    ['lost, but it stands again', { badge: 'lost', lastCheck: check('accept', 9) }, 'claim'],
  ] as const)('%s: %s', (_, facts, kind) => {
    expect(nextStep({ ...base, ...facts } as StepFacts, day(10)).kind).toBe(kind);
  });

  test.each([
    [
      'lost at the engine',
      { badge: 'lost', missingSince: day(4) },
      'enrol-again',
      'nothing is wrong with the site',
    ],
    [
      'void unclaimed',
      { badge: 'issued', tokenExpiresAt: day(9) },
      'renew-token',
      'What was placed is out of date',
    ],
    ['in place, but void', { badge: 'in-place', tokenExpiresAt: day(9) }, 'renew-token', '2026'],
    ['soon void', { badge: 'issued', tokenExpiresAt: day(12) }, 'place', 'expires on'],
    [
      'held, however old the token',
      { badge: 'held', tokenExpiresAt: day(9), takesSitemaps: false },
      'none',
      '',
    ],
    ['by hand, no token', { badge: 'bare', byHand: true }, 'get-token', 'paste the token'],
    [
      'by hand, in place',
      { badge: 'in-place', byHand: true, lastCheck: check('accept') },
      'claim',
      'record the verdict',
    ],
  ] as const)('%s: %s', (_, facts, kind, says) => {
    const step = nextStep({ ...base, ...facts } as StepFacts, day(10));
    expect(step.kind).toBe(kind);
    expect(step.says).toContain(says);
  });

  it('waits for what the engine has switched off, and only for that', () => {
    const off = { work: 'claim', until: day(20), since: day(2) };
    const facts: StepFacts = { ...base, badge: 'in-place', lastCheck: check('accept'), suspended: [off] };
    expect(nextStep(facts, day(10))).toMatchObject({ kind: 'wait', until: day(20), since: day(2) });
    expect(nextStep({ ...facts, badge: 'held' }, day(10)).kind).toBe('submit-sitemap');
  });

  it('comes worst harm first, the oldest first within it', () => {
    const step = (kind: 'repair' | 'claim', at: number) => ({ kind, says: '', since: day(at), until: null });
    const sorted = [step('claim', 1), step('repair', 5), step('repair', 2)].sort(byHarm);
    expect(sorted.map(({ kind, since }) => [kind, since.getUTCDate()])).toEqual([
      ['repair', 2],
      ['repair', 5],
      ['claim', 1],
    ]);
  });

  it('follows the check that says most', () => {
    const made = (method: string, isSeen: boolean, at: number, leading: string | null) => ({
      method,
      seen: isSeen,
      at: day(at),
      leading,
    });
    const untouched = made('file', false, 9, 'file.missing');
    const tried = made('meta', false, 4, 'meta.in-body');
    expect(decisiveCheck([untouched, tried], null)).toBe(tried);
    expect(decisiveCheck([untouched, tried, made('dns', true, 1, null)], null)?.method).toBe('dns');
    expect(decisiveCheck([untouched, tried], 'file')).toBe(untouched);
    expect(decisiveCheck([], null)).toBeNull();
  });
});

it('a house token has all of its random bits, in letters that are read rightly', () => {
  expect(houseToken(new Uint8Array(20).fill(255))).toBe('z'.repeat(32));
  expect(houseToken(Uint8Array.from({ length: 20 }, (_, at) => at))).toMatch(/^[0-9a-hjkmnp-tv-z]{32}$/);
  expect(() => houseToken(new Uint8Array(15))).toThrow(RangeError);
});
