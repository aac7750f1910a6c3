import { gzipSync } from 'node:zlib';
import type { WebAnswer } from './site.js';

/** How large the cases are: whole by night (`npm run hostile`), a part of it with the other tests. */
const SIZE = Number(process.env['HOSTILE_SIZE'] ?? '0.06');
const sized = (count: number): number => Math.ceil(count * SIZE);

const times = (count: number, text: (at: number) => string): string =>
  Array.from({ length: count }, (_, at) => text(at)).join('');
const html = (body: string | Buffer, headers: Record<string, string> = {}): WebAnswer => ({ body, headers });
const utf16 = (text: string, mark: number[] = [0xff, 0xfe]) =>
  Buffer.concat([Buffer.from(mark), Buffer.from(text, 'utf16le')]);

/** Elements that hostile pages nest, repeat and leave open; each does something of its own to the tree builder. */
const ELEMENTS = [
  'a',
  'b',
  'div',
  'table',
  'tr',
  'td',
  'select',
  'option',
  'form',
  'button',
  'svg',
  'math',
  'template',
  'noscript',
  'title',
  'frameset',
  'ruby',
  'p',
  'li',
  'h1',
  'nobr',
  'caption',
];

/** Pages and files that strangers could answer with, by what they do. */
export const PAGES: readonly (readonly [what: string, answer: WebAnswer])[] = [
  ...ELEMENTS.map((tag) => [`${tag} nested without end`, html(`<${tag}>`.repeat(sized(60_000)))] as const),
  ...ELEMENTS.map(
    (tag) =>
      [`${tag} opened and closed crosswise`, html(`<${tag}><i></${tag}></i>`.repeat(sized(15_000)))] as const,
  ),
  [
    'formatting elements with attributes of their own',
    html(times(sized(8_000), (at) => `<b id=${String(at)}>`)),
  ],
  [
    'formatting elements reopened by paragraphs',
    html(times(sized(3_000), (at) => `<font color=${String(at)}><p>`)),
  ],
  ['text between rows of tables', html(`<table>${'x<tr>'.repeat(sized(80_000))}`)],
  ['300,000 attributes', html(`<meta ${times(sized(300_000), (at) => `a${String(at)} `)}>`)],
  [
    'one attribute of a megabyte',
    html(`<meta name="yardbadge-proof" content="${'x'.repeat(sized(1_000_000))}">`),
  ],
  ['an attribute that never ends', html(`<meta name="${'x'.repeat(sized(1_500_000))}`)],
  ['90,000 meta elements', html('<meta name=yardbadge-proof content=y>'.repeat(sized(50_000)))],
  [
    'thousands of near-right tags',
    html('<meta name="yardbadge-proof" content="abcdefghijk'.repeat(sized(3_000))),
  ],
  ['tags that never close', html('<meta'.repeat(sized(300_000)))],
  ['tags in comments', html('<!-- <meta name="yardbadge-proof" content="x"> -->'.repeat(sized(30_000)))],
  [
    'tags in one script',
    html(`<script>${'<meta name="yardbadge-proof" content="x">'.repeat(sized(30_000))}</script>`),
  ],
  ['a comment that never ends', html(`<!--${'-'.repeat(sized(1_500_000))}`)],
  ['a million words', html('a '.repeat(sized(1_000_000)))],
  ['one word of two megabytes', html('a'.repeat(sized(2_000_000)))],
  ['a million lines', html('\n'.repeat(sized(1_900_000)))],
  ['entities', html('&amp;&#x41;&unknown;&notin'.repeat(sized(60_000)))],
  ['entities without end', html(`&${'a'.repeat(sized(1_000_000))}`)],
  ['a doctype without end', html(`<!DOCTYPE ${'x'.repeat(sized(1_500_000))}`)],
  ['a script of two megabytes', html(`<script>${'location = '.repeat(sized(180_000))}</script>`)],
  ['refreshes in circles', html('<meta http-equiv=refresh content="0;url=/">'.repeat(sized(2_000)))],
  [
    'a refresh of a megabyte',
    html(`<meta http-equiv=refresh content="0;url=${'/a'.repeat(sized(500_000))}">`),
  ],
  [
    'a canonical link of a megabyte',
    html(`<link rel=canonical href="https://quay.example/${'a'.repeat(sized(1_000_000))}">`),
  ],
  [
    'links without number',
    html('<link rel="alternate canonical" hreflang=fi href=/a>'.repeat(sized(35_000))),
  ],
  ['frames without number', html('<iframe src="https://elsewhere.example/"></iframe>'.repeat(sized(30_000)))],
  ['control characters', html(Buffer.from(Array.from({ length: 65_536 }, (_, at) => at % 32)))],
  ['NUL characters', html(Buffer.alloc(sized(1_000_000)))],
  ['lone surrogates', html(utf16('\ud800'.repeat(sized(500_000))))],
  [
    'UTF-16 with a mark',
    html(utf16('<!doctype html><title>Quay</title><p>Welcome.'), { 'content-type': 'text/html' }),
  ],
  ['UTF-16 cut in the middle of a letter', html(utf16('<title>').subarray(0, 9))],
  ['UTF-16 the other way round', html(utf16('<title>Quay', [0xfe, 0xff]))],
  [
    'a charset that nobody has',
    html('<p>Welcome', { 'content-type': `text/html; charset=${'x'.repeat(500)}` }),
  ],
  ['a charset against the mark', html(utf16('<p>x'), { 'content-type': 'text/html; charset=utf-8' })],
  [
    'bytes at random',
    html(Buffer.from(Array.from({ length: 300_000 }, (_, at) => (at * 7919 + (at >> 5)) & 255))),
  ],
  ['gzip that is none', html('not packed', { 'content-encoding': 'gzip' })],
  [
    'gzip that breaks off',
    html(gzipSync('x'.repeat(sized(100_000))).subarray(0, 60), { 'content-encoding': 'gzip' }),
  ],
  ['gzip of blanks', html(gzipSync(Buffer.alloc(sized(60_000_000), 32)), { 'content-encoding': 'gzip' })],
  [
    'gzip in gzip in gzip',
    html(gzipSync(gzipSync(gzipSync('x'.repeat(sized(1_000_000))))), {
      'content-encoding': 'gzip, gzip, gzip',
    }),
  ],
  ['twenty codings', html('x', { 'content-encoding': Array(20).fill('gzip').join(', ') })],
  ['a coding that nobody has', html('x', { 'content-encoding': 'constructor' })],
  ['a media type of kilobytes', html('x', { 'content-type': `text/html;${' a=b;'.repeat(sized(2_000))}` })],
  ['no media type', html('<p>x', { 'content-type': '' })],
  ['a picture', html(Buffer.from('iVBORw0KGgo=', 'base64'), { 'content-type': 'image/png' })],
  ['an empty body', html('')],
  ['a robots tag of a megabyte', html(`<meta name=robots content="${'noindex,'.repeat(sized(120_000))}">`)],
  ['a header of kilobytes', html('x', { 'x-robots-tag': 'noindex, '.repeat(sized(1_500)) })],
  ['a Link header of kilobytes', html('x', { link: '<a>; rel=x, '.repeat(sized(1_500)) })],
  [
    'Age out of all bounds',
    html('x', { age: '9'.repeat(300), 'cache-control': `max-age=${'9'.repeat(300)}` }),
  ],
  ['dates that are none', html('x', { date: 'never', expires: '-1', 'last-modified': '0' })],
  ['a redirect to itself', { status: 301, headers: { location: '/' } }],
  ['a redirect of kilobytes', { status: 301, headers: { location: `/${'a'.repeat(sized(12_000))}` } }],
  ['a redirect to a file of ours', { status: 302, headers: { location: 'file:///etc/passwd' } }],
  ['a redirect inside', { status: 302, headers: { location: 'http://127.0.0.1/' } }],
  ['a redirect inside, by IPv6', { status: 302, headers: { location: 'http://[::127.0.0.1]/' } }],
  ['a redirect to an address in disguise', { status: 302, headers: { location: 'http://0x7f.1/' } }],
  ['a redirect to no address', { status: 302, headers: { location: 'http://[' } }],
  ['a redirect with a sign-in', { status: 302, headers: { location: 'http://a:b@quay.example:1/' } }],
  ['status 999', { status: 999 }],
  ['patience without end', { status: 429, headers: { 'retry-after': '999999999999999' } }],
  ['patience that is none', { status: 503, headers: { 'retry-after': 'soon' } }],
  ['a cut connection', { raw: (socket) => socket.destroy() }],
  ['nothing at all', { raw: () => undefined }],
  ['no HTTP', { raw: (socket) => socket.end('220 quay.example ESMTP\r\n') }],
  [
    'a length that is not kept',
    { raw: (socket) => socket.end('HTTP/1.1 200 OK\r\ncontent-length: 10\r\n\r\nx') },
  ],
  [
    'a length below nothing',
    { raw: (socket) => socket.end('HTTP/1.1 200 OK\r\ncontent-length: -1\r\n\r\nx') },
  ],
  [
    'chunks that are none',
    { raw: (socket) => socket.end('HTTP/1.1 200 OK\r\ntransfer-encoding: chunked\r\n\r\nzz\r\n') },
  ],
  [
    'headers without end',
    { raw: (socket) => socket.end(`HTTP/1.1 200 OK\r\n${'a: b\r\n'.repeat(sized(20_000))}\r\n`) },
  ],
  [
    'two answers at once',
    { raw: (socket) => socket.end('HTTP/1.1 200 OK\r\ncontent-length: 1\r\n\r\nxHTTP/1.1 500 No\r\n\r\n') },
  ],
  [
    'an answer before its time',
    {
      raw: (socket) =>
        socket.end('HTTP/1.1 103 Early Hints\r\n\r\nHTTP/1.1 200 OK\r\ncontent-length: 1\r\n\r\nx'),
    },
  ],
];

const NAMESPACE = 'http://www.sitemaps.org/schemas/sitemap/0.9';
const xml = (body: string | Buffer, headers: Record<string, string> = {}): WebAnswer => ({
  body,
  headers: { 'content-type': 'application/xml', ...headers },
});
const set = (inside: string) => `<urlset xmlns="${NAMESPACE}">${inside}</urlset>`;

/** Sitemaps that strangers could answer with. */
export const SITEMAPS: readonly (readonly [what: string, answer: WebAnswer])[] = [
  ...['urlset', 'sitemapindex', 'rss', 'feed', 'a', 'constructor', '__proto__'].map(
    (tag) => [`${tag} nested without end`, xml(`<${tag}>`.repeat(sized(15_000)))] as const,
  ),
  ['nested elements, packed', xml(gzipSync('<a>'.repeat(sized(2_000_000))))],
  ['nested elements with namespaces', xml(times(sized(10_000), (at) => `<a:b xmlns:a="${String(at)}">`))],
  ['300,000 attributes', xml(`<urlset ${times(sized(300_000), (at) => `a${String(at)}="1" `)}>`)],
  ['attributes without value', xml(`<urlset ${'a '.repeat(sized(500_000))}>`)],
  ['a name of ten megabytes', xml(`<${'a'.repeat(sized(10_000_000))}`)],
  ['an attribute of ten megabytes', xml(`<urlset a="${'x'.repeat(sized(10_000_000))}`)],
  [
    'an address of ten megabytes',
    xml(set(`<url><loc>https://quay.example/${'a'.repeat(sized(10_000_000))}</loc></url>`)),
  ],
  ['text without end', xml(`<urlset xmlns="${NAMESPACE}">${'x'.repeat(sized(10_000_000))}`)],
  ['CDATA without end', xml(`<urlset><![CDATA[${']'.repeat(sized(5_000_000))}`)],
  ['comments without number', xml(`${'<!-- -->'.repeat(sized(500_000))}<urlset/>`)],
  ['a comment without end', xml(`<!--${'x'.repeat(sized(5_000_000))}`)],
  ['comments within comments', xml('<!--'.repeat(sized(500_000)))],
  ['instructions without number', xml('<?a b?>'.repeat(sized(500_000)))],
  ['entities that grow', xml('<!DOCTYPE a [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]><a>&b;</a>')],
  ['a document type without end', xml(`<!DOCTYPE a [${'<!ENTITY'.repeat(sized(300_000))}`)],
  ['an entity from outside', xml('<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>')],
  ['ampersands', xml(set('&'.repeat(sized(1_000_000))))],
  [
    'character references out of range',
    xml(set(`<url><loc>${'&#x110000;'.repeat(sized(1_000))}</loc></url>`)),
  ],
  ['blanks before everything', xml(' '.repeat(sized(30_000_000)))],
  ['blanks, packed', xml(gzipSync(Buffer.alloc(sized(200_000_000), 32)))],
  ['lines before everything', xml('\n'.repeat(sized(20_000_000)))],
  ['blanks within', xml(`<urlset>${' '.repeat(sized(20_000_000))}`)],
  [
    'a bomb in a bomb',
    xml(gzipSync(gzipSync(Buffer.alloc(sized(100_000_000)))), { 'content-encoding': 'gzip' }),
  ],
  ['zeros, packed', xml(gzipSync(Buffer.alloc(sized(200_000_000))))],
  ['gzip that breaks off', xml(gzipSync(set('<url/>'.repeat(sized(10_000)))).subarray(0, 60))],
  ['60,000 entries', xml(set('<url><loc>https://quay.example/a</loc></url>'.repeat(sized(60_000))))],
  [
    '50,000 faults of one kind',
    xml(set('<url><loc>a</loc><lastmod>x</lastmod><priority>9</priority></url>'.repeat(sized(50_000)))),
  ],
  [
    'hosts without number',
    xml(set(times(sized(30_000), (at) => `<url><loc>https://h${String(at)}.example/</loc></url>`))),
  ],
  [
    'an index of strangers',
    xml(
      `<sitemapindex xmlns="${NAMESPACE}">${times(sized(2_000), (at) => `<sitemap><loc>https://h${String(at)}.example/s.xml</loc></sitemap>`)}</sitemapindex>`,
    ),
  ],
  [
    'an index of itself',
    xml(
      `<sitemapindex xmlns="${NAMESPACE}">${'<sitemap><loc>http://quay.example/sitemap.xml</loc></sitemap>'.repeat(sized(1_000))}</sitemapindex>`,
    ),
  ],
  [
    'an index of places inside',
    xml(
      `<sitemapindex xmlns="${NAMESPACE}"><sitemap><loc>http://127.0.0.1/a</loc></sitemap><sitemap><loc>file:///etc/passwd</loc></sitemap></sitemapindex>`,
    ),
  ],
  [
    'dates out of all bounds',
    xml(set(`<url><loc>http://quay.example/a</loc><lastmod>275760-09-13</lastmod></url>`.repeat(100))),
  ],
  ['a page in its place', xml('<!doctype html><title>Sign in</title>')],
  [
    'text of one line',
    {
      body: `http://quay.example/${'a'.repeat(sized(5_000_000))}`,
      headers: { 'content-type': 'text/plain' },
    },
  ],
  [
    'text of a million lines',
    { body: 'http://quay.example/\n'.repeat(sized(1_000_000)), headers: { 'content-type': 'text/plain' } },
  ],
  [
    'bytes at random',
    xml(Buffer.from(Array.from({ length: 300_000 }, (_, at) => (at * 7919 + (at >> 5)) & 255))),
  ],
  ['UTF-16 that is none', xml(`<?xml version="1.0" encoding="UTF-16"?>${set('')}`)],
  ['an encoding that nobody has', xml(`<?xml version="1.0" encoding="${'x'.repeat(100)}"?>${set('')}`)],
  ['half a letter', xml(Buffer.concat([Buffer.from(set('').slice(0, 40)), Buffer.from([0xf0, 0x9f])]))],
  ['nothing', xml('')],
  ['a cut connection', { raw: (socket) => socket.destroy() }],
  ['nothing at all', { raw: () => undefined }],
  ['a redirect to itself', { status: 301, headers: { location: '/sitemap.xml' } }],
];

/** robots.txt files that strangers could answer with. */
export const ROBOTS: readonly (readonly [what: string, body: string | Buffer])[] = [
  ['50,000 rules', `User-agent: *\n${times(sized(50_000), (at) => `Disallow: /${String(at)}\n`)}`],
  [
    '40,000 rules with a wildcard',
    `User-agent: *\n${times(sized(40_000), (at) => `Disallow: /*a${String(at)}\n`)}`,
  ],
  ['a rule of stars', `User-agent: *\nDisallow: /${'*a'.repeat(sized(200_000))}$`],
  [
    '30,000 agents before one rule',
    `${times(sized(30_000), (at) => `User-agent: a${at.toString(36).replace(/\d/g, 'q')}\n`)}${'Disallow: /x\n'.repeat(sized(5_000))}`,
  ],
  ['30,000 sitemaps', times(sized(30_000), (at) => `Sitemap: http://quay.example/s${String(at)}.xml\n`)],
  [
    '30,000 sitemaps elsewhere',
    times(sized(15_000), (at) => `Sitemap: https://h${String(at)}.example/s.xml\n`),
  ],
  ['sitemaps that are no addresses', 'Sitemap: http://[\n'.repeat(sized(30_000))],
  ['a line of half a megabyte', `Disallow: /${'a'.repeat(sized(500_000))}`],
  ['blanks and odd line ends', `${' '.repeat(sized(2_000))}\u2028`.repeat(200)],
  ['escapes', `User-agent: *\nDisallow: /${'%7E'.repeat(sized(100_000))}`],
  ['comments', '#'.repeat(sized(500_000))],
  ['bytes at random', Buffer.from(Array.from({ length: 300_000 }, (_, at) => (at * 7919 + (at >> 5)) & 255))],
  ['five megabytes', 'Disallow: /a\n'.repeat(sized(400_000))],
  ['a page', '<!doctype html><p>not found'],
  ['nothing', ''],
];
