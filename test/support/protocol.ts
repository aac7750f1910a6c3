import { SaxesParser } from 'saxes';

/** One entry of a sitemap as the protocol has it. */
export interface ProtocolEntry {
  readonly loc: string;
  readonly lastmod: string | null;
  readonly changefreq: string | null;
  readonly priority: string | null;
}

const NAMESPACE = 'http://www.sitemaps.org/schemas/sitemap/0.9';
/** The order of the schema files that the protocol publishes (`sitemap.xsd`, `siteindex.xsd`), and what each may hold. */
const RULES: Readonly<Record<string, RegExp>> = {
  loc: /^https?:\/\/[^\s<>]{1,2040}$/u,
  lastmod: /^\d{4}(-\d\d(-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d))?)?)?$/u,
  changefreq: /^(always|hourly|daily|weekly|monthly|yearly|never)$/u,
  priority: /^(0(\.\d+)?|1(\.0+)?)$/u,
};

/**
 * Holds a text against the rules of the protocol and its schemas, by nothing that the product is made of.
 * @throws Error that names the rule which does not hold
 */
export function requireProtocol(text: string): { root: string; entries: ProtocolEntry[] } {
  const bytes = Buffer.byteLength(text);
  if (bytes > 52_428_800) throw new Error(`${String(bytes)} bytes`);
  const parser = new SaxesParser({ xmlns: true });
  const entries: ProtocolEntry[] = [];
  const path: string[] = [];
  let said: Record<string, string> = {};
  let root = '';
  let value = '';
  const own = (uri: string, local: string) => (uri === NAMESPACE ? local : `{${uri}}${local}`);
  parser.on('opentag', ({ uri, local }) => {
    path.push(own(uri, local));
    value = '';
    if (path.length === 1) root = path[0] ?? '';
    if (path.length === 2) said = {};
  });
  parser.on('text', (piece) => (value += piece));
  parser.on('closetag', () => {
    const name = path.pop() ?? '';
    if (path.length === 2) {
      if (!name.startsWith('{')) {
        if (RULES[name]?.test(value) !== true) throw new Error(`<${name}> holds “${value}”`);
        if (name in said) throw new Error(`two <${name}> in one entry`);
        said[name] = value;
      }
    } else if (path.length === 1) {
      const { loc, lastmod = null, changefreq = null, priority = null } = said;
      if (loc === undefined) throw new Error('an entry without <loc>');
      if (new URL(loc).href !== loc) throw new Error(`“${loc}” is not written as it should be`);
      entries.push({ loc, lastmod, changefreq, priority });
    }
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(text).close();
  if (root !== 'urlset' && root !== 'sitemapindex') throw new Error(`the root is ${root}`);
  if (entries.length === 0 || entries.length > 50_000) throw new Error(`${String(entries.length)} entries`);
  return { root, entries };
}
