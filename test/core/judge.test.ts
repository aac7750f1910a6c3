import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { judge } from '../../src/core/badge/judge/judge.js';
import { placementOf, zoneStrings, type Placement } from '../../src/core/badge/placement.js';
import type { Evidence, ReachFailure } from '../../src/core/badge/probe/evidence.js';
import { SITEMAP_AT_ENGINE } from '../../src/core/findings/rows/sitemap-at-engine.js';
import { CATALOGUE } from '../../src/core/findings/catalogue.js';
import type { EngineProfile, Method } from '../../src/core/profile/profile.js';
import { dns, hop, page } from '../support/evidence.js';
import { house, veldrane } from '../support/profiles.js';

const TOKEN = '84da61f31aa466b6b1022a45';
const AT = new Date('2026-11-20T08:00:00Z');

function placement(
  method: Method,
  profile: EngineProfile = veldrane,
  address = 'https://quay.example/',
): Placement {
  const found = placementOf(profile, parseScope('address', address), method, TOKEN);
  if (!found) throw new Error(`${profile.id} does not take ${method}`);
  return found;
}

const TAG = `<meta name="veldrane-mooring" content="${TOKEN}">`;
const inHead = (tag: string) =>
  `<!doctype html>\n<html><head>\n<title>Quay</title>\n${tag}\n</head><body><p>Hello</p></body></html>`;
const redirect = (from: string, to: string) => hop({ url: from, status: 301, location: to });
const fails = (failure: ReachFailure) => page(null, { end: 'failed' }, [hop({ status: null, failure })]);

type Case = readonly [
  what: string,
  method: Method,
  evidence: Evidence,
  codes: readonly string[],
  forecast: 'accept' | 'refuse' | 'unsure',
];

const CASES: readonly Case[] = [
  ['the tag stands', 'meta', page(inHead(TAG)), ['meta.stands'], 'accept'],
  [
    'the tag’s name in capitals',
    'meta',
    page(inHead(TAG.replace('veldrane', 'Veldrane'))),
    ['meta.stands'],
    'accept',
  ],
  [
    'spaces around the value',
    'meta',
    page(inHead(TAG.replace(TOKEN, ` ${TOKEN} `))),
    ['meta.stands'],
    'accept',
  ],
  [
    'a tag of another engine only',
    'meta',
    page(inHead('<meta name="robots" content="all">')),
    ['meta.absent'],
    'refuse',
  ],
  [
    'another value',
    'meta',
    page(inHead(TAG.replace(TOKEN, 'something-else'))),
    ['meta.other-value'],
    'refuse',
  ],
  [
    'another case of the value',
    'meta',
    page(inHead(TAG.replace(TOKEN, TOKEN.toUpperCase()))),
    ['meta.case'],
    'refuse',
  ],
  [
    'the tag in the body',
    'meta',
    page(`<html><head></head><body>${TAG}</body></html>`),
    ['meta.outside-head'],
    'refuse',
  ],
  [
    'an element before it ends the head',
    'meta',
    page(inHead(`<div></div>${TAG}`)),
    ['meta.outside-head'],
    'refuse',
  ],
  ['the tag in a comment', 'meta', page(inHead(`<!-- ${TAG} -->`)), ['meta.in-comment'], 'refuse'],
  [
    'the tag in a script',
    'meta',
    page(inHead(`<script>document.write('${TAG}')</script>`)),
    ['meta.in-script'],
    'refuse',
  ],
  [
    'twice, one of them right',
    'meta',
    page(inHead(TAG.replace(TOKEN, 'old') + TAG)),
    ['meta.stands', 'meta.repeated'],
    'accept',
  ],
  ['not HTML', 'meta', page('{}', { mediaType: 'application/json' }), ['meta.not-html'], 'refuse'],
  ['an empty page', 'meta', page(''), ['reach.empty'], 'refuse'],
  ['404', 'meta', page('gone', {}, [hop({ status: 404 })]), ['reach.gone'], 'refuse'],
  ['403', 'meta', page('no', {}, [hop({ status: 403 })]), ['reach.denied'], 'refuse'],
  ['429', 'meta', page('later', {}, [hop({ status: 429 })]), ['reach.rate-limited'], 'refuse'],
  ['503', 'meta', page('oops', {}, [hop({ status: 503 })]), ['reach.server-error'], 'refuse'],
  [
    'to www of the same domain',
    'meta',
    page(inHead(TAG), {}, [
      redirect('https://quay.example/', 'https://www.quay.example/'),
      hop({ url: 'https://www.quay.example/' }),
    ]),
    ['meta.stands'],
    'accept',
  ],
  [
    'to another domain',
    'meta',
    page(inHead(TAG), {}, [
      redirect('https://quay.example/', 'https://harbour.example/'),
      hop({ url: 'https://harbour.example/' }),
    ]),
    ['reach.off-domain', 'meta.stands'],
    'refuse',
  ],
  [
    'from https down to http',
    'meta',
    page(inHead(TAG), {}, [
      redirect('https://quay.example/', 'http://quay.example/'),
      hop({ url: 'http://quay.example/' }),
    ]),
    ['reach.downgrade', 'meta.stands'],
    'accept',
  ],
  [
    'a circle of redirects',
    'meta',
    page(null, { end: 'loop' }, [redirect('https://quay.example/', 'https://quay.example/')]),
    ['reach.loop'],
    'refuse',
  ],
  [
    'too many redirects',
    'meta',
    page(null, { end: 'too-many-hops' }, [redirect('https://quay.example/', 'https://quay.example/a')]),
    ['reach.too-many-hops'],
    'refuse',
  ],
  ['the name does not exist', 'meta', fails('name-missing'), ['reach.name-missing'], 'refuse'],
  ['no address record', 'meta', fails('no-address'), ['reach.no-address'], 'refuse'],
  ['the resolver fails', 'meta', fails('resolver-fails'), ['reach.resolver-fails'], 'unsure'],
  ['refused', 'meta', fails('refused'), ['reach.refused'], 'refuse'],
  ['timed out', 'meta', fails('timed-out'), ['reach.timed-out'], 'unsure'],
  ['a private address', 'meta', fails('guarded'), ['reach.guarded'], 'unsure'],
  ['an expired certificate', 'meta', fails('tls-expired'), ['reach.tls-expired'], 'refuse'],
  ['a certificate for another name', 'meta', fails('tls-name'), ['reach.tls-name'], 'refuse'],
  ['an untrusted certificate', 'meta', fails('tls-untrusted'), ['reach.tls-untrusted'], 'refuse'],
  ['the file stands', 'file', page(`veldrane-mooring: ${TOKEN}`), ['file.stands'], 'accept'],
  ['a line break at its end', 'file', page(`veldrane-mooring: ${TOKEN}\n`), ['file.stands'], 'accept'],
  ['no file', 'file', page('gone', {}, [hop({ status: 404 })]), ['file.missing'], 'refuse'],
  [
    'a themed page in its place',
    'file',
    page('<!doctype html><html><body>Not here</body></html>'),
    ['file.page-instead'],
    'refuse',
  ],
  ['another content', 'file', page('veldrane-mooring: other'), ['file.other-value'], 'refuse'],
  [
    'the file redirects to www',
    'file',
    page(`veldrane-mooring: ${TOKEN}`, {}, [
      redirect('https://quay.example/f', 'https://www.quay.example/f'),
      hop(),
    ]),
    ['reach.off-host', 'file.stands'],
    'refuse',
  ],
  [
    'the record stands among others',
    'dns',
    dns({
      records: [
        { value: 'v=spf1 -all', ttl: 300 },
        { value: `veldrane-mooring=${TOKEN}`, ttl: 300 },
      ],
    }),
    ['dns.stands'],
    'accept',
  ],
  ['the name is not there', 'dns', dns({ rcode: 'NXDOMAIN' }), ['dns.no-name'], 'refuse'],
  ['no TXT at the name', 'dns', dns(), ['dns.no-record'], 'refuse'],
  [
    'only other records',
    'dns',
    dns({ records: [{ value: 'v=spf1 -all', ttl: 300 }] }),
    ['dns.absent'],
    'refuse',
  ],
  [
    'another token',
    'dns',
    dns({ records: [{ value: 'veldrane-mooring=other', ttl: 300 }] }),
    ['dns.other-value'],
    'refuse',
  ],
  ['SERVFAIL', 'dns', dns({ rcode: 'SERVFAIL' }), ['dns.server-fails'], 'refuse'],
  ['no answer', 'dns', dns({ rcode: null, failure: 'timed-out' }), ['dns.no-answer'], 'unsure'],
];

describe('judging a placement at Veldrane', () => {
  test.each(CASES)('%s', (_, method, evidence, codes, forecast) => {
    const judgement = judge(placement(method), evidence, AT);
    expect(judgement.findings.map(({ code }) => code)).toEqual(codes);
    expect(judgement.forecast).toBe(forecast);
    expect(judgement.seen).toBe(forecast === 'accept');
  });

  test.each(CASES)('%s: sentences are filled and remedies say what to do', (_, method, evidence) => {
    for (const one of judge(placement(method), evidence, AT).findings) {
      expect(one.says).not.toMatch(/\{\w+\}/);
      expect(one.remedy).not.toMatch(/\{\w+\}/);
      if (one.grade !== 'note') expect(one.remedy).toMatch(/^Please /);
    }
  });

  it('says until when resolvers may remember that nothing was there', () => {
    expect(judge(placement('dns'), dns({ rcode: 'NXDOMAIN', negativeTtl: 900 }), AT).visibleAt).toEqual(
      new Date('2026-11-20T08:15:00Z'),
    );
    const old = dns({ records: [{ value: 'veldrane-mooring=old', ttl: 3600 }] });
    expect(judge(placement('dns'), old, AT).visibleAt).toEqual(new Date('2026-11-20T09:00:00Z'));
  });

  it('does not move the time on by looking again', () => {
    const later = new Date('2026-11-20T08:10:00Z');
    const first = judge(placement('dns'), dns({ rcode: 'NXDOMAIN', negativeTtl: 900 }), AT);
    const again = judge(
      placement('dns'),
      dns({ rcode: 'NXDOMAIN', negativeTtl: 900 }),
      later,
      undefined,
      undefined,
      first,
    );
    expect(again.visibleAt).toEqual(first.visibleAt);
  });

  it('keeps hostile text out of its sentences', () => {
    const nasty = page(
      inHead(`<meta name="veldrane-mooring" content="\u001b[31m\u202e${'x'.repeat(5000)}">`),
    );
    const [one] = judge(placement('meta'), nasty, AT).findings;
    expect(one?.says.length).toBeLessThan(400);
    expect(one?.says).not.toMatch(/[\u001b\u202e]/);
  });

  it('does not run out of stack on a page that nests deeply', () => {
    const deep = `<html><head>${TAG}</head><body>${'<div>'.repeat(50_000)}`;
    expect(judge(placement('meta'), page(deep), AT).forecast).toBe('accept');
  });
});

describe('what to put where', () => {
  it('is ready to be copied', () => {
    expect(placement('meta')).toMatchObject({ tag: TAG, place: 'https://quay.example/' });
    expect(placement('file')).toMatchObject({
      place: `https://quay.example/veldrane-${TOKEN}.txt`,
      content: `veldrane-mooring: ${TOKEN}`,
      bytes: 42,
    });
    expect(placement('dns', house, 'https://www.quay.example/')).toMatchObject({
      zone: 'quay.example',
      recordName: '_yardbadge-proof.www',
      zoneLine: `_yardbadge-proof.www.quay.example. 3600 IN TXT "yardbadge-proof=${TOKEN}"`,
    });
    expect(placement('dns')).toMatchObject({ recordName: '@' });
  });

  it('puts a file at the root of the host, even for a property in a folder', () => {
    expect(placement('file', house, 'https://quay.example/buttons/').place).toBe(
      'https://quay.example/.well-known/yardbadge-proof.txt',
    );
  });

  it('offers only dns for a name', () => {
    const target = parseScope('name', 'quay.example');
    expect(placementOf(veldrane, target, 'meta', TOKEN)).toBeNull();
    expect(placementOf(veldrane, target, 'dns', TOKEN)?.place).toBe('quay.example');
  });

  it('splits long values at 255 bytes and escapes quotes', () => {
    const strings = zoneStrings(`"${'ä'.repeat(200)}`);
    const parts = strings.slice(1, -1).split('" "');
    expect(parts.length).toBe(2);
    for (const part of parts)
      expect(Buffer.byteLength(part.replace(/\\(.)/g, '$1'))).toBeLessThanOrEqual(255);
  });
});

it('the catalogue names every code by its area', () => {
  for (const [code, entry] of Object.entries(CATALOGUE)) {
    expect(code).toMatch(/^(reach|meta|file|dns|variants|sitemap|making)\.[a-z-]+$/);
    // What is ours to do is no sentence for a developer.
    const isOurs = Object.hasOwn(SITEMAP_AT_ENGINE, code);
    const begins = /enrolled-|held-misses|uncovered/.test(code)
      ? /^Enrol /
      : isOurs
        ? /^(Compare|Look|Submit|Wait|Have|Withdraw) /
        : /^Please /;
    expect(entry.remedy).toMatch(entry.grade === 'note' ? /^$/ : begins);
  }
});
