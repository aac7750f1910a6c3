import { describe, expect, it, test } from 'vitest';
import { parseScope, scopeText } from '../../src/core/address/reach.js';
import { addressText, parseAddress } from '../../src/core/address/web-address.js';
import type { Hop, PageSeen } from '../../src/core/badge/probe/evidence.js';
import type { Badge } from '../../src/core/badge/standing.js';
import { coverOf, type Covering } from '../../src/core/variants/cover.js';
import { fingerprint, isSameThing, wordsOf } from '../../src/core/variants/fingerprint.js';
import { followVariant, type Looked, type VariantSeen } from '../../src/core/variants/follow.js';
import { frontDoorOf, type FrontDoor } from '../../src/core/variants/front-door.js';
import { judgeKeepingOutOf } from '../../src/core/variants/keeping-out.js';
import { followingOf } from '../../src/core/variants/move.js';
import { readFace, type PageFace } from '../../src/core/variants/page-face.js';
import { planFor } from '../../src/core/variants/plan.js';
import type { Role, VariantRole } from '../../src/core/variants/roles.js';
import {
  isSameAddress,
  judgeSpelling,
  judgeSpellings,
  spellingsOf,
} from '../../src/core/variants/spelling.js';
import {
  hostPair,
  isTyped,
  MOST_VARIANTS,
  variantOf,
  variantsToTry,
} from '../../src/core/variants/to-try.js';
import { hop } from '../support/evidence.js';
import { veldrane } from '../support/profiles.js';
import {
  certificate,
  judgeScene,
  page,
  to,
  type Answer,
  type Scene,
  type Web,
  variantSeen,
} from '../support/web.js';

/** What is told of variants beside the code: where, how, until when, by whom. The scenes themselves are in `variant-scenes`. */
const HTTPS = 'https://quay.example/';
const HTTP = 'http://quay.example/';
const WWW = 'https://www.quay.example/';
const HTTP_WWW = 'http://www.quay.example/';
const WORDS = 'Crossings to the islands every tide and every day of the year';
const HOME = page(WORDS);
const web = (more: Web = {}, door = HTTPS): Web => ({
  ...Object.fromEntries([HTTPS, HTTP, WWW, HTTP_WWW].map((url) => [url, to(door)])),
  [door]: HOME,
  ...more,
});

describe('what is told of a scene', () => {
  const head = (more: string) => page(WORDS, more);
  const expired = {
    fails: 'tls-expired',
    certificate: certificate('quay.example', '2026-11-01T12:00:00.000Z'),
  } as const;
  const until = (time: string): Answer =>
    ({ ...HOME, certificate: certificate('quay.example', time) }) as Answer;
  const hsts = (value: string): Answer =>
    ({ ...HOME, headers: { 'strict-transport-security': value } }) as Answer;
  test.each<[string, Scene, string, readonly Record<string, unknown>[]]>([
    [
      'a temporary redirect by its status',
      { web: web({ [HTTP]: to(HTTPS, 307) }) },
      'variants.temporary',
      [{ url: HTTP, door: HTTPS, status: 307 }],
    ],
    [
      'the temporary one of several',
      { web: web({ [HTTP_WWW]: to(WWW), [WWW]: to(HTTPS, 303) }) },
      'variants.temporary',
      [
        { url: WWW, status: 303 },
        { url: HTTP_WWW, status: 303 },
      ],
    ],
    [
      'three steps by their number',
      { web: web({ [HTTP_WWW]: to(WWW), [WWW]: to(HTTP), [HTTP]: to(HTTPS) }) },
      'variants.long-way',
      [{ url: HTTP_WWW, count: 3 }],
    ],
    [
      'two steps not at all',
      { web: web({ [HTTP_WWW]: to(WWW), [WWW]: to(HTTPS) }) },
      'variants.long-way',
      [],
    ],
    [
      'where the way goes down to http',
      { web: web({ [WWW]: to(HTTP), [HTTP]: to(HTTPS) }) },
      'variants.downgrade',
      [{ url: WWW, to: HTTP }],
    ],
    [
      'another place with the way down to it',
      { web: web({ [WWW]: to('http://shop.quay.example/'), 'http://shop.quay.example/': page('Shop') }) },
      'variants.leads-elsewhere',
      [{ url: WWW, to: 'http://shop.quay.example/', door: HTTPS }],
    ],
    [
      'another domain',
      { web: web({ [WWW]: to('https://parking.example/'), 'https://parking.example/': page('Parked') }) },
      'variants.leads-away',
      [{ url: WWW, to: 'https://parking.example/' }],
    ],
    [
      'a closed variant with its status',
      { web: web({ [WWW]: { status: 403 } }) },
      'variants.closed',
      [{ url: WWW, detail: 'answers 403', door: HTTPS }],
    ],
    [
      'a dark variant with why',
      { web: web({ [WWW]: { status: 404 } }) },
      'variants.dark',
      [{ url: WWW, detail: 'answers 404' }],
    ],
    [
      'a dark host that nobody types',
      { web: web(), hosts: [{ host: 'old.quay.example', why: 'sitemap' }] },
      'variants.dark-unused',
      [{ url: 'https://old.quay.example/' }, { url: 'http://old.quay.example/' }],
    ],
    [
      'a dark host that was told by hand',
      { web: web(), hosts: [{ host: 'old.quay.example', why: 'by-hand' }] },
      'variants.dark',
      [{ url: 'https://old.quay.example/' }, { url: 'http://old.quay.example/' }],
    ],
    [
      'nothing but darkness, by what was taken on',
      { web: { [HTTPS]: { fails: 'timed-out' }, [WWW]: { fails: 'refused' } } },
      'variants.all-dark',
      [{ url: HTTPS, detail: 'no answer in time' }],
    ],
    [
      'a front door that is closed',
      { former: HTTPS, web: web({ [HTTPS]: { status: 401 } }) },
      'variants.door-dark',
      [{ url: HTTPS, detail: 'answers 401' }],
    ],
    [
      'a front door that is dark',
      { former: HTTPS, web: web({ [HTTPS]: { fails: 'timed-out' } }) },
      'variants.door-dark',
      [{ url: HTTPS, detail: 'no answer in time' }],
    ],
    [
      'a broken certificate, where it is shown',
      { web: web({ [WWW]: expired, [HTTP_WWW]: to(WWW) }) },
      'variants.broken-certificate',
      [
        {
          url: WWW,
          host: 'www.quay.example',
          until: '2026-11-01',
          issuer: 'Harbour Authority',
          detail: 'the certificate has expired',
        },
      ],
    ],
    [
      'a broken certificate of nobody’s',
      { web: web({ [WWW]: { fails: 'tls-failed' } }) },
      'variants.broken-certificate',
      [{ url: WWW, issuer: 'nobody', until: 'an unknown day' }],
    ],
    [
      'a broken certificate behind a variant, on another host',
      {
        web: web({
          [WWW]: to('https://cdn.example/'),
          'https://cdn.example/': expired,
          [HTTP_WWW]: to(HTTPS),
        }),
      },
      'variants.broken-certificate',
      [{ url: WWW }],
    ],
    [
      'a certificate of fourteen days',
      { web: web({ [HTTPS]: until('2026-12-09T08:00:00.000Z') }) },
      'variants.certificate-ends',
      [{ url: HTTPS, host: 'quay.example', days: 14, until: '2026-12-09' }],
    ],
    [
      'a certificate of twenty-one days',
      { web: web({ [HTTPS]: until('2026-12-16T08:00:00.000Z') }) },
      'variants.certificate-ends',
      [],
    ],
    [
      'HSTS that shuts out, by whom',
      {
        web: web({
          [HTTPS]: hsts('max-age=31536000; includeSubDomains'),
          [WWW]: { fails: 'tls-name' },
          [HTTP_WWW]: to(HTTPS),
        }),
      },
      'variants.hsts-shuts-out',
      [{ url: WWW, by: HTTPS }],
    ],
    [
      'HSTS over a host that is not there at all',
      {
        web: web({
          [HTTPS]: hsts('max-age=31536000; includeSubDomains'),
          [WWW]: { fails: 'name-missing' },
          [HTTP_WWW]: { fails: 'name-missing' },
        }),
      },
      'variants.hsts-shuts-out',
      [],
    ],
    [
      'HSTS over hosts that answer',
      { web: web({ [HTTPS]: hsts('max-age=31536000; includeSubDomains') }) },
      'variants.hsts-shuts-out',
      [],
    ],
    [
      'HSTS that is taken back, written loosely',
      {
        web: web({
          [HTTPS]: hsts('max-age = "0"; includeSubDomains'),
          [WWW]: { fails: 'tls-name' },
          [HTTP_WWW]: to(HTTPS),
        }),
      },
      'variants.hsts-shuts-out',
      [],
    ],
    ['no HSTS at the front door', { web: web() }, 'variants.no-hsts', [{ url: HTTPS }]],
    ['HSTS at the front door', { web: web({ [HTTPS]: hsts('max-age=31536000') }) }, 'variants.no-hsts', []],
    [
      'no HSTS where there is no https',
      { web: { [HTTP]: HOME, [HTTP_WWW]: to(HTTP) }, takenOn: HTTP },
      'variants.no-hsts',
      [],
    ],
    [
      'http alone',
      { web: { [HTTP]: HOME, [HTTP_WWW]: to(HTTP) }, takenOn: HTTP },
      'variants.no-https',
      [{ url: HTTP }],
    ],
    [
      'a frame by what it frames',
      {
        web: web({
          [WWW]: { page: '<frameset rows="*"><frame src="https://pages.hosting.example/q/"></frameset>' },
        }),
      },
      'variants.framed',
      [{ url: WWW, frame: 'https://pages.hosting.example/q/' }],
    ],
    [
      'another page, where it was met only',
      {
        web: web({
          'https://shop.quay.example/': page('Ropes'),
          'http://shop.quay.example/': to('https://shop.quay.example/'),
        }),
        hosts: [{ host: 'shop.quay.example', why: 'sitemap' }],
      },
      'variants.place-of-its-own',
      [{ url: 'https://shop.quay.example/', door: HTTPS }],
    ],
    [
      'two pages without a word, which are not the same',
      { web: web({ [HTTPS]: page(''), [WWW]: page('') }) },
      'variants.same-page',
      [],
    ],
    [
      'a sibling that leads here, by its language',
      { web: web({ [HTTPS]: head(`<link rel="alternate" hreflang="sv" href="${WWW}">`) }) },
      'variants.sibling-elsewhere',
      [{ url: HTTPS, sibling: WWW, language: 'sv', door: HTTPS }],
    ],
    [
      'a sibling at a variant that answers by itself',
      {
        web: web({
          [HTTPS]: head(`<link rel="alternate" hreflang="sv" href="${WWW}">`),
          [WWW]: page('Överfarter'),
        }),
      },
      'variants.sibling-elsewhere',
      [],
    ],
    [
      'a page with more than is read',
      { web: web({ [HTTPS]: page(`${WORDS}${'<b>'.repeat(3_000)}`) }) },
      'reach.beyond-reading',
      [{ url: HTTPS }],
    ],
    ['a page that was read whole', { web: web() }, 'reach.beyond-reading', []],
    [
      'sitemaps by the variant that they are at',
      { web: web(), sitemaps: [`${WWW}a.xml`, `${HTTPS}b.xml`, 'not an address'] },
      'variants.sitemap-elsewhere',
      [{ url: HTTPS, sitemap: `${WWW}a.xml` }],
    ],
  ])('%s', async (_, scene, code, told) => {
    const { findings } = await judgeScene(scene);
    const found = findings.filter((one) => one.code === code);
    expect(found).toHaveLength(told.length);
    told.forEach((says, at) => {
      expect(found[at]?.evidence).toMatchObject(says);
    });
  });
});

describe('following a variant', () => {
  const look =
    (
      answers: Readonly<
        Record<string, { hops?: readonly Partial<Hop>[]; end?: PageSeen['end']; sentOn?: PageFace['sentOn'] }>
      >,
    ) =>
    (url: string): Promise<Looked> => {
      const { hops = [{}], end = 'answered', sentOn = null } = answers[url] ?? { end: 'failed' };
      return Promise.resolve({
        seen: { hops: hops.map((one) => hop({ url, ...one })), end, body: null },
        face: end === 'answered' ? { ...readFace('', url), sentOn } : null,
      });
    };
  const followed = (answers: Parameters<typeof look>[0], start = HTTP) =>
    followVariant({ address: parseAddress(start), why: 'usual' }, look(answers));
  const sent = (url: string, kind: 'refresh' | 'script' = 'refresh') => ({ kind, url });

  test.each<[string, Parameters<typeof look>[0], Partial<VariantSeen>]>([
    [
      'a page is the end, with what its own answer and the last said',
      {
        [HTTP]: {
          hops: [
            {
              url: HTTP,
              status: 308,
              location: HTTPS,
              address: '192.0.2.7',
              headers: { 'strict-transport-security': 'own' },
            },
            {
              url: HTTPS,
              status: 200,
              address: '192.0.2.8',
              headers: { 'x-robots-tag': 'noindex', 'strict-transport-security': 'last' },
            },
          ],
        },
      },
      {
        end: 'page',
        endsAt: HTTPS,
        status: 200,
        failure: null,
        detail: null,
        dialled: '192.0.2.7',
        hsts: 'own',
        robotsHeader: 'noindex',
        steps: [{ url: HTTP, to: HTTPS, kind: 'permanent', status: 308 }],
      },
    ],
    [
      'a redirect without a status is taken for one that may change',
      { [HTTP]: { hops: [{ url: HTTP, status: null, location: HTTPS }, { url: HTTPS }] } },
      { steps: [{ url: HTTP, to: HTTPS, kind: 'temporary', status: null }] },
    ],
    [
      'a failure is the end, with why',
      { [HTTP]: { hops: [{ status: null, failure: 'refused', detail: 'ECONNREFUSED' }], end: 'failed' } },
      { end: 'failed', failure: 'refused', detail: 'ECONNREFUSED', status: null, page: null, endsAt: HTTP },
    ],
    [
      'a circle ends where it would go next',
      { [HTTP]: { hops: [{ url: HTTP, status: 301, location: HTTPS }], end: 'loop' } },
      { end: 'loop', endsAt: HTTPS, page: null },
    ],
    [
      'a circle that nobody saw ends where it began',
      { [HTTP]: { hops: [], end: 'loop' } },
      { end: 'loop', endsAt: HTTP },
    ],
    [
      'nothing at all',
      { [HTTP]: { hops: [], end: 'failed' } },
      {
        end: 'failed',
        endsAt: HTTP,
        status: null,
        failure: null,
        detail: null,
        dialled: null,
        certificate: null,
        hsts: null,
        robotsHeader: null,
      },
    ],
    [
      'an error page is no page of the site',
      { [HTTP]: { hops: [{ url: HTTP, status: 404 }] } },
      { end: 'page', status: 404, page: null },
    ],
    [
      'a page that sends on is a step, told from where it stands',
      {
        [HTTP]: {
          hops: [{ url: HTTP, status: 302, location: `${HTTP}a` }, { url: `${HTTP}a` }],
          sentOn: sent(HTTPS, 'script'),
        },
        [HTTPS]: {},
      },
      {
        end: 'page',
        endsAt: HTTPS,
        steps: [
          { url: HTTP, to: `${HTTP}a`, kind: 'temporary', status: 302 },
          { url: `${HTTP}a`, to: HTTPS, kind: 'script', status: 200 },
        ],
      },
    ],
    [
      'a page that sends back to the beginning goes round',
      { [HTTP]: { sentOn: sent(HTTPS) }, [HTTPS]: { sentOn: sent(HTTP) } },
      {
        end: 'loop',
        endsAt: HTTP,
        page: null,
        steps: [
          { url: HTTP, to: HTTPS, kind: 'refresh', status: 200 },
          { url: HTTPS, to: HTTP, kind: 'refresh', status: 200 },
        ],
      },
    ],
    [
      'a page that sends back to the midst goes round too',
      { [HTTP]: { sentOn: sent(HTTPS) }, [HTTPS]: { sentOn: sent(WWW) }, [WWW]: { sentOn: sent(HTTPS) } },
      {
        end: 'loop',
        endsAt: HTTPS,
        steps: [
          { url: HTTP, to: HTTPS, kind: 'refresh', status: 200 },
          { url: HTTPS, to: WWW, kind: 'refresh', status: 200 },
          { url: WWW, to: HTTPS, kind: 'refresh', status: 200 },
        ],
      },
    ],
  ])('%s', async (_, answers, seen) => {
    expect(await followed(answers)).toMatchObject(seen);
  });

  it('stops after some pages that each send on to the next', async () => {
    let asked = 0;
    const seen = await followVariant({ address: parseAddress(HTTP), why: 'usual' }, (url) => {
      asked += 1;
      return look({ [url]: { sentOn: sent(`${HTTP}${String(asked)}`) } })(url);
    });
    expect([seen.end, seen.steps.length, asked]).toEqual(['page', 11, 12]);
  });
});

describe('the front door', () => {
  const seenOf = (address: string, more: Partial<VariantSeen> = {}) =>
    variantSeen(address, { page: readFace(`<p>${WORDS}`, address), ...more });
  const led = (
    address: string,
    endsAt: string,
    kind: 'permanent' | 'temporary' = 'permanent',
    more: Partial<VariantSeen> = {},
  ) =>
    seenOf(address, {
      endsAt,
      steps: [{ url: address, to: endsAt, kind, status: kind === 'permanent' ? 301 : 302 }],
      ...more,
    });
  const named = (address: string, canonical: string, words = WORDS) =>
    seenOf(address, {
      page: readFace(`<head><link rel=canonical href="${canonical}"></head><p>${words}`, address),
    });
  const door = (found: FrontDoor) =>
    found.kind === 'found'
      ? addressText(found.address)
      : found.kind === 'elsewhere'
        ? `away ${found.url}`
        : 'dark';
  const AWAY = 'https://harbour.example/';
  test.each<[string, string, string | null, readonly VariantSeen[], string]>([
    [
      'most usual variants end there',
      HTTP,
      null,
      [led(HTTP, WWW), led(HTTPS, WWW), seenOf(WWW), seenOf(HTTP_WWW)],
      WWW,
    ],
    ['as many end here as there: over https', HTTP, null, [seenOf(HTTP), seenOf(HTTPS)], HTTPS],
    ['as many, whichever comes first', HTTP, null, [seenOf(HTTPS), seenOf(HTTP)], HTTPS],
    ['as many, both over https: what was taken on', WWW, null, [seenOf(HTTPS), seenOf(WWW)], WWW],
    ['as many, both over https, the other way about', HTTPS, null, [seenOf(WWW), seenOf(HTTPS)], HTTPS],
    [
      'what the pages name, whatever most do',
      HTTPS,
      null,
      [named(WWW, HTTPS), named(HTTP_WWW, HTTPS), named(HTTPS, HTTPS), led(HTTP, WWW)],
      HTTPS,
    ],
    [
      'a host that was met besides has no say',
      HTTPS,
      null,
      [
        seenOf(HTTPS),
        seenOf('https://shop.quay.example/', { why: 'sitemap' }),
        led('http://shop.quay.example/', 'https://shop.quay.example/', 'permanent', { why: 'sitemap' }),
      ],
      HTTPS,
    ],
    ['an error page is none', HTTPS, null, [seenOf(HTTPS, { status: 404, page: null }), seenOf(WWW)], WWW],
    ['a circle is none', HTTPS, null, [seenOf(HTTPS, { end: 'loop' }), seenOf(WWW)], WWW],
    [
      'all is dark',
      HTTPS,
      null,
      [seenOf(HTTPS, { end: 'failed', failure: 'timed-out', status: null, page: null })],
      'dark',
    ],
    ['all leads away', HTTPS, null, [led(HTTPS, AWAY), led(HTTP, AWAY)], `away ${AWAY}`],
    [
      'more leads here than there, both away',
      HTTPS,
      null,
      [led(HTTPS, 'https://a.example/'), led(HTTP, AWAY), led(WWW, AWAY)],
      `away ${AWAY}`,
    ],
    ['one stays, the others lead away', HTTPS, null, [seenOf(HTTPS), led(HTTP, AWAY), led(WWW, AWAY)], HTTPS],
    ['known, and still there', HTTP, WWW, [seenOf(WWW), seenOf(HTTPS), seenOf(HTTP)], WWW],
    [
      'known, and dark for a while',
      HTTPS,
      HTTPS,
      [seenOf(HTTPS, { end: 'failed', failure: 'timed-out' }), seenOf(WWW)],
      HTTPS,
    ],
    [
      'known, and dark for no reason that is told',
      HTTPS,
      HTTPS,
      [seenOf(HTTPS, { end: 'failed', failure: null }), seenOf(WWW)],
      HTTPS,
    ],
    [
      'known, and its certificate is broken',
      HTTPS,
      HTTPS,
      [seenOf(HTTPS, { end: 'failed', failure: 'tls-name' }), seenOf(WWW)],
      HTTPS,
    ],
    [
      'known, and its name is gone',
      HTTPS,
      HTTPS,
      [seenOf(HTTPS, { end: 'failed', failure: 'name-missing' }), seenOf(WWW)],
      WWW,
    ],
    [
      'known, and in a circle for a while',
      HTTPS,
      HTTPS,
      [seenOf(HTTPS, { end: 'loop' }), seenOf(WWW)],
      HTTPS,
    ],
    [
      'known, and leads on within the domain, if only for now',
      HTTPS,
      HTTPS,
      [led(HTTPS, WWW, 'temporary'), seenOf(WWW)],
      WWW,
    ],
    ['known, and leads away for now', HTTPS, HTTPS, [led(HTTPS, AWAY, 'temporary'), seenOf(WWW)], HTTPS],
    [
      'known, and leads away for good, while another stays',
      HTTPS,
      HTTPS,
      [led(HTTPS, AWAY), seenOf(WWW)],
      WWW,
    ],
    ['known, and all lead away for good', HTTPS, HTTPS, [led(HTTPS, AWAY), led(WWW, AWAY)], AWAY],
    [
      'known, and one of those that lead away does so for now',
      HTTPS,
      HTTPS,
      [led(HTTPS, AWAY), led(WWW, AWAY, 'temporary')],
      `away ${AWAY}`,
    ],
    ['known on another domain, and still there', HTTPS, AWAY, [seenOf(AWAY), led(HTTPS, AWAY)], AWAY],
    [
      'known on another domain, moved on within that',
      HTTPS,
      AWAY,
      [led(AWAY, 'https://www.harbour.example/'), led(HTTPS, 'https://www.harbour.example/')],
      'https://www.harbour.example/',
    ],
    ['known, and not looked at: as at first', HTTPS, AWAY, [seenOf(HTTPS)], HTTPS],
    [
      'known, and its page names another that is the same',
      HTTP,
      HTTP,
      [named(HTTP, HTTPS), seenOf(HTTPS)],
      HTTPS,
    ],
    [
      'known, and its page names another that differs',
      HTTP,
      HTTP,
      [
        named(HTTP, HTTPS),
        seenOf(HTTPS, { page: readFace('<p>Parked with us, the best place for names', HTTPS) }),
      ],
      HTTP,
    ],
    [
      'known, and its page names another that leads on',
      HTTP,
      HTTP,
      [named(HTTP, HTTPS), led(HTTPS, WWW)],
      HTTP,
    ],
    [
      'known, and its page names one that was not looked at',
      HTTP,
      HTTP,
      [named(HTTP, AWAY), seenOf(HTTPS)],
      HTTP,
    ],
    [
      'known, and its page names one without a page',
      HTTP,
      HTTP,
      [named(HTTP, HTTPS), seenOf(HTTPS, { page: null })],
      HTTP,
    ],
    [
      'known, with a page of no words that names another of none',
      HTTP,
      HTTP,
      [named(HTTP, HTTPS, ''), seenOf(HTTPS, { page: readFace('', HTTPS) })],
      HTTP,
    ],
  ])('%s', (_, takenOn, former, seen, expected) => {
    expect(
      door(frontDoorOf(parseAddress(takenOn), former === null ? null : parseAddress(former), seen)),
    ).toBe(expected);
  });
});

describe('what a page says of itself', () => {
  const URL_OF_PAGE = 'https://quay.example/en/';
  const face = (head: string, body = '', link?: string) =>
    readFace(`<!doctype html><html><head>${head}</head><body>${body}</body></html>`, URL_OF_PAGE, link);
  test.each<[string, string, string | undefined, string | null]>([
    ['none', '', undefined, null],
    [
      'absolute',
      '<link rel="canonical" href="https://quay.example/fi/">',
      undefined,
      'https://quay.example/fi/',
    ],
    ['relative to the page', '<link rel="canonical" href="../">', undefined, HTTPS],
    [
      'relative to its base',
      '<base href="/sv/"><link rel="canonical" href="a">',
      undefined,
      'https://quay.example/sv/a',
    ],
    [
      'relative to the first base of two',
      '<base href="/sv/"><base href="/fi/"><link rel="canonical" href="a">',
      undefined,
      'https://quay.example/sv/a',
    ],
    [
      'relative to a base that cannot be read',
      '<base href="http://["><link rel="canonical" href="a">',
      undefined,
      'https://quay.example/en/a',
    ],
    [
      'relative to a base without an address',
      '<base target="_top"><link rel="canonical" href="a">',
      undefined,
      'https://quay.example/en/a',
    ],
    ['among other relations', '<link rel="Home  Canonical" href="/">', undefined, HTTPS],
    [
      'the first of two',
      '<link rel="canonical" href="/a"><link rel="canonical" href="/b">',
      undefined,
      'https://quay.example/a',
    ],
    ['of another relation', '<link rel="canonicalish" href="/">', undefined, null],
    ['without an address', '<link rel="canonical">', undefined, null],
    ['in a template', '<template><link rel="canonical" href="/"></template>', undefined, null],
    ['in the header', '', '</a>; rel=canonical', 'https://quay.example/a'],
    [
      'in the header, quoted, among others',
      '',
      '</x>; rel="next"; title="canonical", </b>; rel="nofollow canonical"',
      'https://quay.example/b',
    ],
    [
      'in the header, with other parameters',
      '',
      '</a>; type="text/html"; rel = "CANONICAL"',
      'https://quay.example/a',
    ],
    ['in the header, of another relation', '', '</a>; rel="next"', null],
    ['in the header, as another parameter', '', '</a>; title="canonical"', null],
    [
      'the page before the header',
      '<link rel="canonical" href="/page">',
      '</header>; rel="canonical"',
      'https://quay.example/page',
    ],
    ['a broken header', '', '<<<;;;,rel=canonical', null],
  ])('a canonical link: %s', (_, head, link, canonical) => {
    expect(face(head, '', link).canonical).toBe(canonical);
  });

  it('siblings in other languages, each with its language', () => {
    const head = [
      '<link rel="alternate" hreflang="fi" href="/fi/">',
      '<link rel="alternate" href="/none/">',
      '<link rel="alternate" hreflang="sv">',
      '<link rel="next" hreflang="de" href="/de/">',
      `<link rel="alternate" hreflang="${'x'.repeat(60)}" href="/x/">`,
    ].join('');
    expect(face(head).siblings).toEqual([
      { language: 'fi', url: 'https://quay.example/fi/' },
      { language: 'x'.repeat(35), url: 'https://quay.example/x/' },
    ]);
    expect(face('', '<link rel="alternate" hreflang="fi" href="/fi/">').siblings).toEqual([]);
  });

  it('feeds by their type', () => {
    const head = [
      '<link rel="alternate" type="application/rss+xml" href="/rss">',
      '<link rel="alternate" type="APPLICATION/ATOM+XML; charset=utf-8" href="/atom">',
      '<link rel="alternate" type="application/rss+xml">',
      '<link rel="alternate" type="application/rss+xmlish" href="/no">',
      '<link rel="alternate" href="/none">',
      '<link rel="next" type="application/rss+xml" href="/next">',
      '<link rel="alternate" type="text/application/rss+xml" href="/no">',
    ].join('');
    expect(face(head).feeds).toEqual(['https://quay.example/rss', 'https://quay.example/atom']);
  });

  it('no more of them than anybody has', () => {
    const links = (count: number, more: string) =>
      Array.from({ length: count }, (_, at) => `<link rel="alternate" ${more} href="/${String(at)}">`).join(
        '',
      );
    expect(face(links(210, 'hreflang="fi"')).siblings).toHaveLength(200);
    expect(face(links(12, 'type="application/rss+xml"')).feeds).toHaveLength(10);
    const late = `${'<link rel="icon" href="/i">'.repeat(2_000)}<link rel="canonical" href="/late">`;
    expect(face(late).canonical).toBeNull();
    const just = `${'<link rel="icon" href="/i">'.repeat(1_999)}<link rel="canonical" href="/just">`;
    expect(face(just).canonical).toBe('https://quay.example/just');
  });

  test.each<[string, string, string, PageFace['sentOn']]>([
    [
      'by a refresh',
      '<meta http-equiv="Refresh" content="0; url=/fi/">',
      '',
      { kind: 'refresh', url: 'https://quay.example/fi/' },
    ],
    [
      'by the first of two',
      '<meta http-equiv="refresh" content="0; url=/a"><meta http-equiv="refresh" content="0; url=/b">',
      '',
      { kind: 'refresh', url: 'https://quay.example/a' },
    ],
    ['not by another pragma', '<meta http-equiv="content-type" content="0; url=/a">', '', null],
    ['not by another element', '<link http-equiv="refresh" content="0; url=/a">', '', null],
    [
      'not by one in a template',
      '<template><meta http-equiv="refresh" content="0; url=/a"></template>',
      '',
      null,
    ],
    ['not by one that says nothing', '<meta http-equiv="refresh">', '', null],
    [
      'by a script',
      '<script>location.href = "/fi/"</script>',
      '',
      { kind: 'script', url: 'https://quay.example/fi/' },
    ],
    [
      'by the second of two scripts',
      '<script>var a</script><script>location.href = "/fi/"</script>',
      '',
      { kind: 'script', url: 'https://quay.example/fi/' },
    ],
    ['not by what is no script', '', '<p>location.href = "/fi/"</p>', null],
    [
      'not by a script behind too much of it',
      `<script>${' '.repeat(20_000)}location.href = "/fi/"</script>`,
      '',
      null,
    ],
    [
      'not by a script behind another that is too much',
      `<script>${' '.repeat(20_000)}</script><script>location.href = "/fi/"</script>`,
      '',
      null,
    ],
    [
      'not by a script of a page of its own',
      '<script>location.href = "/fi/"</script>',
      '<p>letters </p>'.repeat(30),
      null,
    ],
    [
      'by a script, whatever stands in the head',
      `<script>location.href = "/fi/"</script><style>${'a '.repeat(200)}</style><title>${'t'.repeat(300)}</title>`,
      '',
      { kind: 'script', url: 'https://quay.example/fi/' },
    ],
    [
      'by a script, whatever blanks stand in the body',
      '<script>location.href = "/fi/"</script>',
      `<p>${' '.repeat(400)}few</p>`,
      { kind: 'script', url: 'https://quay.example/fi/' },
    ],
  ])('where it sends its visitors: %s', (_, head, body, sentOn) => {
    expect(face(head, body).sentOn).toEqual(sentOn);
  });

  it('that engines are to stay away, by tags of its head alone', () => {
    const head = [
      '<meta name="Robots" content="noindex">',
      '<meta name="veldrane-reader" content="none">',
      '<meta name="description" content="all of it">',
      '<meta content="noindex">',
      '<meta property="x" content="noindex">',
    ].join('\n');
    expect(face(head, '<meta name="robots" content="noindex">').stayAway).toEqual([
      { name: 'robots', content: 'noindex', line: expect.any(Number) as number },
      { name: 'veldrane-reader', content: 'none', line: expect.any(Number) as number },
      ...face(head).stayAway.slice(2),
    ]);
    expect(face(head).stayAway.every(({ name }) => name !== '')).toBe(true);
  });

  it('words by which it is known again: those that people see', () => {
    const same = (a: PageFace, b: PageFace) => a.fingerprint !== null && a.fingerprint === b.fingerprint;
    const plain = face('', `<p>${WORDS}</p>`);
    expect(same(plain, face('', `<p>${WORDS}</p><script>other words here</script>`))).toBe(true);
    expect(same(plain, face('<style>a b c d</style>', `<p>${WORDS}</p>`))).toBe(true);
    expect(same(plain, face('', `<template>not to be seen</template><p>${WORDS}</p>`))).toBe(true);
    expect(same(plain, face('', `<noscript>not for most</noscript><p>${WORDS}</p>`))).toBe(true);
    expect(same(plain, face('<title>Seen above</title>', `<p>${WORDS}</p>`))).toBe(false);
    expect(face('', '').fingerprint).toBeNull();
    const long = (more: string) => face('', `<p>${'word '.repeat(20_000)}${more}</p>`);
    expect(same(long(''), long('a b c d e f'))).toBe(true);
  });
});

describe('a fingerprint', () => {
  it('draws by pieces of three words, to the last', () => {
    expect(fingerprint(['one'])).toHaveLength(128);
    expect(fingerprint(['a', 'b', 'c'])).not.toBe(fingerprint(['c', 'b', 'a']));
    expect(fingerprint(['a', 'b', 'c', 'd'])).not.toBe(fingerprint(['a', 'b', 'c', 'e']));
    expect(fingerprint(['a', 'b'])).not.toBe(fingerprint(['a', 'b', 'c']));
    const draws = fingerprint(['a', 'b', 'c'])?.match(/.{4}/gu) ?? [];
    expect(new Set(draws).size).toBeGreaterThan(28);
  });

  test.each([
    [0, true],
    [6, true],
    [7, false],
  ])('with %i of 32 draws apart is alike: %s', (apart, isAlike) => {
    const one = 'aaaa'.repeat(32);
    expect(isSameThing(one, 'bbbb'.repeat(apart) + 'aaaa'.repeat(32 - apart))).toBe(isAlike);
    expect(isSameThing(one, 'aaaa'.repeat(32 - apart) + 'bbbb'.repeat(apart))).toBe(isAlike);
  });

  it('takes so many words and letters, and no more', () => {
    expect(wordsOf('One, TWO three', 2)).toEqual(['one', 'two']);
    expect(wordsOf('One two', 0)).toEqual([]);
    expect(wordsOf('One two', -1)).toEqual([]);
    expect(wordsOf('x'.repeat(150), 5)).toEqual(['x'.repeat(100)]);
  });
});

describe('other ways of writing an address', () => {
  const spelt = (address: string) => spellingsOf(parseAddress(address)).map(({ kind, url }) => [kind, url]);
  test.each<[string, string[][]]>([
    [
      HTTPS,
      [
        ['port', 'https://quay.example:443/'],
        ['index-file', `${HTTPS}index.html`],
      ],
    ],
    [
      HTTP,
      [
        ['port', 'http://quay.example:80/'],
        ['index-file', `${HTTP}index.html`],
      ],
    ],
    ['https://quay.example:8443/', [['index-file', 'https://quay.example:8443/index.html']]],
    [
      'https://quay.example/clocks/',
      [
        ['port', 'https://quay.example:443/clocks/'],
        ['slash', 'https://quay.example/clocks'],
        ['case', 'https://quay.example/Clocks/'],
        ['index-file', 'https://quay.example/clocks/index.html'],
      ],
    ],
    [
      'https://quay.example/Clocks/',
      [
        ['port', 'https://quay.example:443/Clocks/'],
        ['slash', 'https://quay.example/Clocks'],
        ['case', 'https://quay.example/clocks/'],
        ['index-file', 'https://quay.example/Clocks/index.html'],
      ],
    ],
    [
      'https://quay.example/7/',
      [
        ['port', 'https://quay.example:443/7/'],
        ['slash', 'https://quay.example/7'],
        ['index-file', 'https://quay.example/7/index.html'],
      ],
    ],
  ])('of %s', (address, expected) => {
    expect(spelt(address)).toEqual(expected);
  });

  it('of which only a default port is the same by the URL standard', () => {
    const door = parseAddress('https://quay.example/clocks/');
    expect(spellingsOf(door).map((one) => isSameAddress(one, door))).toEqual([true, false, false, false]);
  });

  const door = parseAddress('https://quay.example/clocks/');
  const looked = (
    url: string,
    words: string | null,
    more: { end?: PageSeen['end']; status?: number } = {},
  ): Looked => ({
    seen: { hops: [hop({ url, status: more.status ?? 200 })], end: more.end ?? 'answered', body: null },
    face: words === null ? null : readFace(`<p>${words}`, url),
  });
  const slash = { kind: 'slash' as const, url: 'https://quay.example/clocks' };
  const AT_DOOR = looked('https://quay.example/clocks/', WORDS);
  test.each<[string, Looked | null, Looked | null, string]>([
    ['no look', null, AT_DOOR, 'nothing'],
    ['no answer', looked(slash.url, null, { end: 'failed' }), AT_DOOR, 'nothing'],
    ['an error', looked(slash.url, 'gone', { status: 404 }), AT_DOOR, 'nothing'],
    ['no hops', { seen: { hops: [], end: 'answered', body: null }, face: null }, AT_DOOR, 'nothing'],
    ['the door', looked('https://quay.example/clocks/', WORDS), AT_DOOR, 'leads-here'],
    [
      'where the door leads',
      looked('https://quay.example/en/', WORDS),
      looked('https://quay.example/en/', WORDS),
      'leads-here',
    ],
    [
      'the door, which itself leads on',
      looked('https://quay.example/clocks/', 'a b c'),
      looked('https://quay.example/en/', WORDS),
      'leads-here',
    ],
    [
      'the door, of which nothing is known',
      looked('https://quay.example/clocks/', WORDS),
      null,
      'leads-here',
    ],
    ['the same page by itself', looked(slash.url, WORDS), AT_DOOR, 'same-page'],
    ['another page', looked(slash.url, 'Parked with us, names of all kinds'), AT_DOOR, 'other-page'],
    ['a page that was not read', looked(slash.url, null), AT_DOOR, 'other-page'],
    [
      'a page, and a door that was not read',
      looked(slash.url, WORDS),
      looked('https://quay.example/clocks/', null),
      'other-page',
    ],
    ['a page, and a door that is not known', looked(slash.url, WORDS), null, 'other-page'],
  ])('shows %s', (_, seen, atDoor, outcome) => {
    expect(judgeSpelling(slash, door, seen, atDoor)).toMatchObject({ ...slash, outcome });
  });

  it('matters where it shows the same page, or loses people who leave the slash out', () => {
    const outcomes = ['same-address', 'leads-here', 'same-page', 'other-page', 'nothing'] as const;
    const codes = (kind: 'slash' | 'case', canonical: string | null) =>
      outcomes.map(
        (outcome) =>
          judgeSpellings(door, [{ kind, url: slash.url, outcome, says: '' }], canonical)[0]?.code ?? null,
      );
    expect(codes('slash', null)).toEqual([
      null,
      null,
      'variants.spelt-twice',
      'variants.slash-differs',
      'variants.slash-lost',
    ]);
    expect(codes('case', null)).toEqual([null, null, 'variants.spelt-twice', null, null]);
    expect(codes('case', HTTPS)).toEqual([null, null, 'variants.spelt-twice-named', null, null]);
  });
});

describe('the variants to look at', () => {
  const tried = (
    takenOn: string,
    door: string | null = null,
    extra: Parameters<typeof variantsToTry>[2] = [],
  ) =>
    variantsToTry(parseAddress(takenOn), door === null ? null : parseAddress(door), extra).map(
      ({ address, why }) => `${why} ${addressText(address)}`,
    );
  test.each<[string, string[]]>([
    ['quay.example', ['quay.example', 'www.quay.example']],
    ['www.quay.example', ['quay.example', 'www.quay.example']],
    ['shop.quay.example', ['shop.quay.example', 'www.shop.quay.example']],
    // The registrable name may begin with www itself.
    ['www.example', ['www.example', 'www.www.example']],
    ['quaywww.example', ['quaywww.example', 'www.quaywww.example']],
  ])('are of %s: %j', (host, pair) => {
    expect(hostPair(host)).toEqual(pair);
  });

  it('begin with what was taken on, both schemes and both names, each once', () => {
    expect(tried(HTTPS)).toEqual([`taken-on ${HTTPS}`, `usual ${HTTP}`, `usual ${WWW}`, `usual ${HTTP_WWW}`]);
    expect(tried('https://quay.example/clocks/')[2]).toBe('usual https://www.quay.example/clocks/');
    expect(tried('https://quay.example:8443/').slice(0, 3)).toEqual([
      'taken-on https://quay.example:8443/',
      'usual https://www.quay.example:8443/',
      `usual ${HTTPS}`,
    ]);
  });

  it('have the front door and, on another domain, its usual ones', () => {
    expect(tried(HTTPS, 'https://shop.quay.example/').slice(4)).toEqual(['usual https://shop.quay.example/']);
    expect(tried(HTTPS, 'https://harbour.example/').slice(4)).toEqual([
      'usual https://harbour.example/',
      'usual http://harbour.example/',
      'usual https://www.harbour.example/',
      'usual http://www.harbour.example/',
    ]);
  });

  it('have hosts that were told, and end at a bound', () => {
    expect(tried(HTTPS, null, [{ host: 'shop.quay.example', why: 'sitemap' }]).slice(4)).toEqual([
      'sitemap https://shop.quay.example/',
      'sitemap http://shop.quay.example/',
    ]);
    const many = Array.from({ length: 60 }, (_, at) => ({
      host: `h${String(at)}.quay.example`,
      why: 'sitemap' as const,
    }));
    expect(tried(HTTPS, null, many)).toHaveLength(MOST_VARIANTS);
  });

  test.each([
    ['quay.example', HTTPS, true],
    ['www.quay.example', HTTPS, true],
    ['shop.quay.example', HTTPS, false],
    ['shop.quay.example', 'https://shop.quay.example/', true],
    ['www.shop.quay.example', 'https://shop.quay.example/', false],
    ['quay.example', 'https://shop.quay.example/', true],
  ])('%s is typed by people for %s: %s', (host, takenOn, is) => {
    expect(isTyped(host, parseAddress(takenOn))).toBe(is);
  });

  test.each([
    ['https://quay.example/clocks/hall/', '/clocks/', 'https://quay.example/clocks/'],
    ['https://quay.example/clocks', '/clocks/', 'https://quay.example/clocks/'],
    ['https://quay.example/x/clocks/', '/clocks/', 'https://quay.example/x/clocks/'],
    ['https://quay.example/a/b', '/clocks/', 'https://quay.example/a/'],
    ['https://quay.example/a', '/', HTTPS],
    ['http://quay.example:8080/a', '/', 'http://quay.example:8080/'],
  ])('%s belongs, with the folder %s, to %s', (url, path, variant) => {
    expect(addressText(variantOf(url, path))).toBe(variant);
  });
});

describe('what keeps engines out', () => {
  const V = { title: 'Veldrane', agent: 'Veldrane-Reader' };
  const S = { title: 'Sundrel', agent: 'sundrel' };
  const N = { title: 'Brindle', agent: null };
  const told = (...given: Parameters<typeof judgeKeepingOutOf>) =>
    judgeKeepingOutOf(...given).map(({ code, evidence, grade }) => ({ code, ...evidence, grade }));
  const tag = (name: string, line = 4) => ({ name, content: 'noindex', line });
  test.each<[string, ReturnType<typeof tag>[], (typeof V | typeof N)[], Record<string, unknown>[]]>([
    ['no tag', [], [V, N], []],
    [
      'for all',
      [tag('robots')],
      [V, N],
      [{ url: HTTPS, line: 4, found: 'noindex', whom: 'engines', grade: 'stops' }],
    ],
    ['for one of two', [tag('veldrane-reader')], [V, S], [{ whom: 'Veldrane' }]],
    [
      'for both of two, each by name',
      [tag('sundrel', 5), tag('veldrane-reader', 6)],
      [V, S],
      [{ whom: 'engines', line: 5 }],
    ],
    [
      'for both of three',
      [tag('veldrane-reader'), tag('sundrel')],
      [V, S, N],
      [{ whom: 'Veldrane, Sundrel' }],
    ],
    ['for nobody whom we know', [tag('otherbot')], [V, N], []],
    [
      'for one, beside one for nobody',
      [tag('otherbot', 3), tag('veldrane-reader', 7)],
      [V, S],
      [{ line: 7, whom: 'Veldrane' }],
    ],
    [
      'for all, beside one by name',
      [tag('veldrane-reader', 3), tag('robots', 9)],
      [V, S],
      [{ line: 9, whom: 'engines' }],
    ],
    ['for all, and nobody is asked', [tag('robots')], [], []],
  ])('a tag %s', (_, stayAway, agents, expected) => {
    const found = told(HTTPS, { stayAway }, null, null, agents);
    expect(found).toHaveLength(expected.length);
    expected.forEach((says, at) => {
      expect(found[at]).toMatchObject({ code: 'reach.keeps-out-tag', ...says });
    });
  });

  it('no page, no header, no robots.txt', () => {
    expect(told(HTTPS, null, null, null, [V])).toEqual([]);
  });

  test.each<[string, string, Record<string, unknown> | null]>([
    ['all', 'noindex', { whom: 'engines', found: 'noindex', grade: 'stops' }],
    ['one', 'sundrel: noindex', { whom: 'Sundrel', found: expect.stringContaining('noindex') }],
    ['nobody', 'all', null],
  ])('a header for %s', (_, header, says) => {
    const [found] = told(HTTPS, null, header, null, [V, S, N]);
    if (says === null) expect(found).toBeUndefined();
    else expect(found).toMatchObject({ code: 'reach.keeps-out-header', url: HTTPS, ...says });
  });

  const ROBOTS = 'https://quay.example/robots.txt';
  test.each<[string, number | null, string, string, Record<string, unknown> | null]>([
    [
      'forbids all',
      200,
      'User-agent: *\nDisallow: /',
      HTTPS,
      { code: 'reach.keeps-out-robots', robots: ROBOTS, line: 2, found: 'Disallow: /', whom: 'engines' },
    ],
    ['forbids one', 200, 'User-agent: sundrel\nDisallow: /', HTTPS, { whom: 'Sundrel' }],
    ['forbids another page', 200, 'User-agent: *\nDisallow: /clocks/', HTTPS, null],
    [
      'forbids a query',
      200,
      'User-agent: *\nDisallow: /*?lang=',
      'https://quay.example/?lang=fi',
      { found: 'Disallow: /*?lang=' },
    ],
    ['is not there', 404, 'User-agent: *\nDisallow: /', HTTPS, null],
    ['leads on', 301, 'User-agent: *\nDisallow: /', HTTPS, null],
    ['fails just so', 500, '', HTTPS, { code: 'reach.robots-fails', url: ROBOTS, answer: 'answers 500' }],
    ['fails', 503, '', HTTPS, { code: 'reach.robots-fails', answer: 'answers 503' }],
    ['does not answer', null, '', HTTPS, { code: 'reach.robots-fails', answer: 'does not answer' }],
  ])('a robots.txt that %s', (_, status, text, url, says) => {
    const [found] = told(url, null, null, { url: ROBOTS, status, text }, [V, S, N]);
    if (says === null) expect(found).toBeUndefined();
    else expect(found).toMatchObject(says);
  });
});

describe('cover, plan and what follows from a move', () => {
  const role = (address: string, is: Role): VariantRole => ({ address, role: is, why: 'usual' });
  const at = (text: string, badge: Badge = 'held', name = text): Covering => ({
    name,
    target: parseScope(text.includes('/') ? 'address' : 'name', text),
    badge,
  });
  const TWO = [role(WWW, 'front-door'), role(HTTPS, 'answers'), role(HTTP, 'dark')];
  const cover = (enrolments: Covering[], variants = TWO, door: string | null = WWW) =>
    coverOf('Veldrane', variants, door === null ? null : parseAddress(door), enrolments);

  test.each<[string, Covering[], string, Record<string, unknown> | null]>([
    [
      'what is missed, and what is held',
      [at(WWW), at(HTTP, 'issued')],
      'variants.held-misses',
      { url: HTTPS, urls: HTTPS, engine: 'Veldrane', held: WWW },
    ],
    [
      'all that is missed in one',
      [at(HTTP)],
      'variants.held-misses',
      { url: WWW, urls: `${WWW} and ${HTTPS}`, held: HTTP },
    ],
    ['nothing missed where nothing is held', [at(HTTP, 'issued')], 'variants.held-misses', null],
    [
      'what is not covered, and what is enrolled',
      [at(WWW, 'issued'), at(HTTP, 'bare')],
      'variants.uncovered',
      { urls: HTTPS, held: `${WWW}, ${HTTP}` },
    ],
    ['what is missed is not told as uncovered too', [at(WWW)], 'variants.uncovered', null],
    [
      'an enrolment in the dark',
      [at(HTTP, 'issued')],
      'variants.enrolled-in-the-dark',
      { enrolment: HTTP, engine: 'Veldrane', url: HTTP, door: WWW },
    ],
    [
      'an enrolment by name is never in the dark',
      [at('quay.example')],
      'variants.enrolled-in-the-dark',
      null,
    ],
  ])('tells %s', (_, enrolments, code, says) => {
    const found = cover(enrolments).findings.find((one) => one.code === code);
    if (says === null) expect(found).toBeUndefined();
    else expect(found?.evidence).toMatchObject(says);
  });

  it('tells no enrolment of the front door itself for wasted, dark or not', () => {
    const dark = [role(WWW, 'dark'), role(HTTPS, 'elsewhere')];
    expect(cover([at(WWW)], dark).findings.map(({ code }) => code)).not.toContain(
      'variants.enrolled-in-the-dark',
    );
    expect(cover([at(HTTPS)], dark).findings.map(({ code }) => code)).toContain(
      'variants.enrolled-on-redirect',
    );
    expect(cover([at(HTTPS)], dark, null).findings.map(({ code }) => code)).not.toContain(
      'variants.enrolled-on-redirect',
    );
  });

  test.each<[string, Covering[], [string, string][]]>([
    ['a name over an address', [at(WWW, 'held', 'a'), at('quay.example', 'held', 'n')], [['a', 'n']]],
    ['a name before an address', [at('quay.example', 'held', 'n'), at(WWW, 'held', 'a')], [['a', 'n']]],
    ['a name not held over a held address', [at('quay.example', 'issued', 'n'), at(WWW, 'held', 'a')], []],
    ['two alike: the later one', [at(WWW, 'held', 'a'), at(WWW, 'held', 'b')], [['b', 'a']]],
    ['two beside each other', [at(WWW, 'held', 'a'), at(HTTPS, 'held', 'b')], []],
    ['two over nothing', [at('harbour.example', 'held', 'a'), at('harbour.example', 'held', 'b')], []],
  ])('%s', (_, enrolments, told) => {
    const found = cover(enrolments).findings.filter(({ code }) => code === 'variants.overlap');
    expect(found.map(({ evidence }) => [evidence['enrolment'], evidence['by']])).toEqual(told);
  });

  it('says why each enrolment is planned', () => {
    const addressOnly = { ...veldrane, reaches: ['address' as const] };
    const nameOnly = { ...veldrane, reaches: ['name' as const] };
    const why = (
      profile: typeof veldrane,
      zone: 'yes' | 'no' | undefined,
      variants = TWO,
      enrolments: Covering[] = [],
      door = WWW,
    ) => planFor(profile, { door: parseAddress(door), variants, zone }, enrolments).map((line) => line.why);
    const ONE = [role(WWW, 'front-door')];
    const FOLDER = 'https://hosting.example/clocks/';
    expect(why(veldrane, 'yes')).toEqual([
      'One enrolment for 2 variants that visitors use; the client can get at the DNS zone, which proves it.',
    ]);
    expect(why(veldrane, 'yes', ONE)).toEqual([
      'Covers every host and scheme under it, whatever moves; the client can get at the DNS zone, which proves it.',
    ]);
    expect(why(veldrane, undefined)).toEqual([
      'One enrolment for 2 variants that visitors use; wants a record in the DNS zone.',
    ]);
    expect(why(nameOnly, undefined, ONE)).toEqual([
      'Covers every host and scheme under it, whatever moves; the engine registers in no other way. Wants a record in the DNS zone.',
    ]);
    const [first, second] = why(addressOnly, undefined);
    expect(first).toBe('The front door; the engine registers one address at a time.');
    expect(second).toContain('Answers by itself');
    expect(why(veldrane, 'no', ONE)).toEqual([
      'The front door; to cover the name would take access to the DNS zone, which the client lacks.',
    ]);
    expect(why(veldrane, undefined, ONE)).toEqual(['The front door; every method can prove it.']);
    expect(why(veldrane, undefined, [role(FOLDER, 'front-door')], [], FOLDER)).toEqual([
      'The front door; a name would cover the neighbours of the folder too.',
    ]);
    const domains = [role(WWW, 'front-door'), role('https://harbour.example/', 'answers')];
    expect(why(veldrane, undefined, domains)[0]).toBe('The front door; no one name is over all variants.');
    expect(why(veldrane, undefined, TWO, [at('quay.example')])).toEqual([
      'Covers every host and scheme under the name.',
    ]);
    expect(why(addressOnly, undefined, TWO, [at(WWW), at(HTTPS)])).toEqual([
      'Covers the front door.',
      'Covers a variant that visitors use.',
    ]);
    const noMethod = { ...addressOnly, methods: {} };
    expect(why(noMethod, undefined)).toEqual([]);
    const shop = 'https://shop.quay.example/';
    const wide = planFor(
      veldrane,
      { door: parseAddress(shop), variants: [role(shop, 'front-door'), role(WWW, 'answers')], zone: 'yes' },
      [],
    );
    expect(wide.map(({ target }) => scopeText(target))).toEqual(['quay.example']);
  });

  it('says what a move makes necessary, and by which methods', () => {
    const ground = (enrolments: Covering[], methods: ('meta' | 'dns')[], takesSitemaps = true) =>
      followingOf(parseAddress(WWW), {
        engine: 'Veldrane',
        enrolments: enrolments.map((one) => ({ ...one, methods })),
        takesSitemaps,
        submitted: [],
      }).map(({ says }) => says);
    expect(ground([at('quay.example')], ['dns'])).toEqual([
      `Nothing to enrol at Veldrane: the name covers ${WWW} too.`,
      `Have the token for Veldrane stand at ${WWW} too (dns), and claim.`,
      `Submit the sitemap of ${WWW} to Veldrane.`,
    ]);
    expect(ground([at(WWW), at(WWW)], ['meta', 'dns'], false)).toEqual([
      `Enrol ${WWW} at Veldrane.`,
      `Have the token for Veldrane stand at ${WWW} too (meta, dns), and claim.`,
    ]);
    expect(ground([at(HTTP)], ['meta'], false)[1]).toBe(
      `Have the token for Veldrane stand at ${WWW} too, and claim.`,
    );
  });
});
