import { gzipSync } from 'node:zlib';
import type { FindingCode } from '../../src/core/findings/catalogue.js';
import { NAMESPACE } from '../../src/core/sitemap/read/limits.js';
import type { Extensions, SitemapKind } from '../../src/core/sitemap/reading.js';

/** One file as it comes over the wire, and what has to be read of it. */
export interface File {
  readonly bytes: Uint8Array | string;
  readonly type?: string;
  readonly url?: string;
  readonly kind: SitemapKind | null;
  readonly entries: number;
  /** Exactly what is found, in any order. */
  readonly finds?: readonly FindingCode[];
  /** Where the first fault stands. */
  readonly line?: number;
  readonly newest?: string;
  readonly extensions?: Partial<Extensions>;
}

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';
const set = (inner: string, head = HEAD, namespace = NAMESPACE) =>
  `${head}<urlset xmlns="${namespace}">\n${inner}\n</urlset>\n`;
const url = (loc: string, more = '') => `<url><loc>${loc}</loc>${more}</url>`;
const at = (path: string, more = '') => url(`https://quay.example${path}`, more);
const index = (...children: string[]) =>
  `${HEAD}<sitemapindex xmlns="${NAMESPACE}">\n${children.map((one) => `<sitemap><loc>${one}</loc></sitemap>`).join('\n')}\n</sitemapindex>`;
const rss = (inner: string) =>
  `${HEAD}<rss version="2.0"><channel><title>Tides</title><link>https://quay.example/</link>\n${inner}\n</channel></rss>`;
const item = (link: string, date = 'Tue, 24 Nov 2026 08:00:00 GMT') =>
  `<item><title>High</title><link>${link}</link><pubDate>${date}</pubDate></item>`;
const atom = (inner: string) =>
  `${HEAD}<feed xmlns="http://www.w3.org/2005/Atom"><title>Tides</title><updated>2026-11-24T08:00:00Z</updated>\n${inner}\n</feed>`;
const entry = (links: string, updated = '2026-11-24T08:00:00Z') =>
  `<entry><title>High</title>${links}<updated>${updated}</updated></entry>`;
const lastmod = (text: string) => `<lastmod>${text}</lastmod>`;
const many = (count: number, make: (at: number) => string) =>
  Array.from({ length: count }, (_, nth) => make(nth)).join('\n');
const latin = (text: string) => Buffer.from(text, 'latin1');
const utf16 = (text: string) => Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]);

const good: Readonly<Record<string, File>> = {
  'a urlset': { bytes: set(at('/a') + at('/b')), kind: 'urlset', entries: 2 },
  'a urlset without declaration': { bytes: set(at('/a'), ''), kind: 'urlset', entries: 1 },
  'a urlset with a prefix': {
    bytes: `<s:urlset xmlns:s="${NAMESPACE}"><s:url><s:loc>https://quay.example/a</s:loc></s:url></s:urlset>`,
    kind: 'urlset',
    entries: 1,
  },
  'every field': {
    bytes: set(at('/a', `${lastmod('2026-11-24')}<changefreq>daily</changefreq><priority>0.5</priority>`)),
    kind: 'urlset',
    entries: 1,
    newest: '2026-11-24',
  },
  'white space around addresses': {
    bytes: set(url('\n  https://quay.example/a\n')),
    kind: 'urlset',
    entries: 1,
  },
  'a comment before the root': {
    bytes: set(at('/a'), `${HEAD}<!-- made by hand -->`),
    kind: 'urlset',
    entries: 1,
  },
  'a style sheet before the root': {
    bytes: set(at('/a'), `${HEAD}<?xml-stylesheet type="text/xsl" href="/s.xsl"?>`),
    kind: 'urlset',
    entries: 1,
  },
  'escapes of XML': { bytes: set(at('/?a=1&amp;b=&#50;')), kind: 'urlset', entries: 1 },
  CDATA: { bytes: set(url('<![CDATA[https://quay.example/?a&b]]>')), kind: 'urlset', entries: 1 },
  'a year alone': { bytes: set(at('/a', lastmod('2026'))), kind: 'urlset', entries: 1, newest: '2026' },
  'a month': { bytes: set(at('/a', lastmod('2026-10'))), kind: 'urlset', entries: 1, newest: '2026-10' },
  'a time with a zone': {
    bytes: set(at('/a', lastmod('2026-11-24T10:00+02:00'))),
    kind: 'urlset',
    entries: 1,
    newest: '2026-11-24T10:00+02:00',
  },
  'a time with fractions': {
    bytes: set(at('/a', lastmod('2026-11-24T10:00:00.123Z'))),
    kind: 'urlset',
    entries: 1,
  },
  'the newest of several': {
    bytes: set(
      at('/a', lastmod('2026-01-01')) + at('/b', lastmod('2026-11-01')) + at('/c', lastmod('2026-05-01')),
    ),
    kind: 'urlset',
    entries: 3,
    newest: '2026-11-01',
  },
  'elements that nobody knows': {
    bytes: set(at('/a', '<x:more xmlns:x="http://x.example/"><x:loc>/b</x:loc></x:more>')),
    kind: 'urlset',
    entries: 1,
  },
  images: {
    bytes: set(
      at(
        '/a',
        '<i:image xmlns:i="http://images.example/1.1"><i:loc>https://elsewhere.example/a.png</i:loc></i:image>'.repeat(
          3,
        ),
      ),
    ),
    kind: 'urlset',
    entries: 1,
    extensions: { images: 3 },
  },
  'a video': {
    bytes: set(at('/a', '<v:video xmlns:v="http://video.example/"><v:title>x</v:title></v:video>')),
    kind: 'urlset',
    entries: 1,
    extensions: { videos: 1 },
  },
  news: {
    bytes: set(at('/a', '<n:news xmlns:n="http://news.example/"><n:title>x</n:title></n:news>')),
    kind: 'urlset',
    entries: 1,
    extensions: { news: 1 },
  },
  'siblings in other languages': {
    bytes: set(
      at(
        '/a',
        '<x:link xmlns:x="http://www.w3.org/1999/xhtml" rel="alternate" hreflang="fi" href="https://quay.example/fi/a"/>'.repeat(
          2,
        ),
      ),
    ),
    kind: 'urlset',
    entries: 1,
    extensions: { alternates: 2 },
  },
  'a folder’s own sitemap': {
    bytes: set(at('/shop/a')),
    url: 'https://quay.example/shop/sitemap.xml',
    kind: 'urlset',
    entries: 1,
  },
  'escaped accents': { bytes: set(at('/m%C3%B6wen')), kind: 'urlset', entries: 1 },
  'an index': {
    bytes: index('https://quay.example/1.xml', 'https://quay.example/2.xml.gz'),
    kind: 'index',
    entries: 2,
  },
  'an index with dates': {
    bytes: index('https://quay.example/1.xml').replace('</loc>', '</loc><lastmod>2026-11-20</lastmod>'),
    kind: 'index',
    entries: 1,
    newest: '2026-11-20',
  },
  'RSS 2.0': {
    bytes: rss(item('https://quay.example/a') + item('https://quay.example/b')),
    kind: 'rss',
    entries: 2,
    newest: 'Tue, 24 Nov 2026 08:00:00 GMT',
  },
  'RSS without days of the week': {
    bytes: rss(item('https://quay.example/a', '24 Nov 2026 08:00:00 +0000')),
    kind: 'rss',
    entries: 1,
  },
  'RSS with links of other namespaces': {
    bytes: rss(
      item('https://quay.example/a').replace(
        '</item>',
        '<a:link xmlns:a="http://www.w3.org/2005/Atom" href="https://x.example/"/></item>',
      ),
    ),
    kind: 'rss',
    entries: 1,
  },
  Atom: {
    bytes: atom(
      entry('<link href="https://quay.example/a"/>') +
        entry('<link rel="alternate" href="https://quay.example/b"/>'),
    ),
    kind: 'atom',
    entries: 2,
    newest: '2026-11-24T08:00:00Z',
  },
  'Atom with other relations first': {
    bytes: atom(
      entry(
        '<link rel="edit" href="/x"/><link rel="alternate" href="https://quay.example/a"/><link href="https://quay.example/b"/>',
      ),
    ),
    kind: 'atom',
    entries: 1,
  },
  'plain text': {
    bytes: 'https://quay.example/a\nhttps://quay.example/b\n',
    type: 'text/plain',
    kind: 'text',
    entries: 2,
  },
  'plain text without a last line end': {
    bytes: 'https://quay.example/a\r\nhttps://quay.example/b',
    kind: 'text',
    entries: 2,
  },
  'plain text with empty lines': {
    bytes: '\nhttps://quay.example/a\n\n\nhttps://quay.example/b\n\n',
    kind: 'text',
    entries: 2,
  },
  'plain text with a byte order mark': { bytes: '\ufeffhttps://quay.example/a\n', kind: 'text', entries: 1 },
  'gzip, whatever its name': { bytes: gzipSync(set(at('/a'))), kind: 'urlset', entries: 1 },
  'gzip of plain text': {
    bytes: gzipSync('https://quay.example/a\n'),
    url: 'https://quay.example/map.txt.gz',
    kind: 'text',
    entries: 1,
  },
  'no gzip, though its name says so': {
    bytes: set(at('/a')),
    url: 'https://quay.example/sitemap.xml.gz',
    kind: 'urlset',
    entries: 1,
  },
  'a byte order mark in UTF-8': { bytes: `\ufeff${set(at('/a'))}`, kind: 'urlset', entries: 1 },
  'UTF-16 by its mark': {
    bytes: utf16(set(at('/a'), '<?xml version="1.0" encoding="UTF-16"?>')),
    kind: 'urlset',
    entries: 1,
  },
  'UTF-16 without a mark': {
    bytes: Buffer.from(set(at('/a'), '<?xml version="1.0" encoding="UTF-16"?>'), 'utf16le'),
    kind: 'urlset',
    entries: 1,
  },
  'UTF-16 by its header': {
    bytes: Buffer.from(set(at('/a'), ' '), 'utf16le').swap16(),
    type: 'text/xml; charset=utf-16be',
    kind: 'urlset',
    entries: 1,
  },
  'bytes that are no letter in GB 18030': {
    bytes: latin(
      `<?xml version="1.0" encoding="GB18030"?>${' '.repeat(200)}<!-- \x90\x32\x80 -->${set(at('/a'), '')}`,
    ),
    kind: 'urlset',
    entries: 1,
  },
  'sixty comments before its root': {
    bytes: set(at('/a'), '<!-- tide table -->'.repeat(60)),
    kind: 'urlset',
    entries: 1,
  },
  'Latin-1 by its declaration': {
    bytes: latin(set(`<!-- möwen -->${at('/a')}`, '<?xml version="1.0" encoding="ISO-8859-1"?>')),
    kind: 'urlset',
    entries: 1,
  },
  'Latin-1 by its header': {
    bytes: latin(set(`<!-- möwen -->${at('/a')}`)),
    type: 'application/xml; charset=iso-8859-1',
    kind: 'urlset',
    entries: 1,
  },
  'exactly 50,000': {
    bytes: set(many(50_000, (nth) => at(`/${String(nth)}`))),
    kind: 'urlset',
    entries: 50_000,
  },
};

const flawed: Readonly<Record<string, File>> = {
  'nothing in it': { bytes: set(''), kind: 'urlset', entries: 0, finds: ['sitemap.empty'] },
  'an index with nothing in it': { bytes: index(), kind: 'index', entries: 0, finds: ['sitemap.empty'] },
  'a feed with nothing in it': { bytes: rss(''), kind: 'rss', entries: 0, finds: ['sitemap.empty'] },
  'no bytes': { bytes: '', kind: null, entries: 0, finds: ['sitemap.not-well-formed'] },
  'a page': {
    bytes: '<!DOCTYPE html>\n<html><body>Not found</body></html>',
    kind: null,
    entries: 0,
    finds: ['sitemap.page-instead'],
  },
  'a page with a comment before it': {
    bytes: '<!-- cached -->\n<html><body>Sign in</body></html>',
    kind: null,
    entries: 0,
    finds: ['sitemap.page-instead'],
  },
  'a page in XML': {
    bytes: `${HEAD}<html xmlns="http://www.w3.org/1999/xhtml"><body/></html>`,
    kind: null,
    entries: 0,
    finds: ['sitemap.page-instead'],
  },
  words: { bytes: 'Nothing to see here yet', kind: null, entries: 0, finds: ['sitemap.not-a-sitemap'] },
  JSON: {
    bytes: '{"urls":["https://quay.example/"]}',
    kind: null,
    entries: 0,
    finds: ['sitemap.not-a-sitemap'],
  },
  'another root': {
    bytes: `${HEAD}<opml version="2.0"/>`,
    kind: null,
    entries: 0,
    finds: ['sitemap.wrong-root'],
  },
  'a root with a name that JavaScript knows': {
    bytes: `${HEAD}<constructor xmlns="${NAMESPACE}"><url/></constructor>`,
    kind: null,
    entries: 0,
    finds: ['sitemap.wrong-root'],
  },
  'UTF-16 by its declaration alone': {
    bytes: set(at('/a'), '<?xml version="1.0" encoding="utf-16"?>'),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.misdeclared'],
  },
  'UTF-16 by its header alone': {
    bytes: set(at('/a')),
    type: 'text/xml; charset=UTF-16',
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.misdeclared'],
  },
  'a root in capitals': {
    bytes: `${HEAD}<URLSET xmlns="${NAMESPACE}"/>`,
    kind: null,
    entries: 0,
    finds: ['sitemap.wrong-root'],
  },
  'an old namespace': {
    bytes: set(at('/a'), HEAD, 'http://www.sitemaps.org/schemas/sitemap/0.84'),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.wrong-namespace'],
  },
  'the namespace over https': {
    bytes: set(at('/a'), HEAD, NAMESPACE.replace('http:', 'https:')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.wrong-namespace'],
  },
  'no namespace': {
    bytes: '<urlset><url><loc>https://quay.example/a</loc></url></urlset>',
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.wrong-namespace'],
  },
  'Atom without its namespace': {
    bytes: '<feed><entry><link href="https://quay.example/a"/></entry></feed>',
    kind: 'atom',
    entries: 1,
    finds: ['sitemap.wrong-namespace'],
  },
  'cut in the middle': {
    bytes: set(at('/a')).slice(0, -14),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
  },
  'a bare ampersand': {
    bytes: set(`${at('/a')}\n${at('/?a&b')}`),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
    line: 4,
  },
  'a bare ampersand, with a semicolon far behind': {
    bytes: set(`${at('/a')}\n${at('/?a&b')}\n${at('/?c&amp;d')}`),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
    line: 4,
  },
  'a tag that is not closed': {
    bytes: set('<url><loc>https://quay.example/a</url>'),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
    line: 3,
  },
  'a prefix that nobody declared': {
    bytes: set(at('/a', '<image:image/>')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
  },
  'two roots': {
    bytes: set(at('/a')) + set(at('/b'), ''),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
  },
  'words behind the root': {
    bytes: `${set(at('/a'))}PHP Warning: tide out of range`,
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-well-formed'],
  },
  'a warning before the root': {
    bytes: `Warning: tide out of range\n${set(at('/a'))}`,
    kind: null,
    entries: 0,
    finds: ['sitemap.not-a-sitemap'],
  },
  'white space before the declaration': {
    bytes: `\n\n${set(at('/a'))}`,
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.space-before'],
  },
  'an entity of its own': {
    bytes: `<!DOCTYPE urlset [<!ENTITY tide "high">]>${set(at('/&tide;'), '')}`,
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.entities'],
  },
  'entities upon entities': {
    bytes: `<!DOCTYPE urlset [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]>${set(at('/&c;'), '')}`,
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.entities'],
  },
  'an entity from a file': {
    bytes: `<!DOCTYPE urlset [<!ENTITY x SYSTEM "file:///etc/passwd">]>${set(at('/&x;'), '')}`,
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.entities'],
  },
  'a feed with an entity of its own': {
    bytes: `<!DOCTYPE rss [<!ENTITY tide "https://elsewhere.example/">]>${rss(item('https://quay.example/a') + '<item><title>&tide; &amp; more</title><link>https://quay.example/b</link></item>').slice(HEAD.length)}`,
    kind: 'rss',
    entries: 2,
    finds: ['sitemap.entities'],
  },
  'a feed whose channel has an image and a field for text': {
    bytes: rss(
      `<image><link>https://quay.example/logo</link></image><textInput><link>https://quay.example/ask</link></textInput>${item('https://quay.example/a')}`,
    ),
    kind: 'rss',
    entries: 1,
    finds: [],
  },
  'a feed of RSS 1.0': {
    bytes: `${HEAD}<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns="http://purl.org/rss/1.0/"><channel rdf:about="https://quay.example/"><title>Tides</title><link>https://quay.example/</link><items><rdf:Seq><rdf:li resource="https://quay.example/a"/></rdf:Seq></items></channel><image rdf:about="x"><link>https://quay.example/logo</link></image><item rdf:about="https://quay.example/a"><title>High</title><link>https://quay.example/a</link></item><item rdf:about="https://quay.example/b"><link>https://quay.example/b</link></item></rdf:RDF>`,
    kind: 'rss',
    entries: 2,
    finds: [],
  },
  'a root of RDF that is none': {
    bytes: `${HEAD}<RDF xmlns="urn:berths"><item><link>https://quay.example/a</link></item></RDF>`,
    kind: null,
    entries: 0,
    finds: ['sitemap.wrong-root'],
  },
  'one more than 50,000': {
    bytes: set(many(50_001, (nth) => at(`/${String(nth)}`))),
    kind: 'urlset',
    entries: 50_000,
    finds: ['sitemap.too-many'],
  },
  'a text of more than 50,000 lines': {
    bytes: many(50_001, (nth) => `https://quay.example/${String(nth)}`),
    kind: 'text',
    entries: 50_000,
    finds: ['sitemap.too-many'],
  },
  'a path alone': {
    bytes: set(`${at('/a')}\n${url('/b')}`),
    kind: 'urlset',
    entries: 2,
    finds: ['sitemap.relative'],
    line: 4,
  },
  'no scheme': { bytes: set(url('quay.example/b')), kind: 'urlset', entries: 1, finds: ['sitemap.relative'] },
  'no address at all': {
    bytes: set('<url><lastmod>2026-11-01</lastmod></url>'),
    kind: 'urlset',
    entries: 0,
    finds: ['sitemap.no-location', 'sitemap.empty'],
  },
  'an empty address': { bytes: set(url('')), kind: 'urlset', entries: 1, finds: ['sitemap.no-location'] },
  'not an address': {
    bytes: set(url('https://')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.not-an-address'],
  },
  'a space': { bytes: set(at('/high tide')), kind: 'urlset', entries: 1, finds: ['sitemap.unescaped'] },
  'an accent': { bytes: set(at('/möwen')), kind: 'urlset', entries: 1, finds: ['sitemap.unescaped'] },
  'half an escape': { bytes: set(at('/100%')), kind: 'urlset', entries: 1, finds: ['sitemap.unescaped'] },
  'too long': {
    bytes: set(at(`/${'a'.repeat(2030)}`)),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.too-long'],
  },
  'another host': {
    bytes: set(url('https://other.example/')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.other-host'],
  },
  'www in place of the bare name': {
    bytes: set(url('https://www.quay.example/')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.other-host'],
  },
  'another scheme': {
    bytes: set(url('http://quay.example/a')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.other-scheme'],
  },
  'another port': {
    bytes: set(url('https://quay.example:8443/a')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.other-host'],
  },
  'above its folder': {
    bytes: set(at('/shop/a') + at('/b')),
    url: 'https://quay.example/shop/sitemap.xml',
    kind: 'urlset',
    entries: 2,
    finds: ['sitemap.outside'],
  },
  'the same twice': {
    bytes: set(at('/a') + at('/b') + at('/a')),
    kind: 'urlset',
    entries: 3,
    finds: ['sitemap.twice'],
  },
  'the same child twice': {
    bytes: index('https://quay.example/1.xml', 'https://quay.example/1.xml'),
    kind: 'index',
    entries: 2,
    finds: ['sitemap.twice'],
  },
  'a child on another host': {
    bytes: index('https://maps.example/1.xml'),
    kind: 'index',
    entries: 1,
    finds: ['sitemap.child-elsewhere'],
  },
  'a child by its path': { bytes: index('/1.xml'), kind: 'index', entries: 1, finds: ['sitemap.relative'] },
  'a date of another country': {
    bytes: set(at('/a', lastmod('24.11.2026'))),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-date'],
  },
  'a time without a zone': {
    bytes: set(at('/a', lastmod('2026-11-24T10:00:00'))),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-date'],
  },
  'a day that is none': {
    bytes: set(at('/a', lastmod('2026-13-40'))),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-date'],
  },
  'an empty date': {
    bytes: set(at('/a', lastmod(''))),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-date'],
  },
  'a date in the future': {
    bytes: set(at('/a', lastmod('2027-02-01'))),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.future-date'],
  },
  'all dates the same': {
    bytes: set(many(12, (nth) => at(`/${String(nth)}`, lastmod('2026-11-01')))),
    kind: 'urlset',
    entries: 12,
    finds: ['sitemap.dates-alike'],
  },
  'a priority above one': {
    bytes: set(at('/a', '<priority>5</priority>')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-priority'],
  },
  'a priority with a comma': {
    bytes: set(at('/a', '<priority>0,8</priority>')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-priority'],
  },
  'a frequency of its own': {
    bytes: set(at('/a', '<changefreq>Daily</changefreq>')),
    kind: 'urlset',
    entries: 1,
    finds: ['sitemap.bad-frequency'],
  },
  'a feed’s date in another form': {
    bytes: rss(item('https://quay.example/a', '2026-11-24')),
    kind: 'rss',
    entries: 1,
    finds: ['sitemap.bad-date'],
  },
  'a feed’s entry without a link': {
    bytes: rss('<item><title>High</title></item>'),
    kind: 'rss',
    entries: 0,
    finds: ['sitemap.no-location', 'sitemap.empty'],
  },
  'a feed that links elsewhere': {
    bytes: rss(item('https://quay.example/a') + item('https://news.example/b')),
    kind: 'rss',
    entries: 2,
    finds: ['sitemap.other-host'],
  },
  'an Atom entry without a link': {
    bytes: atom(entry('')),
    kind: 'atom',
    entries: 0,
    finds: ['sitemap.no-location', 'sitemap.empty'],
  },
  'a text with a comment': {
    bytes: 'https://quay.example/a\n# tides\nhttps://quay.example/b\n',
    kind: 'text',
    entries: 3,
    finds: ['sitemap.relative'],
    line: 2,
  },
  'a text with two addresses a line': {
    bytes: 'https://quay.example/a https://quay.example/b\n',
    kind: 'text',
    entries: 1,
    finds: ['sitemap.unescaped'],
  },
  'gzip that is broken': {
    bytes: Buffer.concat([
      gzipSync(set(many(400, (nth) => at(`/${String(nth * 7919)}`)))).subarray(0, 300),
      Buffer.from('tide'),
    ]),
    kind: null,
    entries: 0,
    finds: ['sitemap.gzip-broken'],
  },
  'several kinds at once': {
    bytes: set(
      many(5, () => at('/a')) + url('http://quay.example/b') + url('/c') + at('/d', lastmod('soon')),
    ),
    kind: 'urlset',
    entries: 8,
    finds: ['sitemap.twice', 'sitemap.other-scheme', 'sitemap.relative', 'sitemap.bad-date'],
  },
};

export const CORPUS: Readonly<Record<string, File>> = { ...good, ...flawed };
