import type {
  Finding,
  FoundSitemap,
  Reading,
  ReadingDifference,
  Sitemap,
  SitemapDetail,
  Submission,
} from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { worstFirst } from '../../api/worst-first.js';
import { table } from './table.js';
import { paint, paragraph, plain, say, when } from './text.js';

/** Addresses of a difference that are printed unless more are asked for. */
export const SHOWN = 20;

const KINDS: Readonly<Record<NonNullable<Reading['kind']>, string>> = {
  urlset: 'sitemap',
  index: 'index',
  rss: 'RSS feed',
  atom: 'Atom feed',
  text: 'list of addresses',
};

export function kindOf({ kind }: Pick<Reading, 'kind'>): string {
  return kind === null ? 'unreadable' : KINDS[kind];
}

/** What the counts say, in a few words; a wait is told apart from what is to be done. */
function compared({ counts, engineReading, askedAt }: Submission): string {
  const { state, gap, dueBy, since } = counts;
  switch (state) {
    case 'equal':
      return 'equal';
    case 'apart':
      return gap === null ? 'ours is unread' : `${sign(gap)} than ours since ${when(since)}`;
    case 'behind':
      return `right when it looked; ours changed ${when(since)}`;
    case 'waiting':
      return `waiting, due by ${when(dueBy)}`;
    case 'overdue':
      return `overdue since ${when(dueBy)}, ${askedSays(askedAt ?? engineReading?.at ?? null)}`;
    case 'troubled':
      return 'says that it could not, though we can';
    case 'broken':
      return 'broken: see below';
  }
}

/** As of when an engine had not read. */
function askedSays(at: string | null): string {
  return at === null ? 'never asked since' : `as of ${when(at)}, when it was last asked`;
}

/** A gap with its sign: how many the engine lacks, or has too many. */
function sign(gap: number): string {
  return gap > 0 ? `${String(gap)} fewer` : `${String(-gap)} more`;
}

function ours({ reading }: Sitemap): string {
  if (!reading || reading.kind === null) return '–';
  const { addresses, before } = reading;
  const fell = before !== null && before !== addresses ? ` (was ${String(before)})` : '';
  return `${String(addresses)}${fell}`;
}

export function printSitemaps(items: readonly Sitemap[]): void {
  const rows = items.flatMap((sitemap) => {
    const first = [sitemap.property.handle, new URL(sitemap.url).pathname, sitemap.state, ours(sitemap)];
    if (sitemap.submissions.length === 0)
      return [[...first, '–', '–', '–', '–', sitemap.withdrawn ? 'withdrawn everywhere' : 'not submitted']];
    return sitemap.submissions.map((one, at) => [
      ...(at === 0 ? first : ['', '', '', '']),
      one.enrolmentName.slice(one.enrolmentName.lastIndexOf('@') + 1),
      String(one.engineReading?.found ?? '–'),
      String(one.engineReading?.listed ?? '–'),
      when(one.engineReading?.readAt ?? null),
      one.tooMany ? `duplicate: ${compared(one)}` : compared(one),
    ]);
  });
  table(
    ['property', 'sitemap', 'reading', 'ours', 'engine', 'found', 'listed', 'last there', 'compared'],
    rows,
    'No sitemaps yet. “sitemap find PROPERTY --note” looks for them.',
  );
}

/** What was found in readings and at engines, each thing once. */
export function printFindings(items: readonly Sitemap[]): void {
  const told = new Set<string>();
  for (const sitemap of items)
    for (const one of worstFirst([
      ...(sitemap.reading?.findings ?? []),
      ...sitemap.submissions.flatMap(({ findings }) => findings),
    ])) {
      if (told.has(one.says)) continue;
      told.add(one.says);
      printFinding(one);
    }
}

/** One finding with what is to be done about it. */
export function printFinding(one: Finding): void {
  if (one.follows !== null) {
    paragraph('    so also: ', plain(one.says), paint.dim);
    return;
  }
  const mark =
    one.grade === 'stops' ? paint.red('✗') : one.grade === 'harms' ? paint.magenta('!') : paint.dim('·');
  paragraph(`${mark} `, plain(one.says), one.grade === 'note' ? paint.dim : undefined);
  if (one.remedy !== '') paragraph(`  ${paint.bold('→')} `, plain(one.remedy));
}

const WHY: Readonly<Record<FoundSitemap['why'], string>> = {
  robots: 'named in robots.txt',
  usual: 'under a usual name',
  feed: 'linked as a feed',
  noted: 'noted before',
};

export function printFound(found: readonly FoundSitemap[]): void {
  table(
    ['', 'sitemap', 'found', 'is', 'entries', ''],
    found.map((one) => [
      one.submit ? '★' : '',
      one.url,
      WHY[one.why],
      kindOf(one),
      one.kind === null ? '–' : String(one.entries),
      one.says ?? (one.noted ? 'noted' : ''),
    ]),
    'None was found.',
  );
}

/** One sitemap: what it is, the sitemaps in it, how it went over time. */
export function printSitemap(sitemap: SitemapDetail): void {
  const { reading, children, readings } = sitemap;
  say(paint.bold(plain(sitemap.url)));
  if (reading) {
    const { images, videos, news, alternates } = reading.extensions;
    const more = [
      [images, 'images'],
      [videos, 'videos'],
      [news, 'news'],
      [alternates, 'links to other languages'],
    ].flatMap(([count, what]) => (count === 0 ? [] : [`${String(count)} ${String(what)}`]));
    say(
      [
        `${sitemap.state}, ${kindOf(reading)}`,
        `addresses: ${ours(sitemap)}`,
        ...more,
        `newest date ${plain(reading.newestLastmod ?? 'none')}`,
        `read ${when(reading.at)} UTC`,
        `${counted(reading.tried, 'page')} tried`,
      ].join(', '),
    );
  }
  say();
  printSitemaps([sitemap]);
  if (children.length > 0) {
    say();
    table(
      ['in it', 'reading', 'addresses', 'was', 'newest date', ''],
      children.map((one) => [
        short(one.url, sitemap.url),
        one.state,
        String(one.addresses),
        String(one.before ?? '–'),
        one.newestLastmod ?? '–',
        (one.says ?? '').replaceAll(new URL(sitemap.url).origin, ''),
      ]),
      '',
    );
    if (sitemap.childrenInAll > children.length)
      say(paint.dim(`… and ${String(sitemap.childrenInAll - children.length)} more.`));
  }
  say();
  table(
    ['our readings (UTC)', 'reading', 'addresses', 'newest date', ''],
    readings
      .slice(0, SHOWN)
      .map((one, at) => [
        when(one.at),
        one.state,
        one.kind === null ? '–' : String(one.addresses),
        one.newestLastmod ?? '–',
        [
          one.times > 1 ? `${String(one.times)} readings since ${when(one.firstAt)}` : '',
          one.fingerprint !== null && one.fingerprint === readings[at + 1]?.fingerprint
            ? 'the same addresses'
            : '',
        ]
          .filter(Boolean)
          .join('; '),
      ]),
    'Never read so far. “sitemap read PROPERTY” reads it.',
  );
  if (reading?.findings.length || sitemap.submissions.some(({ findings }) => findings.length > 0)) {
    say();
    printFindings([sitemap]);
  }
}

/** An address without its host, where that goes without saying. */
function short(url: string, beside: string): string {
  const { origin } = new URL(beside);
  return url.startsWith(`${origin}/`) ? url.slice(origin.length) : url;
}

/** What came and went, the first few of each. */
export function printDifference(difference: ReadingDifference): void {
  const { from, to, added, removed } = difference;
  say(paint.bold(plain(difference.url)));
  say(
    `${when(from.at)}: ${counted(from.addresses, 'address', 'addresses')}; ${when(to.at)}: ${String(to.addresses)}`,
  );
  if (added + removed === 0) {
    say('The same addresses in both.');
    return;
  }
  say(`${String(added)} came, ${String(removed)} went.`);
  const list = (mark: string, urls: readonly string[], all: number) => {
    for (const url of urls) say(`${mark} ${plain(url)}`);
    if (urls.length < all) say(paint.dim(`  … and ${String(all - urls.length)} more; --limit shows them.`));
  };
  list(paint.green('+'), difference.addedFirst, added);
  list(paint.red('-'), difference.removedFirst, removed);
}
