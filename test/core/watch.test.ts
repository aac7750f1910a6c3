import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { hindranceOf, mayBeOurs, sightOf } from '../../src/core/badge/visibility.js';
import { standing } from '../../src/core/badge/standing.js';
import { CATALOGUE } from '../../src/core/findings/catalogue.js';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';
import {
  networkOf,
  outageSince,
  SILENCE,
  type OutageSeen,
  type Reached,
} from '../../src/core/watch/outage.js';
import {
  againAfter,
  dueAfter,
  dueOf,
  placementEvery,
  placeOf,
  type Watched,
} from '../../src/core/watch/rhythm.js';

const NOON = Date.UTC(2026, 10, 27, 12);
const at = (minutes: number) => new Date(NOON + minutes * MINUTE);
const CODES = Object.keys(CATALOGUE);
const stops = (...codes: string[]) =>
  codes.map((code) => ({ code: code as never, grade: 'stops' as const, evidence: {} }));

describe('how often a placement is looked at', () => {
  test.each([
    ['nobody knows when the engine looks', undefined, DAY],
    ['the engine takes its time', { looksEvery: 'P10D', grace: 'P3D' }, DAY],
    ['the engine is quick and without grace', { looksEvery: 'P3D', grace: 'PT0S' }, 18 * HOUR],
    ['the engine looks every hour: we do not', { looksEvery: 'PT1H', grace: 'PT0S' }, HOUR],
  ])('%s', (_, keeps, every) => {
    expect(placementEvery(keeps, DAY)).toBe(every);
  });

  test('twice at the least before an engine can act, whenever somebody looked in between', () => {
    const keeps = fc.record({
      looksEvery: fc.integer({ min: 8, max: 900 }),
      grace: fc.integer({ min: 0, max: 200 }),
    });
    fc.assert(
      fc.property(
        keeps,
        fc.nat(10_000_000),
        fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }),
        (hours, last, place) => {
          const every = placementEvery(
            { looksEvery: `PT${String(hours.looksEvery)}H`, grace: `PT${String(hours.grace)}H` },
            DAY,
          );
          const first = dueAfter(new Date(NOON + last), every, place);
          const second = dueAfter(first, every, place);
          expect(second.getTime() - NOON - last).toBeLessThanOrEqual((hours.looksEvery + hours.grace) * HOUR);
        },
      ),
    );
  });
});

describe('when something is due', () => {
  test('always at its own place in the rhythm, half a rhythm after the last look at the least', () => {
    fc.assert(
      fc.property(fc.nat(), fc.integer({ min: HOUR, max: 31 * DAY }), fc.string(), (last, every, name) => {
        const place = placeOf(name);
        const due = dueAfter(new Date(NOON + last), every, place).getTime();
        const wait = due - NOON - last;
        expect(wait).toBeGreaterThanOrEqual(every / 2 - 1);
        expect(wait).toBeLessThanOrEqual(1.5 * every + 1);
        expect(dueAfter(new Date(due), every, place).getTime() - due).toBeCloseTo(every, -1);
      }),
    );
  });

  test('however many began at once, no hour has more than half as much again as the mean', () => {
    const hours = new Array<number>(24).fill(0);
    for (let number = 0; number < 10_000; number += 1) {
      const due = dueAfter(at(0), DAY, placeOf(`placement ${String(number)}`)).getTime();
      const hour = Math.floor(due / HOUR) % 24;
      hours[hour] = (hours[hour] ?? 0) + 1;
    }
    expect(Math.max(...hours)).toBeLessThan((10_000 / 24) * 1.5);
  });

  test.each([
    ['at first', 0, 5 * MINUTE],
    ['after twenty minutes of it', 20 * MINUTE, 20 * MINUTE],
    ['after days of it', 3 * DAY, 6 * HOUR],
  ])('what did not come out well is looked at again soon: %s', (_, been, wait) => {
    expect(againAfter(been, DAY)).toBe(wait);
  });

  test('never slower than the rhythm', () => {
    expect(againAfter(3 * DAY, HOUR)).toBe(HOUR);
  });
});

describe('why something is looked at next', () => {
  const look = (minutes: number, bad: number | null = null, well: number | null = null) => ({
    at: at(minutes),
    badSince: bad === null ? null : at(bad),
    wellSince: well === null ? null : at(well),
  });
  const due = (
    last: ReturnType<typeof look>,
    others: ReturnType<typeof look>[],
    what: Watched = 'placement',
  ) => dueOf({ what, every: DAY, last, others, place: 0 });
  const byRhythm = { why: 'rhythm', dueAt: dueAfter(at(0), DAY, 0) };
  test.each<[string, ReturnType<typeof due>, object]>([
    ['by its rhythm', due(look(0), []), byRhythm],
    ['soon again, since it failed', due(look(0, 0), [look(0, 0)]), { why: 'again', dueAt: at(5) }],
    [
      'at once, since another look failed after it',
      due(look(0), [look(9, 9), look(8, 7)]),
      { why: 'alarm', dueAt: at(7) },
    ],
    ['by its rhythm, since it was looked at after the other failed', due(look(0), [look(3, -9)]), byRhythm],
    ['by its rhythm: a sitemap is not read for it', due(look(0), [look(9, 9)], 'sitemap'), byRhythm],
    [
      'at once, since its website can be reached again',
      due(look(0, -600), [look(9, null, 9)], 'sitemap'),
      { why: 'alarm', dueAt: at(9) },
    ],
    [
      'later, since it failed after its website could be reached again',
      due(look(0, -60), [look(-3, null, -9)], 'sitemap'),
      { why: 'again', dueAt: at(60) },
    ],
  ])('%s', (_, told, expected) => {
    expect(told).toEqual(expected);
  });
});

describe('what a look amounts to', () => {
  test.each([
    ['a token that stands, whatever else was found', true, stops('reach.slow'), 'seen'],
    ['a page without the tag', false, stops('meta.absent'), 'gone'],
    ['another token in its place', false, stops('value.other-engine'), 'gone'],
    ['a page that redirects elsewhere', false, stops('reach.off-domain'), 'gone'],
    ['a file that is gone', false, stops('file.missing'), 'gone'],
    ['no such record', false, stops('dns.no-record'), 'gone'],
    ['a website that refuses connections', false, stops('reach.refused'), 'unclear'],
    ['a certificate that ran out', false, stops('reach.tls-expired'), 'unclear'],
    ['a wall against us', false, stops('reach.bot-wall'), 'unclear'],
    ['a resolver that fails', false, stops('dns.server-fails'), 'unclear'],
    ['a page that is too much for us', false, stops('reach.too-heavy'), 'unclear'],
    ['what was seen first decides', false, stops('meta.absent', 'reach.cut'), 'gone'],
  ] as const)('%s', (_, seen, findings, sight) => {
    expect(sightOf({ seen, findings })).toBe(sight);
  });

  test('every finding that is told of a hindrance is one of the catalogue', () => {
    const hindered = CODES.filter((code) => hindranceOf(stops(code)) !== null);
    expect(hindered.length).toBe(24);
    for (const code of CODES.filter((one) => mayBeOurs(stops(one)))) expect(hindered).toContain(code);
  });

  test('one that failed takes no badge', () => {
    const facts = {
      enrolledAt: at(-100),
      tokenAt: at(-90),
      ownership: { kind: 'confirmed', method: 'meta', at: at(-50) },
    } as const;
    const looked = (told: 'seen' | 'gone' | null) =>
      standing({ ...facts, checks: [{ method: 'meta', told, at: at(-1), since: at(-9) }] }).badge;
    expect([looked(null), looked('seen'), looked('gone')]).toEqual(['held', 'held', 'slipping']);
  });
});

describe('our own network', () => {
  /** @param instead what came in place of the website; null where it showed itself */
  const look = (
    minutes: number,
    domain: string,
    instead: string | null = SILENCE,
    address: string | null = `192.0.2.${String(domain.charCodeAt(0))}`,
  ): Reached => ({ at: at(minutes), domain, address, instead });
  const silent = { isIntercepted: false, network: '192.0.2.0/24' };
  const portal = 'page of the hotel';

  test.each<[string, Reached[], OutageSeen | null]>([
    ['nothing looked at', [], null],
    ['one website down, again and again', [look(1, 'a'), look(2, 'a'), look(3, 'a'), look(4, 'a')], null],
    [
      'three at once',
      [look(-9, 'a', null), look(1, 'a'), look(2, 'b'), look(3, 'c')],
      { since: at(1), ...silent },
    ],
    ['one was reached meanwhile', [look(1, 'a'), look(2, 'b'), look(3, 'd', null), look(4, 'c')], null],
    [
      'one showed a page of its own meanwhile',
      [look(1, 'a'), look(2, 'b'), look(3, 'd', 'page of d'), look(4, 'c')],
      null,
    ],
    ['three over two days', [look(-2000, 'a'), look(-900, 'b'), look(3, 'c')], null],
    [
      'three on networks of their own',
      [
        look(1, 'a', SILENCE, '192.0.2.1'),
        look(2, 'b', SILENCE, '198.51.100.1'),
        look(3, 'c', SILENCE, null),
      ],
      { since: at(1), isIntercepted: false, network: null },
    ],
    [
      'one page for all',
      [look(1, 'a', portal), look(2, 'b', portal), look(3, 'c', portal)],
      { since: at(1), ...silent, isIntercepted: true },
    ],
    [
      'one page for some, and silence from the rest',
      [look(1, 'a', portal), look(2, 'b'), look(3, 'c', portal)],
      { since: at(1), ...silent, isIntercepted: true },
    ],
    [
      'one page for all websites of a hoster, while another shows its own',
      [look(1, 'a', portal), look(2, 'b', portal), look(3, 'd', 'page of d'), look(4, 'c', portal)],
      null,
    ],
  ])('%s', (_, looks, seen) => {
    expect(outageSince(looks, at(5))).toEqual(seen);
  });

  test.each([
    ['192.0.2.77', '192.0.2.0/24'],
    ['2001:db8:7:1::5', '2001:db8:7::/48'],
    ['2001:db8::5', '2001:db8:0::/48'],
  ])('%s stands in %s', (address, network) => {
    expect(networkOf(address)).toBe(network);
  });
});
