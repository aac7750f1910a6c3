import { hostsForPeople } from '../../core/address/host.js';
import type { ReadingLine, Sitemap, Submission } from '../../api/documents.js';
import { judgeSubmission } from '../../core/sitemap/at-engine.js';
import { NO_EXTENSIONS, stateOf } from '../../core/sitemap/reading.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { EngineReadingRow, ReadingRow } from '../../store/models/sitemaps.js';
import { enrolmentFacts, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { personNames } from '../context/journal.js';
import type { Desk } from '../context/desk.js';
import { countsOf, sitemapFacts, type SitemapFacts, type SubmissionFacts } from '../facts/sitemap-facts.js';

/** A sitemap with no more than the worst of what its reading found. */
export function inBrief(sitemap: Sitemap): Sitemap {
  const { reading } = sitemap;
  if (!reading) return sitemap;
  const stops = reading.findings.find(({ grade }) => grade === 'stops');
  const worst = stops ?? reading.findings.find(({ grade }) => grade === 'harms') ?? reading.findings[0];
  return { ...sitemap, reading: { ...reading, findings: worst ? [worst] : [] } };
}

/** The sitemaps of properties as they are shown, in their order. */
export async function viewAll(desk: Desk, properties: readonly PropertyRow[]): Promise<Sitemap[]> {
  const ids = properties.map(({ id }) => id);
  const [enrolments, all] = await Promise.all([
    EnrolmentRow.findAll({ where: { propertyId: ids, endedAt: null } }),
    sitemapFacts(desk, ids),
  ]);
  const viewed = await viewSitemaps(desk, properties, await enrolmentFacts(desk, enrolments), all);
  return properties.flatMap(({ id }) => viewed.get(id) ?? []);
}

/** The sitemaps of properties as they are shown, by property, from facts that are known already. */
export async function viewSitemaps(
  desk: Desk,
  properties: readonly PropertyRow[],
  enrolments: readonly EnrolmentFacts[],
  all: ReadonlyMap<string, readonly SitemapFacts[]>,
): Promise<Map<string, Sitemap[]>> {
  const facts = new Map(enrolments.map((one) => [one.row.id, one]));
  const sitemaps = [...all.values()].flat();
  const names = await personNames(
    sitemaps.flatMap((one) => one.submissions.map(({ engine }) => engine?.recordedBy)),
  );
  const viewOf = (property: PropertyRow): Sitemap[] =>
    inOrder(all.get(property.id) ?? []).map((sitemap): Sitemap => {
      const submissions = sitemap.submissions
        .flatMap((one) => {
          const enrolment = facts.get(one.row.enrolmentId);
          if (!enrolment) return [];
          return [viewSubmission(desk, sitemap, one, enrolment, names)];
        })
        .sort((a, b) => a.enrolmentName.localeCompare(b.enrolmentName));
      return viewOne(property, sitemap, submissions);
    });
  return new Map(properties.map((property) => [property.id, viewOf(property)]));
}

/** What holds most first: indexes, then sitemaps, then feeds. */
function inOrder(sitemaps: readonly SitemapFacts[]): SitemapFacts[] {
  const rank = ({ reading }: SitemapFacts): number => {
    if (reading?.kind === 'index') return 0;
    return reading?.kind === 'rss' || reading?.kind === 'atom' ? 2 : 1;
  };
  return [...sitemaps].sort((a, b) => rank(a) - rank(b) || a.row.url.localeCompare(b.row.url));
}

function viewSubmission(
  desk: Desk,
  sitemap: SitemapFacts,
  one: SubmissionFacts,
  { profile, name }: EnrolmentFacts,
  names: ReadonlyMap<string, string>,
): Submission {
  const counts = countsOf(desk, profile, sitemap, one);
  const { engine, row, tooMany } = one;
  const findings = judgeSubmission(one.known, counts, {
    ours: sitemap.reading?.addresses ?? null,
    found: engine?.found ?? null,
    listed: engine?.listed ?? null,
    readAt: engine?.readAt == null ? null : new Date(engine.readAt),
    trouble: engine?.trouble ?? null,
    tooMany,
    feedAlone: one.feedAlone,
  });
  return {
    id: row.id,
    enrolment: row.enrolmentId,
    enrolmentName: name,
    engine: { id: profile.id, title: profile.title },
    byHand: profile.worked.how === 'hand',
    sentAs: row.sentAs,
    sentAsForPeople: hostsForPeople(row.sentAs),
    submittedAt: row.submittedAt,
    askedAt: row.askedAt ?? null,
    engineReading: engine && viewEngineReading(engine, names),
    counts: {
      state: counts.state,
      dueBy: counts.dueBy?.toISOString() ?? null,
      gap: counts.gap,
      since: counts.since?.toISOString() ?? null,
      why: counts.why,
    },
    tooMany,
    findings: findings.map((found) => ({ ...found, evidence: { ...found.evidence } })),
  };
}

function viewEngineReading(
  row: EngineReadingRow,
  names: ReadonlyMap<string, string>,
): NonNullable<Submission['engineReading']> {
  return {
    at: row.at,
    readAt: row.readAt ?? null,
    found: row.found ?? null,
    listed: row.listed ?? null,
    trouble: row.trouble ?? null,
    recordedBy: row.recordedBy == null ? null : (names.get(row.recordedBy) ?? null),
  };
}

function viewOne(
  property: PropertyRow,
  { row, reading, state, withdrawn }: SitemapFacts,
  submissions: Submission[],
): Sitemap {
  return {
    id: row.id,
    property: { id: property.id, handle: property.handle },
    url: row.url,
    urlForPeople: hostsForPeople(row.url),
    state,
    reading: reading && {
      ...viewLine(reading),
      before: reading.before ?? null,
      extensions: { ...(reading.extensions ?? NO_EXTENSIONS) },
      tried: reading.tried,
      findings: reading.findings.map((one) => ({ ...one, evidence: { ...one.evidence } })),
    },
    submissions,
    withdrawn,
    createdAt: row.createdAt,
  };
}

/** One reading in a line, as a history has it. */
export function viewLine(row: ReadingRow): ReadingLine {
  return {
    id: row.id,
    at: row.at,
    firstAt: row.firstAt ?? row.at,
    times: row.times,
    kind: row.kind ?? null,
    state: stateOf(row),
    addresses: row.addresses,
    children: row.children,
    newestLastmod: row.newestLastmod ?? null,
    fingerprint: row.fingerprint ?? null,
  };
}

export async function viewSitemap(desk: Desk, property: PropertyRow, id: string): Promise<Sitemap> {
  const found = (await viewAll(desk, [property])).find((one) => one.id === id);
  if (found) return found;
  throw new Error('a sitemap that is there is shown');
}
