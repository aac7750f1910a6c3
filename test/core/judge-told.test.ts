import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { judge } from '../../src/core/badge/judge/judge.js';
import type {
  DnsEvidence,
  ElsewhereKind,
  Evidence,
  Hop,
  PageEvidence,
  PageSeen,
  ServerSeen,
} from '../../src/core/badge/probe/evidence.js';
import { examine } from '../../src/core/badge/probe/examine.js';
import { placementOf, type Placement } from '../../src/core/badge/placement.js';
import type { KnownToken } from '../../src/core/badge/token/known-token.js';
import type { PageEncoding } from '../../src/core/html/encoding.js';
import type { EngineProfile, Method } from '../../src/core/profile/profile.js';
import { dns, hop, nameServer, page } from '../support/evidence.js';
import { house, ostrime, sundrel, veldrane } from '../support/profiles.js';

/** Not only which finding, but what it says: the values in its sentence, and what stands beside it. */
const TOKEN = 'abcdef0123456789abcdef01';
const AT = new Date('2026-11-20T08:00:00Z');
const HOME = 'https://quay.example/';
type Told = readonly [code: string, says: Readonly<Record<string, unknown>>];

function placed<M extends Method>(method: M, profile: EngineProfile = veldrane, address = HOME) {
  const found = placementOf(profile, parseScope('address', address), method, TOKEN);
  if (found?.method !== method) throw new Error(`${profile.id} takes no ${method}`);
  return found as Extract<Placement, { method: M }>;
}

function tell(placement: Placement, evidence: Evidence, known: readonly KnownToken[] = []) {
  const context = { own: { engine: 'veldrane', property: 'own' }, known };
  return judge(placement, evidence, AT, examine(placement, evidence), context);
}

function expectTold(placement: Placement, evidence: Evidence, told: readonly Told[]): void {
  const { findings } = tell(placement, evidence);
  expect(findings.map(({ code }) => code)).toEqual(told.map(([code]) => code));
  told.forEach(([, says], at) => {
    expect(findings[at]?.evidence).toMatchObject(says);
  });
}

const meta = placed('meta');
const html = (head: string, body = '') =>
  `<!doctype html>\n<html><head>\n<title>Quay</title>\n${head}\n</head>\n<body>\n${body}\n</body></html>`;
const seen = (text: string, hops: readonly Hop[] = [hop()]): PageSeen => {
  const { end, body } = page(text, {}, hops);
  return { hops, end, body };
};
const at = (url: string, kind: ElsewhereKind, text: string) => ({ url, kind, ...seen(text) });
const withBody = (text: string, more: Partial<NonNullable<PageEvidence['body']>>): PageEvidence => {
  const evidence = page(text);
  return { ...evidence, body: evidence.body && { ...evidence.body, ...more } };
};

describe('a page that was not read to its end', () => {
  test.each<[string, string, boolean, Told[]]>([
    ['read whole', html(meta.tag), false, [['meta.stands', {}]]],
    [
      'cut behind the tag',
      html(meta.tag),
      true,
      [
        ['reach.too-large', { url: HOME, bytes: 700_000 }],
        ['meta.stands', {}],
      ],
    ],
    [
      'cut, and no tag so far',
      html(''),
      true,
      [
        ['meta.beyond-bound', { url: HOME, bytes: 700_000, tag: meta.tag }],
        ['meta.absent', {}],
        ['reach.too-large', {}],
      ],
    ],
  ])('%s', (_, text, cut, told) => {
    expectTold(meta, withBody(text, { cut, bytes: 700_000 }), told);
  });

  test.each<[string, string, Told[]]>([
    [
      'deeper than anybody writes, the tag before',
      html(meta.tag, '<b>'.repeat(3_000)),
      [
        ['meta.stands', {}],
        ['reach.beyond-reading', { url: HOME, tag: meta.tag }],
      ],
    ],
    [
      'deeper than anybody writes, and no tag',
      html('', '<b>'.repeat(3_000)),
      [
        ['meta.beyond-reading', { url: HOME, tag: meta.tag }],
        ['meta.absent', {}],
      ],
    ],
  ])('%s', (_, text, told) => {
    const { findings } = tell(meta, page(text));
    expect(findings.map(({ code }) => code).sort()).toEqual(told.map(([code]) => code).sort());
    for (const [code, says] of told)
      expect(findings.find((one) => one.code === code)?.evidence).toMatchObject(says);
  });

  it('without a body, or with none but its head', () => {
    expectTold(meta, page(null), [['reach.empty', { url: HOME }]]);
    expectTold(meta, withBody('', { bytes: 0 }), [['reach.empty', { url: HOME }]]);
  });

  test.each<[string | null, string]>([
    [null, 'meta.stands'],
    ['text/html', 'meta.stands'],
    ['application/xhtml+xml', 'meta.stands'],
    ['text/plain', 'meta.not-html'],
  ])('of the type %s', (mediaType, code) => {
    expect(tell(meta, withBody(html(meta.tag), { mediaType })).findings[0]?.code).toBe(code);
  });
});

describe('how the bytes of a page become text', () => {
  const ascii = Buffer.from(html(meta.tag));
  const accented = Buffer.from(html(`${meta.tag}<!-- é -->`), 'latin1');
  test.each<[string, Uint8Array, PageEncoding | undefined, Told[]]>([
    ['nothing is known of it', ascii, undefined, []],
    ['as its header says', accented, { name: 'windows-1252', by: 'header', against: null }, []],
    [
      'unsaid, with nothing that could be misread',
      ascii,
      { name: 'windows-1252', by: 'default', against: null },
      [],
    ],
    [
      'unsaid, with signs that could be',
      accented,
      { name: 'windows-1252', by: 'default', against: null },
      [
        [
          'reach.encoding-unsaid',
          { url: HOME, encoding: 'windows-1252', by: 'nothing, so that the usual is taken' },
        ],
      ],
    ],
    [
      'by a mark that its header speaks against',
      accented,
      { name: 'utf-8', by: 'mark', against: 'windows-1252' },
      [
        [
          'reach.encoding-disputed',
          { encoding: 'utf-8', by: 'its byte order mark', against: 'windows-1252' },
        ],
      ],
    ],
    [
      'two bytes each, by its header',
      ascii,
      { name: 'utf-16le', by: 'header', against: null },
      [['reach.encoding-rare', { encoding: 'utf-16le', by: 'its Content-Type', against: 'nothing' }]],
    ],
    [
      'two bytes each, and disputed',
      ascii,
      { name: 'utf-16be', by: 'header', against: 'utf-8' },
      [['reach.encoding-disputed', { encoding: 'utf-16be', by: 'its Content-Type', against: 'utf-8' }]],
    ],
    ['by its own element, against nothing', accented, { name: 'utf-8', by: 'meta', against: null }, []],
  ])('%s', (_, raw, encoding, told) => {
    const evidence = withBody(html(meta.tag), { raw, ...(encoding ? { encoding } : {}) });
    const { findings } = tell(meta, evidence);
    const others = findings.filter(({ code }) => code !== 'meta.stands');
    expect(others.map(({ code }) => code)).toEqual(told.map(([code]) => code));
    told.forEach(([, says], place) => {
      expect(others[place]?.evidence).toMatchObject(says);
    });
  });
});

describe('a page that sends its visitors on', () => {
  const BEHIND = 'https://quay.example/shop/';
  const refresh = `<meta http-equiv="refresh" content="0; url=${BEHIND}">`;
  const script = `<script>location.href = "${BEHIND}"</script>`;
  const how = { refresh: 'a refresh in the page', script: 'a script' };
  test.each<[string, PageEvidence, Told[]]>([
    [
      'by a refresh, nothing known of what is behind',
      page(`<html><head>${refresh}</head></html>`),
      [
        ['meta.sends-on', { url: HOME, to: BEHIND, how: how.refresh, tag: meta.tag }],
        ['meta.absent', {}],
      ],
    ],
    [
      'by a script, the tag behind it',
      page(`<html><head>${script}</head></html>`, { elsewhere: [at(BEHIND, 'sent-on', html(meta.tag))] }),
      [
        ['meta.stands-behind', { url: HOME, to: BEHIND, how: how.script, tag: meta.tag }],
        ['meta.absent', {}],
      ],
    ],
    [
      'the tag behind it, but in the body there',
      page(`<html><head>${refresh}</head></html>`, {
        elsewhere: [at(BEHIND, 'sent-on', html('', meta.tag))],
      }),
      [
        ['meta.sends-on', { how: how.refresh }],
        ['meta.absent', {}],
      ],
    ],
    [
      'the tag on another variant, which is not where it sends them',
      page(`<html><head>${refresh}</head></html>`, {
        elsewhere: [at('https://www.quay.example/', 'other-variant', html(meta.tag))],
      }),
      [
        ['meta.sends-on', {}],
        ['meta.other-variant', { url: HOME, other: 'https://www.quay.example/' }],
        ['meta.absent', {}],
      ],
    ],
    ['the tag before it', page(`<html><head>${meta.tag}${refresh}</head></html>`), [['meta.stands', {}]]],
  ])('%s', (_, evidence, told) => {
    expectTold(meta, evidence, told);
  });

  test.each<[string, ElsewhereKind, string, boolean]>([
    ['the right tag', 'other-variant', html(meta.tag), true],
    [
      'the right tag among others',
      'other-variant',
      html(`<meta name="robots" content="all">${meta.tag}`),
      true,
    ],
    ['the tag in its body', 'other-variant', html('', meta.tag), false],
    ['another value', 'other-variant', html(meta.tag.replace(TOKEN, 'old')), false],
    ['the right tag, on a page that is no variant', 'sent-on', html(meta.tag), false],
  ])('and another address has %s', (_, kind, text, isTold) => {
    const evidence = page(html(''), { elsewhere: [at('https://www.quay.example/', kind, text)] });
    expect(tell(meta, evidence).findings.some(({ code }) => code === 'meta.other-variant')).toBe(isTold);
  });
});

describe('a head that depends on whether scripts run', () => {
  const unsaid = { ...meta, scripting: null };
  const ended = (head: string) => `<html><head><noscript><p>on</p></noscript>${head}</head></html>`;
  const only = (head: string) => `<html><head><noscript>${head}</noscript></head></html>`;
  test.each<[string, boolean | null, string, Told[]]>([
    [
      'ended by a noscript, nobody says',
      null,
      ended(meta.tag),
      [
        ['meta.depends-on-scripts', { url: HOME, whom: 'those who run its scripts', tag: meta.tag }],
        ['meta.stands', {}],
      ],
    ],
    ['ended by a noscript, scripts run', true, ended(meta.tag), [['meta.stands', {}]]],
    ['ended by a noscript, none run', false, ended(meta.tag), [['meta.outside-head', { line: 1 }]]],
    [
      'in a noscript, nobody says',
      null,
      only(meta.tag),
      [
        ['meta.depends-on-scripts', { whom: 'those who run no scripts', ender: 'a noscript element' }],
        ['meta.stands', {}],
      ],
    ],
    ['in a noscript, scripts run', true, only(meta.tag), [['meta.in-noscript', {}]]],
    ['in a noscript, none run', false, only(meta.tag), [['meta.stands', {}]]],
    ['the same for both', null, html(meta.tag), [['meta.stands', {}]]],
    ['there for nobody', null, only('<meta name="other" content="x">'), [['meta.absent', { tags: 0 }]]],
  ])('%s', (_, scripting, text, told) => {
    expectTold({ ...unsaid, scripting }, page(text), told);
  });

  it('names what ended it for those who see no tag', () => {
    const [first] = tell(unsaid, page(ended(meta.tag))).findings;
    expect(first?.evidence['ender']).toMatch(/^<\w+> on line 1$/);
  });
});

describe('tags that are nearly right', () => {
  const named = (content: string) => `<meta name="${meta.name}" content="${content}">`;
  test.each<[string, string, Told[]]>([
    ['no other tags', html(''), [['meta.absent', { tags: 0, url: HOME, name: meta.name, tag: meta.tag }]]],
    [
      'others in the head and the body',
      html('<meta name="a" content="b"><meta name="c" content="d">', '<meta name="e" content="f">'),
      [['meta.absent', { tags: 2 }]],
    ],
    [
      'the right value under no name',
      html(`<meta content="${TOKEN}">`),
      [['meta.wrong-name', { named: 'no name', line: 4 }]],
    ],
    [
      'the right value under another name, in the body too',
      html(`<meta name="proof" content="${TOKEN}">`),
      [['meta.wrong-name', { named: 'proof', line: 4, column: 1 }]],
    ],
    ['another value, in the body', html('', named('old')), [['meta.absent', {}]]],
    ['another value, in a comment', html(`<!-- ${named('old')} -->`), [['meta.absent', {}]]],
    ['the right value, in the body', html('', meta.tag), [['meta.outside-head', { ender: '</head>' }]]],
    [
      'wrong in the head, right in the body',
      html(named('old'), meta.tag),
      [['meta.other-value', { found: 'old', line: 4 }]],
    ],
    ['right in the head, wrong in the body', html(meta.tag, named('old')), [['meta.stands', { line: 4 }]]],
    [
      'right once, wrong twice',
      html(`${meta.tag}${named('old')}${named('older')}`, named('oldest')),
      [
        ['meta.stands', { line: 4 }],
        ['meta.repeated', { times: 3 }],
      ],
    ],
    ['right twice', html(meta.tag + meta.tag), [['meta.stands', {}]]],
    [
      'the nearest first, whatever stands before it',
      html(named('unlike') + named(`${TOKEN}x`) + named('also unlike')),
      [['meta.extra', { found: `${TOKEN}x`, value: TOKEN }]],
    ],
  ])('%s', (_, text, told) => {
    expectTold(meta, page(text), told);
  });

  it('are compared up to a bound, so that a page of them costs no more', () => {
    const many = named('unlike').repeat(50);
    const near = named(`${TOKEN}x`);
    const told = (text: string) => tell(meta, page(html(text))).findings.map(({ code }) => code)[0];
    expect(told(many + near)).toBe('meta.other-value');
    expect(told(named('unlike').repeat(49) + near)).toBe('meta.extra');
    expect(tell(meta, page(html(many + meta.tag))).forecast).toBe('accept');
  });
});

describe('a page that keeps engines out', () => {
  const robots = (content: string, name = 'robots') => `<meta name="${name}" content="${content}">`;
  test.each<[string, string, Record<string, string>, Told[]]>([
    [
      'by a tag',
      html(meta.tag + robots('noindex')),
      {},
      [['reach.keeps-out-tag', { url: HOME, line: 4, found: 'noindex', whom: 'engines' }]],
    ],
    ['by a tag in capitals', html(meta.tag + robots('NOINDEX', 'ROBOTS')), {}, [['reach.keeps-out-tag', {}]]],
    ['by a tag in the body, which nobody reads', html(meta.tag, robots('noindex')), {}, []],
    ['by a tag of another name', html(meta.tag + robots('noindex', 'description')), {}, []],
    ['with a tag that lets them in', html(meta.tag + robots('all')), {}, []],
    [
      'by its header',
      html(meta.tag),
      { 'x-robots-tag': 'noindex' },
      [['reach.keeps-out-header', { url: HOME, found: 'noindex' }]],
    ],
    ['with a header that lets them in', html(meta.tag), { 'x-robots-tag': 'all' }, []],
    [
      'by both',
      html(robots('none') + meta.tag),
      { 'x-robots-tag': 'none' },
      [
        ['reach.keeps-out-tag', { line: 4 }],
        ['reach.keeps-out-header', { found: 'none' }],
      ],
    ],
  ])('%s', (_, text, headers, told) => {
    const others = tell(meta, page(text, {}, [hop({ headers })])).findings.filter(
      ({ code }) => code !== 'meta.stands',
    );
    expect(others.map(({ code }) => code)).toEqual(told.map(([code]) => code));
    told.forEach(([, says], place) => {
      expect(others[place]?.evidence).toMatchObject(says);
    });
  });

  it('by a tag that is found again in the text, where it was read without lines', () => {
    const text = html(`${meta.tag}\n<meta name="robots" content="noindex">`);
    const { findings } = judge(meta, page(text), AT, examine(meta, page(text)));
    expect(findings.find(({ code }) => code === 'reach.keeps-out-tag')?.evidence['line']).toBe(5);
  });
});

describe('on the way to a page', () => {
  const moved = (status: number, to: string, from = HOME) => hop({ url: from, status, location: to });
  test.each<[string, PageEvidence, Told[]]>([
    ['gone for good', page('', {}, [hop({ status: 410 })]), [['reach.gone', { url: HOME, status: 410 }]]],
    [
      'a status that is no error',
      page(html(meta.tag), {}, [hop({ status: 204 })]),
      [['reach.odd-status', { url: HOME, status: 204 }]],
    ],
    ['an error of ours', page('', {}, [hop({ status: 400 })]), [['reach.odd-status', { status: 400 }]]],
    [
      'an error of the server',
      page('', {}, [hop({ status: 500 })]),
      [['reach.server-error', { status: 500 }]],
    ],
    ['no status', page(html(meta.tag), {}, [hop({ status: null })]), [['meta.stands', {}]]],
    ['just in time', page(html(meta.tag), {}, [hop({ ms: 4_000 })]), [['meta.stands', {}]]],
    [
      'slow at its first hop',
      page(html(meta.tag), {}, [
        hop({ ms: 4_001, status: 301, location: HOME, url: 'http://quay.example/' }),
        hop(),
      ]),
      [
        ['reach.slow', { url: 'http://quay.example/', ms: 4_001 }],
        ['meta.stands', {}],
      ],
    ],
    [
      'slow, since it never came',
      page(null, { end: 'failed' }, [hop({ ms: 9_000, status: null, failure: 'timed-out' })]),
      [
        [
          'reach.timed-out',
          {
            ms: 9_000,
            host: 'quay.example',
            address: '192.0.2.1',
            detail: 'no more is known',
            names: 'nobody',
            issuer: 'nobody',
            until: 'an unknown day',
          },
        ],
      ],
    ],
    [
      'no address to dial',
      page(null, { end: 'failed' }, [
        hop({ status: null, address: null, failure: 'name-missing', detail: 'ENOTFOUND' }),
      ]),
      [['reach.name-missing', { address: 'no address', detail: 'ENOTFOUND' }]],
    ],
    [
      'a certificate that ran out',
      page(null, { end: 'failed' }, [
        hop({
          status: null,
          failure: 'tls-expired',
          certificate: {
            subject: 'quay.example',
            issuer: 'Harbour Authority',
            names: ['quay.example', 'www.quay.example'],
            validFrom: '2025-11-01T00:00:00Z',
            validUntil: '2026-11-01T12:00:00Z',
          },
        }),
      ]),
      [
        [
          'reach.tls-expired',
          { until: '2026-11-01', issuer: 'Harbour Authority', names: 'quay.example, www.quay.example' },
        ],
      ],
    ],
    ['never begun', page(null, { end: 'failed' }, []), []],
    [
      'in circles, each of them a redirect',
      page(
        null,
        { end: 'loop' },
        Array.from({ length: 9 }, () => moved(302, HOME)),
      ),
      [['reach.loop', { start: HOME, url: HOME }]],
    ],
    [
      'on and on',
      page(null, { end: 'too-many-hops' }, [moved(302, `${HOME}a`)]),
      [['reach.too-many-hops', { start: HOME, limit: 10 }]],
    ],
  ])('%s', (_, evidence, told) => {
    expectTold(meta, evidence, told);
  });

  it('counts no redirects for an engine that follows none: the first is too much', () => {
    const way = Array.from({ length: 7 }, (_, n) =>
      moved(301, `${HOME}${String(n + 1)}`, `${HOME}${String(n)}`),
    );
    const { findings } = tell(placed('meta', sundrel), page(html(''), {}, [...way, hop()]));
    expect(findings.map(({ code }) => code)).toEqual(['reach.redirected', 'meta.absent']);
  });

  test.each([
    ['accept', 200, 'reach.bot-wall'],
    ['also refuse', 403, 'reach.denied'],
  ])('a wall that browsers %s', (_, status, code) => {
    for (const met of [401, 403]) {
      const evidence = page('', { asBrowser: { status } }, [hop({ status: met })]);
      expect(tell(meta, evidence).findings[0]).toMatchObject({ code, evidence: { url: HOME, status: met } });
    }
  });
});

describe('a file and what is told of it', () => {
  const file = placed('file');
  const strict = placed('file', sundrel);
  const text = file.content;
  const answer = (more: Partial<Hop>) => [hop({ url: file.place, ...more })];
  const raw = (bytes: Uint8Array) =>
    withBody(text, { raw: bytes, bytes: bytes.length, mediaType: 'text/plain' });
  const BOM = Buffer.from([0xef, 0xbb, 0xbf]);
  const HTML = (body: string) => `<!doctype html><html><body>${body}</body></html>`;
  test.each<[string, Placement, PageEvidence, Told[]]>([
    [
      'as it should be',
      file,
      page(text, {}, answer({})),
      [['file.stands', { url: file.place, fileName: file.fileName, content: text, bytes: text.length }]],
    ],
    [
      'with a mark that is trimmed',
      file,
      raw(Buffer.concat([BOM, Buffer.from(text)])),
      [
        ['file.stands', {}],
        ['file.byte-order-mark', {}],
      ],
    ],
    [
      'packed, and offered for saving',
      file,
      page(
        text,
        {},
        answer({ headers: { 'content-encoding': 'gzip', 'content-disposition': 'attachment; filename=x' } }),
      ),
      [
        ['file.stands', {}],
        ['file.compressed', {}],
        ['file.download', {}],
      ],
    ],
    [
      'shown in the browser',
      file,
      page(text, {}, answer({ headers: { 'content-disposition': 'inline' } })),
      [['file.stands', {}]],
    ],
    [
      'with a header that keeps engines out',
      file,
      page(text, {}, answer({ headers: { 'x-robots-tag': 'noindex' } })),
      [
        ['reach.keeps-out-header', { url: file.place }],
        ['file.stands', {}],
      ],
    ],
    ['gone', file, page('', {}, answer({ status: 410 })), [['file.missing', { status: 410 }]]],
    [
      'gone here, in a folder there',
      file,
      page(
        '',
        { elsewhere: [at(`${HOME}shop/${file.fileName}`, 'property-folder', `${text}\n`)] },
        answer({ status: 404 }),
      ),
      [
        ['file.at-folder', { other: `${HOME}shop/${file.fileName}` }],
        ['file.missing', {}],
      ],
    ],
    ['without a body', file, page(null, {}, answer({})), [['file.empty', {}]]],
    [
      'little-endian',
      file,
      raw(Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')])),
      [['file.encoding', { found: text, encoding: 'utf-16le' }]],
    ],
    [
      'little-endian, of another meaning',
      file,
      raw(Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('hello there', 'utf16le')])),
      [['file.other-value', {}]],
    ],
    [
      'a space before, every byte counting',
      strict,
      page(` ${strict.content}`),
      [['file.not-exact', { got: strict.content.length + 1 }]],
    ],
    ['a line more, every byte counting', strict, page(`${strict.content}\n`), [['file.line-end', {}]]],
  ])('%s', (_, placement, evidence, told) => {
    expectTold(placement, evidence, told);
  });

  const behind = (url: string, body: string, more: Partial<PageEvidence> = {}) =>
    page(HTML(body), more, [hop({ url: file.place, status: 302, location: url }), hop({ url })]);
  test.each<[string, PageEvidence, string]>([
    ['a sign-in by its address', behind(`${HOME}log-in?next=1`, 'Welcome'), 'file.to-sign-in'],
    ['a sign-in by its form', behind(`${HOME}hello`, '<input type="password">'), 'file.to-sign-in'],
    [
      'a sign-in by its form, written bare',
      behind(`${HOME}hello`, '<input type = password>'),
      'file.to-sign-in',
    ],
    ['the home page', behind(HOME, 'Welcome'), 'file.to-home'],
    ['another page', behind(`${HOME}hello`, 'Welcome'), 'file.page-instead'],
    [
      'a form, though nothing moved',
      page(HTML('<input type="password">'), {}, answer({})),
      'file.page-instead',
    ],
    ['a page with the token alone', page(HTML(TOKEN), {}, answer({})), 'file.wrapped'],
    ['a page with the whole content', page(HTML(text), {}, answer({})), 'file.wrapped'],
    [
      'a page, and made-up addresses that fail',
      page(HTML('x'), { madeUp: { hops: [], end: 'failed', body: null } }, answer({})),
      'file.page-instead',
    ],
    [
      'a page, and made-up addresses without a body',
      page(HTML('x'), { madeUp: { ...seen(''), body: null } }, answer({})),
      'file.page-instead',
    ],
    [
      'a page, and made-up addresses that answer plainly',
      page(HTML('x'), { madeUp: seen('hello') }, answer({})),
      'file.page-instead',
    ],
    [
      'a page, as everywhere',
      page(HTML('x'), { madeUp: seen(HTML('y')) }, answer({})),
      'file.themed-missing',
    ],
  ])('in its place: %s', (_, evidence, code) => {
    expect(tell(file, evidence).findings[0]?.code).toBe(code);
  });

  test.each<[string, PageSeen]>([
    ['never answered', { hops: [hop()], end: 'failed', body: seen(text).body }],
    ['no hops', { hops: [], end: 'answered', body: seen(text).body }],
    ['another status', seen(text, [hop({ status: 404 })])],
    ['no body', { hops: [hop()], end: 'answered', body: null }],
  ])('is not seen past the caches either: %s', (_, fresh) => {
    const { findings } = tell(file, page('', { fresh }, answer({ status: 404 })));
    expect(findings.map(({ code }) => code)).toEqual(['file.missing']);
  });

  it('is told with what it is, however long', () => {
    const { findings } = tell(file, page(`${'x'.repeat(4_000)}${text}`, {}, answer({})));
    expect(findings[0]?.code).toBe('file.other-value');
  });
});

describe('records and what is told of them', () => {
  const record = placed('dns');
  const VALUE = record.value;
  const txt = (...values: string[]) => values.map((value, n) => ({ value, ttl: 300 + n }));
  const server = (name: string, values: string[], more: Partial<ServerSeen> = {}) =>
    nameServer(name, txt(...values), more);
  const silent = (name: string) => server(name, [], { rcode: null, failure: 'timed-out' });
  test.each<[string, Partial<DnsEvidence>, Told[]]>([
    [
      'stands, with its time to live',
      { records: txt('v=spf1', VALUE) },
      [['dns.stands', { ttl: 301, records: 2, name: 'quay.example' }]],
    ],
    [
      'stands, while a server lags',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', ['other'])] },
      [
        ['dns.servers-disagree', { with: 'a (serial 7)', without: 'b (serial 7)' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'stands, beside a server of no use',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { rcode: 'REFUSED' })] },
      [
        ['dns.server-lame', { lame: 'b (REFUSED)' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'twelve beside it are no harm',
      { records: txt(VALUE, ...Array.from({ length: 9 }, (_, n) => `o${String(n)}`)) },
      [['dns.stands', {}]],
    ],
    [
      'eleven in all are many',
      { records: txt(VALUE, ...Array.from({ length: 10 }, (_, n) => `o${String(n)}`)) },
      [
        ['dns.stands', {}],
        ['dns.many-records', {}],
      ],
    ],
    [
      'no answer, for a reason',
      { rcode: null, failure: 'unreachable' },
      [['dns.no-answer', { failure: 'unreachable', again: false }]],
    ],
    ['no answer, for none', { rcode: null }, [['dns.no-answer', { failure: 'no answer', again: false }]]],
    [
      'an answer that failed after all',
      { failure: 'timed-out' },
      [['dns.no-answer', { failure: 'timed-out' }]],
    ],
    [
      'all silent',
      { rcode: null, failure: 'timed-out', servers: [silent('a'), silent('b')] },
      [['dns.no-answer', { again: true }]],
    ],
    [
      'one silent, one not',
      { rcode: null, failure: 'timed-out', servers: [silent('a'), server('b', [])] },
      [
        ['dns.no-answer', { again: false }],
        ['dns.server-lame', { lame: 'a (timed-out)' }],
      ],
    ],
    [
      'servers that fail, nobody else asked',
      { rcode: 'SERVFAIL' },
      [['dns.server-fails', { rcode: 'SERVFAIL', servers: 'its servers could not be asked' }]],
    ],
    [
      'servers that fail, each as it says',
      {
        rcode: 'REFUSED',
        servers: [server('a', [], { rcode: 'SERVFAIL' }), silent('b'), server('c', [], { rcode: null })],
      },
      [['dns.server-fails', { rcode: 'REFUSED', servers: 'a: SERVFAIL, b: timed-out, c: no answer' }]],
    ],
    [
      'an alias in its way, the last of them',
      { aliases: ['a.example', 'b.example'] },
      [
        ['dns.alias-hides', { alias: 'b.example' }],
        ['dns.no-record', { records: 0 }],
      ],
    ],
    [
      'a wildcard beside a near miss is not the cause',
      { records: txt('veldrane-mooring=old'), wildcard: true },
      [['dns.other-value', { found: 'veldrane-mooring=old' }]],
    ],
    [
      'our prefix with blanks before it',
      { records: txt('  veldrane-mooring=old') },
      [['dns.other-value', {}]],
    ],
    [
      'cut in two',
      { records: txt(` ${VALUE.slice(0, 20)} `, ` ${VALUE.slice(20)}`) },
      [['dns.parted', { found: `${VALUE.slice(0, 20)} + ${VALUE.slice(20)}` }]],
    ],
    [
      'cut in two, the second first',
      { records: txt(VALUE.slice(20), VALUE.slice(0, 20)) },
      [['dns.parted', {}]],
    ],
    ['cut, the rest nowhere', { records: txt(VALUE.slice(0, 24), 'v=spf1 -all') }, [['dns.cut', {}]]],
    [
      'lame, since it does not answer for the zone',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { authoritative: false })] },
      [
        ['dns.server-lame', { lame: 'b (does not answer for the zone)' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'lame, and nothing said',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { rcode: null })] },
      [
        ['dns.server-lame', { lame: 'b (no answer)' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'lame, though it says that there is no such name',
      {
        records: txt(VALUE),
        servers: [server('a', [VALUE]), server('b', [], { rcode: 'NXDOMAIN', authoritative: false })],
      },
      [
        ['dns.server-lame', { lame: 'b (does not answer for the zone)' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'a server that says there is no such name lacks it',
      {
        records: txt(VALUE),
        servers: [server('a', [VALUE]), server('b', [], { rcode: 'NXDOMAIN', serial: null })],
      },
      [
        ['dns.servers-disagree', { with: 'a (serial 7)', without: 'b' }],
        ['dns.stands', {}],
      ],
    ],
    [
      'where nobody asks',
      {
        servers: [
          server('a', []),
          server('z', [VALUE], { role: 'former' }),
          server('y', [], { role: 'former' }),
        ],
      },
      [
        ['dns.wrong-host', { aside: 'z', delegated: 'a' }],
        ['dns.no-record', {}],
      ],
    ],
    [
      'where nobody asks, and where they do',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('z', [VALUE], { role: 'former' })] },
      [['dns.stands', {}]],
    ],
    [
      'remembered for a time that nobody knows',
      { negativeTtl: null, servers: [server('a', [VALUE])] },
      [
        ['dns.remembered', { left: 'an unknown time', resolver: '127.0.0.1:53' }],
        ['dns.no-record', {}],
      ],
    ],
    [
      'remembered for the longest of the old ones',
      {
        records: txt('a', 'b').map((one, n) => ({ ...one, ttl: n === 0 ? 7200 : 60 })),
        servers: [server('a', [VALUE])],
      },
      [
        ['dns.remembered', { left: '2 hours' }],
        ['dns.absent', {}],
      ],
    ],
    [
      'lost at the servers, and the resolver silent',
      { rcode: null, failure: 'timed-out', servers: [server('a', [VALUE])] },
      [['dns.no-answer', {}]],
    ],
  ])('%s', (_, evidence, told) => {
    expectTold(record, dns(evidence), told);
  });

  it('is not taken for halved by a splinter of it', () => {
    const evidence = dns({ records: txt(VALUE.slice(0, 3), VALUE.slice(3)) });
    expect(tell(record, evidence).findings.map(({ code }) => code)).not.toContain('dns.parted');
    const halves = dns({ records: txt(VALUE.slice(0, 4), VALUE.slice(4)) });
    expect(tell(record, halves).findings[0]?.code).toBe('dns.parted');
  });

  test.each<[string, Partial<DnsEvidence>, string | null, string | null]>([
    [
      'remembered, by what the resolver keeps',
      { negativeTtl: 60, servers: [server('a', [VALUE])] },
      null,
      '2026-11-20T08:01:00.000Z',
    ],
    [
      'remembered, for a time that nobody knows',
      { negativeTtl: null, servers: [server('a', [VALUE])] },
      null,
      null,
    ],
    [
      'a server that lags',
      { servers: [server('a', [VALUE], { refresh: 1800 }), server('b', [])] },
      null,
      '2026-11-20T08:30:00.000Z',
    ],
    [
      'a server that lags, by the first that says when',
      {
        servers: [
          server('a', [VALUE], { refresh: null }),
          server('c', [VALUE], { refresh: 600 }),
          server('b', []),
        ],
      },
      null,
      '2026-11-20T08:10:00.000Z',
    ],
    [
      'a server that lags, and nobody says until when',
      { servers: [server('a', [VALUE], { refresh: null }), server('b', [])] },
      null,
      null,
    ],
    [
      'a server that lags, told before',
      { servers: [server('a', [VALUE]), server('b', [])] },
      '2026-11-20T08:20:00.000Z',
      '2026-11-20T08:20:00.000Z',
    ],
    [
      'a server that lags, told before for later',
      { servers: [server('a', [VALUE]), server('b', [])] },
      '2026-11-20T11:00:00.000Z',
      '2026-11-20T09:00:00.000Z',
    ],
    [
      'a server that lags, told before for a time that is over',
      { servers: [server('a', [VALUE]), server('b', [])] },
      '2026-11-20T07:00:00.000Z',
      '2026-11-20T09:00:00.000Z',
    ],
    [
      'a server that lags, told before for now',
      { servers: [server('a', [VALUE]), server('b', [])] },
      AT.toISOString(),
      '2026-11-20T09:00:00.000Z',
    ],
    ['nothing there, nobody else asked', { negativeTtl: 900 }, null, '2026-11-20T08:15:00.000Z'],
    ['nothing there, for a time that nobody knows', { negativeTtl: null }, null, null],
    ['nothing there, and the servers say so', { negativeTtl: 900, servers: [server('a', [])] }, null, null],
    ['no answer', { negativeTtl: 900, rcode: null, failure: 'timed-out' }, null, null],
    ['all is well', { records: txt(VALUE) }, null, null],
    ['it goes, but still stands', { records: txt(VALUE), servers: [server('a', [])] }, null, null],
  ])('when to ask again: %s', (_, evidence, earlier, until) => {
    const before = { visibleAt: earlier === null ? null : new Date(earlier) };
    const judgement = judge(record, dns(evidence), AT, undefined, undefined, before);
    expect(judgement.visibleAt?.toISOString() ?? null).toBe(until);
  });

  it('refuses evidence of another kind', () => {
    expect(() => judge(record, page(''), AT)).toThrow(TypeError);
    expect(() => judge(meta, dns(), AT)).toThrow(TypeError);
    expect(() => judge(placed('file'), dns(), AT)).toThrow(TypeError);
  });
});

describe('when to ask again after an old copy', () => {
  const file = placed('file');
  test.each<[string, Record<string, string>, string | null]>([
    ['that is kept for ten minutes', { 'cache-control': 'max-age=600' }, '2026-11-20T08:10:00.000Z'],
    [
      'that is kept, and is old already',
      { 'cache-control': 'max-age=600', age: '540' },
      '2026-11-20T08:01:00.000Z',
    ],
    ['that should have gone', { 'cache-control': 'max-age=600', age: '600' }, null],
    ['of which nobody says how long', { age: '3' }, null],
  ])('%s', (_, headers, until) => {
    const stale = (fresh: PageSeen, text: string, placement: Placement) =>
      tell(placement, page(text, { fresh }, [hop({ headers })]));
    expect(stale(seen(html(meta.tag)), html(''), meta).visibleAt?.toISOString() ?? null).toBe(until);
    expect(stale(seen(file.content), 'old', file).visibleAt?.toISOString() ?? null).toBe(until);
  });

  it('is never told of one that still shows the token', () => {
    const headers = { 'cache-control': 'max-age=600', age: '5' };
    const going = tell(meta, page(html(meta.tag), { fresh: seen(html('')) }, [hop({ headers })]));
    expect(going.findings.map(({ code }) => code)).toContain('meta.going-stale');
    expect(going.visibleAt).toBeNull();
  });
});

describe('a value that is not the right one', () => {
  const record = placed('dns');
  const owner = (more: Partial<KnownToken>): KnownToken => ({
    value: '99887766554433221100ffee',
    method: 'dns',
    engine: 'veldrane',
    engineTitle: 'Veldrane',
    property: 'own',
    replacedAt: null,
    inUse: true,
    ...more,
  });
  const REPLACED = new Date('2026-05-03T08:00:00Z');
  test.each<[string, Partial<KnownToken>, string]>([
    ['our own of before', { replacedAt: REPLACED, inUse: false }, 'dns.replaced-token'],
    ['our own of before, by which the badge is still held', { replacedAt: REPLACED }, 'dns.other-token'],
    ['our own that is in force', {}, 'dns.other-token'],
    ['another property’s of before', { replacedAt: REPLACED, property: 'clocks' }, 'dns.other-token'],
    [
      'another engine’s of before',
      { replacedAt: REPLACED, engine: 'sundrel', engineTitle: 'Sundrel' },
      'dns.other-token',
    ],
  ])('is %s', (_, more, code) => {
    const known = owner(more);
    const evidence = dns({ records: [{ value: `veldrane-mooring=${known.value}`, ttl: 60 }] });
    const [first] = tell(record, evidence, [known]).findings;
    expect(first?.code).toBe(code);
    expect(String(first?.evidence['owner'])).not.toBe('');
  });

  test.each<[string, string, Record<string, unknown>]>([
    ['what is unlike it first, in words', `"${record.value.toUpperCase()}"`, { also: 'case' }],
    ['one thing alone', `"${record.value}"`, { also: '', hint: 'quotation marks became part of it' }],
    [
      'what cannot be seen, made visible',
      `${record.value.slice(0, 20)}\u200b${record.value.slice(20)}`,
      {
        found: `${record.value.slice(0, 20)}⌑${record.value.slice(20)}`,
        hint: 'invisible characters got into it',
      },
    ],
    ['a blank that is none', `${record.value}\u00a0x`, { found: `${record.value}⍽x` }],
    ['a line break', `${record.value}\nx`, { found: `${record.value}⏎x` }],
  ])('is told with %s', (_, value, says) => {
    const [first] = tell(record, dns({ records: [{ value, ttl: 60 }] })).findings;
    expect(first?.evidence).toMatchObject(says);
  });

  it('is what stands, where something stands in its place', () => {
    const old = dns({ records: [{ value: 'veldrane-mooring=old', ttl: 60 }] });
    expect(tell(record, old).stands).toBe('veldrane-mooring=old');
    expect(tell(record, dns()).stands).toBeNull();
    expect(tell(record, dns({ records: [{ value: record.value, ttl: 60 }] })).stands).toBeNull();
    const robots = html(`${meta.tag}<meta name="robots" content="noindex">`);
    expect(tell(meta, page(robots)).stands).toBeNull();
    expect(tell(placed('meta', ostrime), page(html(''))).stands).toBeNull();
    expect(tell(placed('dns', house), old).stands).toBeNull();
  });
});
