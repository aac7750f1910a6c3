import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { actsAt } from '../../src/core/alerts/badge-alerts.js';
import { isUrgent, type AlertEnrolment, type AlertFacts } from '../../src/core/alerts/alert.js';
import { alertsOf, alertsTurnAt, unclearOf } from '../../src/core/alerts/alerts.js';
import { hostsForPeople } from '../../src/core/address/host.js';
import { differenceOf } from '../../src/core/alerts/difference.js';
import { nextAt } from '../../src/core/alerts/digest-time.js';
import { digest, alertMessage, type AlertMessage } from '../../src/core/alerts/message.js';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';

const NOW = new Date('2026-11-27T12:00:00.000Z');
const ago = (ms: number) => new Date(NOW.getTime() - ms);
const held: AlertEnrolment = {
  name: 'kippers@veldrane:address',
  engine: 'Veldrane',
  badge: 'held',
  badgeSince: ago(90 * DAY),
  method: 'meta',
  look: {
    at: ago(MINUTE),
    since: ago(80 * DAY),
    says: 'The tag stands.',
    remedy: '',
    wellSince: ago(80 * DAY),
    hindered: null,
    difference: [],
    lastSeenAt: null,
  },
  actsWithin: { looksEvery: 5 * DAY, grace: 2 * DAY },
  engineLookedAt: null,
  reason: null,
  missingSince: null,
  tokenExpiresAt: null,
};
const facts: AlertFacts = {
  now: NOW,
  handle: 'kippers',
  enrolments: [held],
  move: null,
  away: [],
  certificate: [],
  nameEnds: null,
  doorUnseen: false,
  sitemaps: [],
  cutOff: null,
};
const look = (more: Partial<NonNullable<AlertEnrolment['look']>>) => ({
  look: {
    at: NOW,
    since: ago(HOUR),
    says: 'No meta tag is there.',
    remedy: 'Please put it back.',
    wellSince: null,
    hindered: null,
    difference: [],
    lastSeenAt: null,
    ...more,
  },
});
const slips = { ...held, badge: 'slipping', badgeSince: ago(HOUR), ...look({}) } as const;
const down = (since: Date, at = NOW) => ({
  ...held,
  ...look({ at, says: 'It refuses.', hindered: { by: 'site', since, place: null } }),
});
const told = { says: 'It says so.', remedy: 'Please mend it.', since: ago(HOUR) };
const sitemap = {
  url: 'https://kippers.example/sitemap.xml',
  unreachable: null,
  fell: null,
  still: null,
  overdueAt: [],
};

describe('what people are told of', () => {
  test.each<[string, Partial<AlertFacts>, string[]]>([
    ['nothing, where all is well', {}, []],
    ['a token that is gone, seen twice', { enrolments: [slips] }, ['slipping kippers@veldrane:address']],
    ['not one that was looked at once', { enrolments: [{ ...slips, ...look({ since: NOW }) }] }, []],
    [
      'one cause at two engines is one case',
      { enrolments: [slips, { ...slips, name: 'kippers@ostrime', engine: 'Ostrime' }] },
      ['slipping kippers@veldrane:address,kippers@ostrime'],
    ],
    [
      'a record and a tag are two',
      { enrolments: [slips, { ...slips, name: 'kippers@ostrime', method: 'dns' }] },
      ['slipping kippers@veldrane:address', 'slipping kippers@ostrime'],
    ],
    [
      'what an engine withdrew, for each engine',
      {
        enrolments: [
          { ...held, badge: 'lost', reason: 'tag not found' },
          { ...held, badge: 'lost', engine: 'Ostrime', name: 'o' },
        ],
      },
      ['lost kippers@veldrane:address', 'lost o'],
    ],
    [
      'an enrolment that is gone there',
      { enrolments: [{ ...held, missingSince: ago(HOUR) }] },
      ['enrolment-lost kippers@veldrane:address'],
    ],
    [
      'a website that is down for longer',
      { enrolments: [down(ago(HOUR))] },
      ['out-of-reach kippers@veldrane:address'],
    ],
    ['not one that was down for a moment', { enrolments: [down(ago(10 * MINUTE))] }, []],
    ['nor one that was not looked at since', { enrolments: [down(ago(HOUR), ago(50 * MINUTE))] }, []],
    [
      'nor while it is we who cannot look',
      { enrolments: [down(ago(HOUR))], cutOff: { since: ago(HOUR), until: null } },
      [],
    ],
    [
      'nor right after that',
      { enrolments: [down(ago(3 * HOUR))], cutOff: { since: ago(3 * HOUR), until: ago(10 * MINUTE) } },
      [],
    ],
    [
      'but one that had been down before',
      { enrolments: [down(ago(9 * HOUR))], cutOff: { since: ago(3 * HOUR), until: null } },
      ['out-of-reach kippers@veldrane:address'],
    ],
    [
      'a move',
      { move: { at: ago(DAY), to: 'https://new.example/', says: 'It moved.' } },
      ['moved kippers@veldrane:address'],
    ],
    [
      'not one of long ago',
      { move: { at: ago(9 * DAY), to: 'https://new.example/', says: 'It moved.' } },
      [],
    ],
    ['a tag that keeps engines out', { away: [told] }, ['stays-away kippers@veldrane:address']],
    ['a certificate that runs out', { certificate: [told] }, ['certificate kippers@veldrane:address']],
    [
      'a token that nobody claims with',
      { enrolments: [{ ...held, badge: 'in-place', tokenExpiresAt: new Date(NOW.getTime() + DAY) }] },
      ['token-ends kippers@veldrane:address'],
    ],
    [
      'not one that was claimed with',
      { enrolments: [{ ...held, tokenExpiresAt: new Date(NOW.getTime() + DAY) }] },
      [],
    ],
    [
      'all that can be wrong with a sitemap',
      {
        sitemaps: [
          {
            ...sitemap,
            unreachable: { ...told, at: NOW },
            fell: told,
            still: told,
            overdueAt: [{ engine: 'Veldrane', since: ago(DAY) }],
          },
        ],
      },
      ['sitemap-unreachable', 'sitemap-fallen', 'sitemap-still', 'reading-overdue'].map(
        (kind) => `${kind} ${sitemap.url}`,
      ),
    ],
    [
      'a sitemap is not told of for a moment',
      { sitemaps: [{ ...sitemap, unreachable: { ...told, since: ago(MINUTE), at: NOW } }] },
      [],
    ],
  ])('%s', (_, more, expected) => {
    const found = alertsOf({ ...facts, ...more });
    expect(found.map(({ kind, touches }) => `${kind} ${touches.join()}`)).toEqual(expected);
    for (const one of found) expect(one.says).not.toBe('');
  });

  test('what has been so for long is told with the digest', () => {
    expect(isUrgent({ kind: 'slipping', since: ago(DAY) }, NOW)).toBe(true);
    expect(isUrgent({ kind: 'slipping', since: ago(4 * DAY) }, NOW)).toBe(false);
    expect(isUrgent({ kind: 'certificate', since: NOW }, NOW)).toBe(false);
  });

  test('when that changes by time alone', () => {
    const expires = new Date(NOW.getTime() + 10 * DAY);
    expect(alertsTurnAt(facts)).toBeNull();
    expect(alertsTurnAt({ ...facts, enrolments: [{ ...held, tokenExpiresAt: expires }] })).toEqual(
      new Date(expires.getTime() - 3 * DAY),
    );
  });
});

describe('what cannot be told at present stays open', () => {
  const dark = { ...sitemap, unreachable: { ...told, at: NOW } };
  const of = (more: Partial<AlertFacts>) =>
    unclearOf({ ...facts, ...more }).map(({ kind, cause }) => `${kind} ${cause}`);
  test.each<[string, Partial<AlertFacts>, string[]]>([
    ['nothing, while everything is seen', { sitemaps: [sitemap] }, []],
    [
      'what the front door showed, while it cannot be looked at',
      { doorUnseen: true },
      ['stays-away site', 'certificate site'],
    ],
    [
      'what a sitemap held, while it cannot be read',
      { sitemaps: [dark] },
      [`sitemap-fallen ${sitemap.url}`, `sitemap-still ${sitemap.url}`],
    ],
    [
      'that it cannot, while the whole website cannot be reached',
      { sitemaps: [dark], enrolments: [down(ago(HOUR))] },
      [`sitemap-fallen ${sitemap.url}`, `sitemap-still ${sitemap.url}`, `sitemap-unreachable ${sitemap.url}`],
    ],
    [
      'that one could not be read before our own outage, while that goes on',
      { sitemaps: [dark], cutOff: { since: ago(HOUR), until: null } },
      ['sitemap-fallen', 'sitemap-still', 'sitemap-unreachable'].map((kind) => `${kind} ${sitemap.url}`),
    ],
    [
      'that a website was out of reach before our own outage, and right after it',
      { enrolments: [down(ago(3 * HOUR))], cutOff: { since: ago(3 * HOUR), until: ago(10 * MINUTE) } },
      ['out-of-reach site'],
    ],
  ])('%s', (_, more, expected) => {
    expect(of(more)).toEqual(expected);
  });

  test('of a file nothing is said before it was looked at since its website is back', () => {
    const back = (minutes: number) => ({ ...held, ...look({ wellSince: ago(minutes * MINUTE) }) });
    const file = { ...sitemap, unreachable: { ...told, at: ago(9 * MINUTE) } };
    const kinds = (minutes: number) =>
      alertsOf({ ...facts, sitemaps: [file], enrolments: [back(minutes)] }).map(({ kind }) => kind);
    expect([kinds(5), kinds(10)]).toEqual([[], ['sitemap-unreachable']]);
  });

  test('a website out of reach is one case, its sitemap with it', () => {
    const all = alertsOf({ ...facts, sitemaps: [dark], enrolments: [down(ago(HOUR))] });
    expect(all.map(({ kind, touches }) => [kind, touches])).toEqual([
      ['out-of-reach', ['kippers@veldrane:address', sitemap.url]],
    ]);
  });
});

describe('a registered name that ends, as its owner said', () => {
  const at = (days: number) => ({
    ...facts,
    nameEnds: { name: 'möwenfang.example', at: ago(-days * DAY) },
  });

  test.each([
    [31, []],
    [30, ['möwenfang.example ends on 2026-12-27']],
    [1, ['möwenfang.example ends on 2026-11-28']],
    [0, ['möwenfang.example was to end on 2026-11-27']],
  ])('in %i days is told within thirty', (days, expected) => {
    const cases = alertsOf(at(days)).map(({ kind, says }) => [kind, /name (.*?),/u.exec(says)?.[1]]);
    expect(cases).toEqual(expected.map((says) => ['name-ends', says]));
  });

  test('turns by itself', () => {
    expect(alertsTurnAt(at(40))).toEqual(ago(-10 * DAY));
    expect(alertsTurnAt(at(9))).toEqual(ago(-9 * DAY));
    expect(alertsTurnAt(at(-1))).toBeNull();
  });
});

describe('what has changed at a placement', () => {
  const seen = (hours: number, things: Record<string, string>) => ({
    at: ago(hours * HOUR),
    things: Object.entries(things).map(([what, says]) => ({ what, says })),
  });

  test('is told line by line, by signs: gone, come, still so', () => {
    const good = seen(30, { asked: 'https://a.example/', from: '192.0.2.1', 'line 4': '<meta>' });
    const now = seen(1, { asked: 'https://a.example/', from: '192.0.2.9', answered: 'status 404' });
    expect(differenceOf(good, now)).toEqual([
      '− as it was at 2026-11-26 06:00 UTC, + as it is at 2026-11-27 11:00 UTC',
      '  asked https://a.example/',
      '− from 192.0.2.1',
      '+ from 192.0.2.9',
      '− line 4 <meta>',
      '+ answered status 404',
    ]);
  });

  test('is bounded, whatever a website answers, and none where one of the two was let go', () => {
    const many = {
      at: NOW,
      things: Array.from({ length: 99 }, (_, at) => ({
        what: 'TXT',
        says: `${String(at)}\u202e${'x'.repeat(999)}`,
      })),
    };
    const lines = differenceOf(seen(1, {}), many);
    expect(lines).toHaveLength(18);
    expect(Math.max(...lines.slice(1).map(({ length }) => length))).toBeLessThanOrEqual(161);
    expect(lines.join('')).not.toContain('\u202e');
    expect([differenceOf(null, many), differenceOf(many, null)]).toEqual([[], []]);
  });

  test('hosts stand in the form for people in what is told', () => {
    expect(
      hostsForPeople('See https://xn--mwenfang-n4a.example/xn--a.txt and xn--mwenfang-n4a.example.'),
    ).toBe('See https://möwenfang.example/xn--a.txt and möwenfang.example.');
  });
});

describe('when an engine may act on a loss', () => {
  test.each([
    ['nobody knows how it works', { actsWithin: null, engineLookedAt: null, look: null }, null],
    [
      'it does not say when it looked',
      { actsWithin: held.actsWithin, engineLookedAt: null, look: null },
      ago(0 - 2 * DAY),
    ],
    [
      'at its next look, once its grace is over',
      { actsWithin: held.actsWithin, engineLookedAt: ago(DAY), look: null },
      ago(-6 * DAY),
    ],
    [
      'it has not looked for longer than it says',
      { actsWithin: held.actsWithin, engineLookedAt: ago(9 * DAY), look: null },
      ago(-3 * DAY),
    ],
    [
      'it may have gone right after it was seen last',
      { actsWithin: held.actsWithin, engineLookedAt: ago(6 * DAY), ...look({ lastSeenAt: ago(1.5 * DAY) }) },
      ago(-DAY),
    ],
    [
      'the engine has looked since then',
      { actsWithin: held.actsWithin, engineLookedAt: ago(HOUR), ...look({ lastSeenAt: ago(DAY) }) },
      ago(-DAY),
    ],
  ])('%s', (_, one, at) => {
    expect(actsAt(one, NOW)).toEqual(at);
  });
});

describe('the hour of a digest', () => {
  test.each([
    ['today', '2026-11-27T05:00:00Z', '07:30', 'UTC', '2026-11-27T07:30:00.000Z'],
    ['tomorrow, where it is over', '2026-11-27T07:30:00Z', '07:30', 'UTC', '2026-11-28T07:30:00.000Z'],
    ['in her zone', '2026-11-27T05:00:00Z', '07:30', 'Europe/Helsinki', '2026-11-27T05:30:00.000Z'],
    [
      'far to the east it is tomorrow already',
      '2026-11-27T20:00:00Z',
      '07:30',
      'Pacific/Auckland',
      '2026-11-28T18:30:00.000Z',
    ],
    [
      'an hour that is left out is the first that there is',
      '2027-03-28T00:00:00Z',
      '02:30',
      'Europe/Berlin',
      '2027-03-28T01:30:00.000Z',
    ],
    [
      'the day after, it is there again',
      '2027-03-28T02:00:00Z',
      '02:30',
      'Europe/Berlin',
      '2027-03-29T00:30:00.000Z',
    ],
    [
      'an hour that comes twice is its first',
      '2026-10-24T12:00:00Z',
      '02:30',
      'Europe/Berlin',
      '2026-10-25T00:30:00.000Z',
    ],
    ['and not its second', '2026-10-25T00:30:00Z', '02:30', 'Europe/Berlin', '2026-10-26T01:30:00.000Z'],
  ])('%s', (_, after, clock, zone, expected) => {
    expect(nextAt(new Date(after), clock, zone).toISOString()).toBe(expected);
  });

  test.each([
    ['Europe/Berlin', '2026-10-23T12:00:00Z'],
    ['America/St_Johns', '2026-10-30T12:00:00Z'],
    ['Pacific/Chatham', '2026-04-03T12:00:00Z'],
    ['Australia/Lord_Howe', '2026-04-03T12:00:00Z'],
    ['America/Santiago', '2026-09-04T12:00:00Z'],
    ['Europe/Berlin', '2027-03-26T12:00:00Z'],
    ['Asia/Kathmandu', '2026-12-30T12:00:00Z'],
  ])('comes once a day in %s at any time of day, whatever happens to the clock after %s', (zone, before) => {
    const written = new Intl.DateTimeFormat('sv', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' });
    for (let minute = 0; minute < 24 * 60; minute += 5) {
      const clock = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
      const times: Date[] = [];
      for (let day = 0; day < 4; day += 1) times.push(nextAt(times.at(-1) ?? new Date(before), clock, zone));
      const shown = times.map((time) => written.format(time).split(' '));
      expect(new Set(shown.map(([day]) => day)).size, `${clock}: ${shown.join(' ')}`).toBe(4);
      expect(Number(times[3]) - Number(times[0]), clock).toBeLessThanOrEqual(73 * HOUR);
      expect(
        shown.filter(([, at]) => at !== clock).length,
        `${clock}: ${shown.join(' ')}`,
      ).toBeLessThanOrEqual(1);
    }
  });

  test('comes once a day, in every zone, on every day', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Intl.supportedValuesOf('timeZone')),
        fc.integer({ min: 0, max: 400 * 24 }),
        fc.integer({ min: 0, max: 1439 }),
        (zone, hours, minute) => {
          const clock = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
          const first = nextAt(new Date(Date.UTC(2026, 0, 1) + hours * HOUR), clock, zone);
          const second = nextAt(first, clock, zone);
          expect(second.getTime() - first.getTime()).toBeGreaterThanOrEqual(22 * HOUR);
          expect(second.getTime() - first.getTime()).toBeLessThanOrEqual(26 * HOUR);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('a message', () => {
  const TO = { base: 'https://yard.example', zone: 'Europe/Helsinki' };
  const one: AlertMessage = {
    id: 'c1',
    kind: 'slipping',
    property: 'kippers',
    client: 'saltmarsh',
    says: 'The meta tag is gone: <none> & "nothing".',
    remedy: 'Please put it back.',
    touches: ['kippers@veldrane'],
    difference: ['− line 4: <meta>', '+ answered status 404'],
    since: ago(HOUR),
    openedAt: NOW,
    endedAt: null,
  };

  test('says what, where, since when, what to do, and leads to its page', () => {
    const { subject, text, html } = alertMessage([one], TO);
    expect(subject).toBe('kippers: token gone');
    expect(text).toContain(
      [
        '    − line 4: <meta>',
        '    + answered status 404',
        '',
        '  To be done: Please put it back.',
        '',
        '  It touches kippers@veldrane.',
        '  Since 2026-11-27 13:00 (Europe/Helsinki).',
      ].join('\n'),
    );
    expect(text).toContain('https://yard.example/properties/kippers');
    expect(html).toContain('&lt;none&gt; &amp; &quot;nothing&quot;');
    expect(html).not.toContain('<none>');
  });

  test('says for how long, once it is over', () => {
    const { subject, text } = alertMessage([{ ...one, endedAt: NOW }], TO);
    expect(subject).toBe('kippers: over – token gone');
    expect(text).toContain('It lasted 60 minutes.');
  });

  test('a storm is one, with the first named and the rest counted', () => {
    const many = Array.from({ length: 50 }, (_, at) => ({ ...one, property: `p${String(at)}` }));
    const { subject, text } = alertMessage(many, TO);
    expect(subject).toBe('50 properties at once: token gone');
    expect(text).toContain('… and 38 more.');
  });

  test('a digest has what is to be looked at and what is over, or is none', () => {
    expect(digest({ opened: [], over: [] }, TO)).toBeNull();
    const both = digest({ opened: [one], over: [{ ...one, endedAt: NOW }] }, TO);
    expect(both?.subject).toBe('Yard Badge today: 1 to look at, 1 over');
    expect(both?.text).toMatch(/TO LOOK AT[\s\S]*OVER[\s\S]*All of it: https:\/\/yard.example\//);
  });
});
