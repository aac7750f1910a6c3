import { describe, expect, it, test } from 'vitest';
import { decisiveCheck, wasTried } from '../../src/core/worklist/decisive-check.js';
import { nextStep } from '../../src/core/worklist/next-step.js';
import type { StepFacts } from '../../src/core/worklist/step-facts.js';
import { byHarm, type NextStep } from '../../src/core/worklist/step.js';

const day = (number: number, hour = 0) => new Date(Date.UTC(2026, 10, number, hour));
const NOW = day(10);

/** An enrolment that is in order and held, with its one sitemap submitted and read. */
const sitemap: StepFacts['sitemaps'][number] = {
  url: 'https://quay.example/sitemap.xml',
  state: 'clean',
  worst: null,
  submitted: true,
  withdrawn: false,
  counts: 'equal',
  dueBy: null,
  since: day(5),
  tooManyBy: null,
  apartSince: null,
};
const held: StepFacts = {
  engineTitle: 'Veldrane',
  byHand: false,
  missingSince: null,
  tokenExpiresAt: null,
  suspended: [],
  endAsked: null,
  methods: ['meta', 'dns'],
  carried: [],
  heldBy: null,
  badge: 'held',
  badgeSince: day(1),
  lastCheck: null,
  openClaim: null,
  refusal: null,
  takesSitemaps: true,
  leadsOnly: false,
  sitemaps: [sitemap],
};
const looked = (at: Date, more: object = {}) => ({
  at,
  forecast: 'accept' as const,
  visibleAt: null,
  says: null,
  tried: true,
  hindered: null,
  ...more,
});
const unlike = (more: Partial<typeof sitemap>): Partial<StepFacts> => ({
  sitemaps: [{ ...sitemap, ...more }],
});

/** A case, its step, since when, until when, and words that its sentence has. */
type Row = [
  what: string,
  facts: Partial<StepFacts>,
  kind: NextStep['kind'],
  since: Date,
  until: Date | null,
  words: string[],
];

describe('the next step says what to do, since when, and until when to wait', () => {
  test.each<Row>([
    [
      'it is to be ended by hand, and nobody has said that it was',
      { badge: 'lost', byHand: true, endAsked: day(6), missingSince: day(2) },
      'end-there',
      day(6),
      null,
      ['Veldrane’s own pages', 'record that it has ended'],
    ],
    [
      'nothing was tried, and one of several is enough',
      {
        badge: 'issued',
        lastCheck: looked(day(8), { forecast: 'refuse', tried: false, says: 'No record.' }),
      },
      'place',
      day(1),
      null,
      ['meta or dns; one is enough'],
    ],
    [
      'nothing was tried, and there is but one way',
      {
        badge: 'issued',
        methods: ['dns'],
        lastCheck: looked(day(8), { forecast: 'refuse', tried: false, says: 'No record.' }),
      },
      'place',
      day(1),
      null,
      ['No record.'],
    ],
    [
      'a sitemap that is broken was taken back everywhere',
      { sitemaps: [sitemap, { ...sitemap, state: 'flawed', submitted: false, withdrawn: true }] },
      'none',
      day(1),
      null,
      ['Held'],
    ],
    [
      'a claim is open',
      { badge: 'in-place', openClaim: day(4) },
      'ask-engine',
      day(4),
      null,
      ['has not answered'],
    ],
    [
      'the engine has lost it, with a claim open',
      { missingSince: day(3), openClaim: day(4) },
      'enrol-again',
      day(3),
      null,
      ['lost this enrolment'],
    ],
    [
      'only leads, not held',
      { badge: 'issued', leadsOnly: true },
      'none',
      day(1),
      null,
      ['an enrolment there counts'],
    ],
    ['only leads, held, with a sitemap', { leadsOnly: true }, 'none', day(1), null, ['the sitemap is read']],
    [
      'only leads, held, without one',
      { leadsOnly: true, sitemaps: [] },
      'none',
      day(1),
      null,
      ['only leads to the front door'],
    ],
    [
      'only leads, held, one that is noted alone',
      { leadsOnly: true, ...unlike({ submitted: false }) },
      'none',
      day(1),
      null,
      ['only leads'],
    ],
    [
      'held, one that is noted alone',
      unlike({ submitted: false, counts: null }),
      'submit-sitemap',
      day(1),
      null,
      ['Submit a sitemap to Veldrane'],
    ],
    ['held, all well', {}, 'none', day(1), null, ['Held, and the sitemap is read']],
    [
      'held, nothing to submit',
      { takesSitemaps: false, ...unlike({ state: 'flawed' }) },
      'none',
      day(1),
      null,
      ['Held at Veldrane'],
    ],
    [
      'lost, looked at before that',
      { badge: 'lost', badgeSince: day(5), lastCheck: looked(day(4)) },
      'prove-again',
      day(5),
      null,
      ['withdrew the badge'],
    ],
    [
      'lost, looked at in that very moment',
      { badge: 'lost', badgeSince: day(5), lastCheck: looked(day(5)) },
      'prove-again',
      day(5),
      null,
      [],
    ],
    [
      'lost, and stands again',
      { badge: 'lost', badgeSince: day(5), lastCheck: looked(day(6)) },
      'claim',
      day(5),
      null,
      ['stands again'],
    ],
    [
      'lost, looked at after that, not there',
      { badge: 'lost', badgeSince: day(5), lastCheck: looked(day(6), { forecast: 'refuse' }) },
      'prove-again',
      day(5),
      null,
      [],
    ],
    [
      'slipping, with what was seen',
      { badge: 'slipping', lastCheck: looked(day(7), { says: 'The file is gone.' }) },
      'repair',
      day(7),
      null,
      ['The file is gone.', 'before Veldrane looks'],
    ],
    [
      'slipping, without it',
      { badge: 'slipping', badgeSince: day(6) },
      'repair',
      day(6),
      null,
      ['our check no longer sees it', 'Have it put back'],
    ],
    [
      'slipping, and its zone is on record',
      { badge: 'slipping', carried: ['dns', 'file'], heldBy: 'dns' },
      'repair',
      day(1),
      null,
      ['Publish it in the zone again before Veldrane looks'],
    ],
    [
      'slipping, and only the place of another method is on record',
      { badge: 'slipping', carried: ['dns'], heldBy: 'meta' },
      'repair',
      day(1),
      null,
      ['Have it put back before'],
    ],
    [
      'withdrawn, and a place is on record',
      { badge: 'lost', methods: ['meta', 'file'], carried: ['file'] },
      'prove-again',
      day(1),
      null,
      ['Publish it in the web root again, check, and claim'],
    ],
    [
      'a token void this moment',
      { badge: 'issued', tokenExpiresAt: NOW },
      'renew-token',
      NOW,
      null,
      ['expired on 2026-11-10,'],
    ],
    [
      'a token void in an hour',
      { badge: 'issued', tokenExpiresAt: day(10, 1) },
      'place',
      day(1),
      null,
      ['expires on 2026-11-10 unless'],
    ],
    [
      'nobody has looked, and it can be published in its zone',
      { badge: 'issued', carried: ['dns'], tokenExpiresAt: day(12) },
      'publish',
      day(1),
      null,
      ['Publish the token for Veldrane in the zone', 'expires on 2026-11-12'],
    ],
    [
      'can be published by a method that is none of the engine’s',
      { badge: 'issued', carried: ['file'] },
      'place',
      day(1),
      null,
      [],
    ],
    [
      'nothing placed, and a web root to publish it in',
      {
        badge: 'issued',
        methods: ['meta', 'file'],
        carried: ['file'],
        lastCheck: looked(day(8), { forecast: 'refuse', tried: false }),
      },
      'publish',
      day(1),
      null,
      ['in the web root'],
    ],
    [
      'placed wrongly by somebody, though it could be published',
      {
        badge: 'issued',
        carried: ['dns'],
        lastCheck: looked(day(8), { forecast: 'refuse', says: 'It has a blank too many.' }),
      },
      'place',
      day(1),
      null,
      ['It has a blank too many.'],
    ],
    [
      'looked at, not there',
      {
        badge: 'issued',
        badgeSince: day(2),
        lastCheck: looked(day(8), { forecast: 'refuse', says: 'It is in the body.' }),
      },
      'place',
      day(2),
      null,
      ['Not in place at the last check, on 2026-11-08 00:00 UTC: It is in the body.'],
    ],
    [
      'looked at, nothing told',
      { badge: 'issued', lastCheck: looked(day(8), { forecast: 'refuse' }) },
      'place',
      day(1),
      null,
      ['the token was not seen'],
    ],
    [
      'looked at too early',
      { badge: 'issued', lastCheck: looked(day(8), { visibleAt: day(10, 1) }) },
      'wait',
      day(8),
      day(10, 1),
      ['resolvers may remember'],
    ],
    [
      'looked at too early, and it is time',
      { badge: 'issued', lastCheck: looked(day(8), { visibleAt: NOW }) },
      'place',
      day(1),
      null,
      [],
    ],
    [
      'in place, not for all yet',
      { badge: 'in-place', lastCheck: looked(day(8), { visibleAt: day(11) }) },
      'wait',
      day(8),
      day(11),
      ['makes sense from then on'],
    ],
    [
      'in place, and it is time',
      { badge: 'in-place', lastCheck: looked(day(8), { visibleAt: NOW }) },
      'claim',
      day(1),
      null,
      ['claim at Veldrane'],
    ],
    ['in place, nobody has looked', { badge: 'in-place' }, 'claim', day(1), null, []],
    [
      'in place, soon void',
      { badge: 'in-place', tokenExpiresAt: day(12), lastCheck: looked(day(8)) },
      'claim',
      day(1),
      null,
      ['expires on 2026-11-12'],
    ],
    [
      'refused in the moment of the look',
      { badge: 'in-place', lastCheck: looked(day(8)), refusal: { at: day(8), reason: 'no tag' } },
      'check',
      day(8),
      null,
      ['refused (“no tag”)'],
    ],
    [
      'refused, never looked at',
      { badge: 'in-place', refusal: { at: day(8), reason: 'no tag' } },
      'check',
      day(8),
      null,
      [],
    ],
    [
      'a sitemap that is flawed, told',
      unlike({ state: 'flawed', worst: 'It lists another host.' }),
      'mend-sitemap',
      day(5),
      null,
      ['It lists another host.'],
    ],
    [
      'a sitemap that is flawed, untold',
      unlike({ state: 'flawed' }),
      'mend-sitemap',
      day(5),
      null,
      ['https://quay.example/sitemap.xml is flawed'],
    ],
    [
      'counts apart for days',
      unlike({ counts: 'apart', apartSince: day(7) }),
      'read-sitemap',
      day(7),
      null,
      ['unlike ours'],
    ],
    [
      'counts apart, since when is not known',
      unlike({ counts: 'apart' }),
      'read-sitemap',
      day(5),
      null,
      ['unlike ours'],
    ],
    [
      'a reading that is overdue',
      unlike({ counts: 'overdue' }),
      'read-sitemap',
      day(5),
      null,
      ['is overdue'],
    ],
    [
      'known by another enrolment as well',
      unlike({ tooManyBy: sitemap.url }),
      'withdraw-sitemap',
      day(5),
      null,
      ['by another enrolment as well'],
    ],
    [
      'beside its index',
      unlike({ tooManyBy: 'https://quay.example/all.xml' }),
      'withdraw-sitemap',
      day(5),
      null,
      ['it has https://quay.example/all.xml, which is enough'],
    ],
    [
      'not read yet',
      unlike({ counts: 'waiting', dueBy: day(12) }),
      'wait',
      day(5),
      day(12),
      ['has yet to read'],
    ],
  ])('%s', (_, facts, kind, since, until, words) => {
    const step = nextStep({ ...held, ...facts }, NOW);
    expect(step).toMatchObject({ kind, since, until });
    for (const word of words) expect(step.says).toContain(word);
  });

  it('waits with a sentence that says what comes then', () => {
    const off = { work: 'claim', until: day(20), since: day(2) };
    const facts = { ...held, badge: 'in-place' as const, suspended: [off] };
    expect(nextStep(facts, NOW).says).toBe(
      'Switched off by Veldrane for now; then: the token stands: claim at Veldrane.',
    );
    expect(nextStep({ ...facts, suspended: [{ ...off, work: 'sitemaps' }] }, NOW).kind).toBe('claim');
  });

  it('comes by harm, then by age', () => {
    const step = (kind: NextStep['kind'], at: number) => ({ kind, since: day(at) });
    const sorted = [
      step('none', 1),
      step('claim', 3),
      step('mend-site', 9),
      step('claim', 2),
      step('repair', 4),
    ].sort(byHarm);
    expect(sorted.map(({ kind, since }) => [kind, since.getUTCDate()])).toEqual([
      ['mend-site', 9],
      ['repair', 4],
      ['claim', 2],
      ['claim', 3],
      ['none', 1],
    ]);
  });
});

describe('the check that says most', () => {
  const check = (method: string, at: number, seen: boolean, leading: string | null = null) => ({
    method,
    at: day(at),
    seen,
    leading,
  });
  const chosen = (checks: Parameters<typeof decisiveCheck>[0], claimed: string | null = null) => {
    const one = decisiveCheck(checks, claimed);
    return one && `${one.method} ${String(one.at.getUTCDate())}`;
  };
  test.each<[string, Parameters<typeof decisiveCheck>[0], string | null, string | null]>([
    ['none', [], null, null],
    [
      'that by which the badge is held, though another saw it',
      [check('meta', 1, false, 'meta.absent'), check('dns', 2, true)],
      'meta',
      'meta 1',
    ],
    ['one that saw it', [check('meta', 3, false, 'meta.in-comment'), check('dns', 1, true)], null, 'dns 1'],
    [
      'one where somebody tried',
      [check('meta', 3, false, 'meta.absent'), check('file', 2, false, 'file.byte-order-mark')],
      null,
      'file 2',
    ],
    [
      'not one that was not seen without anything said',
      [check('meta', 1, false), check('file', 2, false, 'file.missing')],
      null,
      'file 2',
    ],
    [
      'else the newest',
      [
        check('meta', 1, false, 'meta.absent'),
        check('dns', 3, false, 'dns.no-name'),
        check('file', 2, false, 'file.missing'),
      ],
      null,
      'dns 3',
    ],
    ['of two that saw it the newer', [check('meta', 1, true), check('file', 2, true)], null, 'file 2'],
  ])('is %s', (_, checks, claimed, wanted) => {
    const before = [...checks];
    expect(chosen(checks, claimed)).toBe(wanted);
    expect(checks).toEqual(before);
  });
  test.each([
    [null, true],
    ['meta.absent', false],
    ['file.missing', false],
    ['file.themed-missing', false],
    ['dns.no-name', false],
    ['dns.no-record', false],
    ['dns.absent', false],
    ['meta.in-comment', true],
  ])('somebody tried where it is led by %s: %s', (leading, tried) => {
    expect(wasTried(leading)).toBe(tried);
  });
});
