import type { ReportAsked, ReportWritten } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { DAY } from '../../core/time/duration.js';
import type { ClientReport, Counted, Harm, SitemapCounts } from '../../core/report/report.js';
import { hostsForPeople } from '../../core/address/host.js';
import { plainly } from '../../core/report/owner-words.js';
import { REPORT_WORDS } from '../../core/report/report-words.js';
import { reportHtml, reportMarkdown, reportTitle } from '../../core/report/report-formats.js';
import type { AlertKind } from '../../core/alerts/alert.js';
import { reportMail } from '../../core/report/mail.js';
import type { ClientRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import type { Desk } from '../context/desk.js';
import type { Projections } from '../projections/projections.js';
import { alertIn, reportFacts } from './facts.js';
import { siteNames } from './site-names.js';
import { MOST_READ, journalWordsOf, type Span } from './journal-words.js';

const USUAL_DAYS = 30;
const LONGEST_DAYS = 3 * 366;
/** A plot shows no more than so many steps. */
const MOST_POINTS = 120;

/** What changed by itself or at an engine, and what we did, by the kinds of the journal. */
const CHANGED = [
  'property.added',
  'ownership.confirmed',
  'ownership.withdrawn',
  'claim.confirmed',
  'claim.refused',
  'enrolment.missing',
];
const DID = [
  'enrolled',
  'enrolled.again',
  'enrolment.adopted',
  'enrolment.ended',
  'sitemap.submitted',
  'sitemap.withdrawn',
  'sitemap.made',
  'robots.kept',
  'letter.written',
  'publish',
];

/** The stretch of time that is meant; the last thirty days where nothing is said. Throws Problem. */
function spanOf(desk: Desk, { from, to }: { readonly from?: string; readonly to?: string }): Span {
  const now = desk.clock.now();
  const end = to === undefined ? now : new Date(to);
  const start = from === undefined ? new Date(end.getTime() - USUAL_DAYS * DAY) : new Date(from);
  if (start >= end || end.getTime() - start.getTime() > LONGEST_DAYS * DAY || start > now)
    throw new Problem('bad-span', { from: start.toISOString(), to: end.toISOString() });
  return { from: start.toISOString(), to: (end > now ? now : end).toISOString() };
}

/** The report of a client over a stretch of time, in every form. Throws Problem. */
export async function writeReport(
  desk: Desk,
  kept: Projections,
  ref: string,
  asked: ReportAsked = {},
): Promise<ReportWritten> {
  return reportOf(desk, kept, await findClient(ref), asked);
}

/** The same for a client on record. Throws Problem. */
export async function reportOf(
  desk: Desk,
  kept: Projections,
  client: ClientRow,
  { language = 'en', ...asked }: ReportAsked,
): Promise<ReportWritten> {
  const words = REPORT_WORDS[language];
  // What is met while it is derived belongs to the stretch.
  await kept.all();
  const span = spanOf(desk, asked);
  const [facts, changed, did, harms, sitemaps] = await Promise.all([
    reportFacts(desk, client.id, span, language),
    journalWordsOf(desk, client.id, CHANGED, span, language),
    journalWordsOf(desk, client.id, DID, span, language),
    harmsOf(desk, client.id, span),
    countsOf(desk, client.id, span),
  ]);
  const nameOf = await siteNames(client.id);
  const report: ClientReport = {
    language,
    client: client.name,
    ...span,
    totals: facts.totals,
    properties: facts.properties.map(({ address, held, open }) => ({
      address,
      at: [
        ...held.map((engine) => ({ engine, isHeld: true, says: words.stands.held })),
        ...open.map(({ engine, stands }) => ({ engine, isHeld: false, says: stands })),
      ],
    })),
    changed: changed.map((one) => ({ ...one, property: nameOf(one.property) })),
    did: did.map((one) => ({ ...one, property: nameOf(one.property) })),
    sitemaps,
    harms: harms.map(({ kind, cause, says, ...one }) => ({
      ...one,
      property: nameOf(one.property),
      says: plainly(alertIn({ kind, cause, says }, words)),
    })),
    toDo: [...facts.toDo],
  };
  const { agency } = desk;
  return {
    title: reportTitle(report),
    html: reportHtml(report, agency),
    markdown: reportMarkdown(report, agency),
    mail: reportMail(facts, { zone: 'UTC', base: null, stop: null }, true),
    report,
  };
}

/** Harms of the stretch, with when an engine acted on the same property: a badge that was lost after we had seen what it came of. */
function harmsOf(
  { store }: Desk,
  clientId: string,
  { from, to }: Span,
): Promise<(Harm & { readonly kind: AlertKind; readonly cause: string })[]> {
  return store.select<Harm & { readonly kind: AlertKind; readonly cause: string }>(
    `SELECT p.handle AS property, c.kind, c.cause, c.says, c.openedAt AS seenAt, CASE WHEN c.mended = 1 THEN c.endedAt END AS overAt,
       (SELECT MIN(l.openedAt) FROM cases l WHERE l.propertyId = c.propertyId AND l.kind = 'lost' AND l.openedAt >= c.openedAt
          AND l.openedAt <= $to AND (c.endedAt IS NULL OR c.mended = 0 OR l.openedAt <= c.endedAt)) AS actedAt
      FROM cases c JOIN properties p ON p.id = c.propertyId
      WHERE c.clientId = $clientId AND c.kind <> 'lost' AND c.openedAt <= $to AND (c.endedAt IS NULL OR c.endedAt > $from)
        -- What something worse took the place of is told with that.
        AND (c.mended IS NULL OR c.mended = 1 OR EXISTS (SELECT 1 FROM cases l WHERE l.propertyId = c.propertyId AND l.kind = 'lost' AND l.openedAt >= c.openedAt))
      ORDER BY c.openedAt LIMIT $most`,
    { clientId, from, to, most: MOST_READ },
  );
}

interface CountRow {
  readonly url: string;
  /** Empty where it is our own count. */
  readonly engine: string;
  readonly at: string;
  readonly count: number;
}

/** How many addresses sitemaps had, as we and engines counted them: each number from when it was first so. */
async function countsOf(desk: Desk, clientId: string, { from, to }: Span): Promise<SitemapCounts[]> {
  const rows = await desk.store.select<CountRow>(
    `SELECT s.url, '' AS engine, ifnull(r.firstAt, r.at) AS at, r.addresses AS count
       FROM properties p JOIN sitemaps s ON s.propertyId = p.id JOIN readings r ON r.sitemapId = s.id
      WHERE p.clientId = $clientId AND p.archivedAt IS NULL AND r.kind IS NOT NULL AND r.at >= $from AND ifnull(r.firstAt, r.at) <= $to
     UNION ALL
     SELECT s.url, e.engine, ifnull(g.firstAt, g.at), g.found
       FROM properties p JOIN sitemaps s ON s.propertyId = p.id JOIN submissions u ON u.sitemapId = s.id
       JOIN enrolments e ON e.id = u.enrolmentId JOIN engine_readings g ON g.submissionId = u.id
      WHERE p.clientId = $clientId AND p.archivedAt IS NULL AND g.found IS NOT NULL AND g.at >= $from AND ifnull(g.firstAt, g.at) <= $to
     ORDER BY 1, 2, 3 LIMIT 20000`,
    { clientId, from, to },
  );
  const byUrl = new Map<string, Map<string, Counted[]>>();
  for (const { url, engine, at, count } of rows) {
    const own = byUrl.get(url) ?? new Map<string, Counted[]>();
    own.set(engine, [...(own.get(engine) ?? []), { at: at < from ? from : at, count }]);
    byUrl.set(url, own);
  }
  return [...byUrl].map(([url, lines]) => ({
    url: hostsForPeople(url),
    ours: thinned(lines.get('') ?? []),
    engines: [...lines]
      .filter(([engine]) => engine !== '')
      .map(([engine, found]) => ({ engine: desk.book.titleOf(engine), found: thinned(found) })),
  }));
}

/** So many points that a plot can show them, the first and the last among them. */
function thinned(points: readonly Counted[]): Counted[] {
  const every = Math.ceil(points.length / MOST_POINTS);
  return points.filter((_, at) => at % every === 0 || at === points.length - 1);
}
