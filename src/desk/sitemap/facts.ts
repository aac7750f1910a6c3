import { compareCounts, type Comparison } from '../../core/sitemap/comparison.js';
import { stateOf, type SitemapState } from '../../core/sitemap/reading.js';
import { durationMs } from '../../core/time/duration.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { EngineReadingRow, ReadingRow, SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { by, newest, type Raw } from '../newest.js';
import type { Desk } from '../parts.js';

/** A sitemap as recorded: its newest reading, and its live submissions with what the engines said last. */
export interface SitemapFacts {
  readonly row: SitemapRow;
  readonly reading: ReadingRow | null;
  readonly state: SitemapState;
  readonly submissions: readonly { readonly row: SubmissionRow; readonly engine: EngineReadingRow | null }[];
}

/** The sitemaps of properties, by property. */
export async function sitemapFacts(
  desk: Desk,
  propertyIds: readonly string[],
): Promise<Map<string, SitemapFacts[]>> {
  const rows = await SitemapRow.findAll({ where: { propertyId: propertyIds }, order: ['url'] });
  const ids = rows.map(({ id }) => id);
  const [readings, submissions] = await Promise.all([
    newest<Raw<ReadingRow>>(desk.store, 'readings', 'sitemapId', 'at', ids),
    SubmissionRow.findAll({ where: { sitemapId: ids, withdrawnAt: null }, order: ['submittedAt'] }),
  ]);
  const engines = await newest<Raw<EngineReadingRow>>(
    desk.store,
    'engine_readings',
    'submissionId',
    'at',
    submissions.map(({ id }) => id),
  );
  const readingOf = new Map(
    readings.map((one) => [one.sitemapId, ReadingRow.build(one, { raw: true, isNewRecord: false })]),
  );
  const engineOf = new Map(
    engines.map((one) => [one.submissionId, EngineReadingRow.build(one, { raw: true, isNewRecord: false })]),
  );
  const submissionsOf = by(submissions, (row) => row.sitemapId);
  const facts = rows.map((row): SitemapFacts => {
    const reading = readingOf.get(row.id) ?? null;
    return {
      row,
      reading,
      state: reading ? stateOf(reading) : 'unread',
      submissions: (submissionsOf.get(row.id) ?? []).map((one) => ({
        row: one,
        engine: engineOf.get(one.id) ?? null,
      })),
    };
  });
  return by(facts, (one) => one.row.propertyId);
}

/** Our count beside the engine's, for one submission. */
export function countsOf(
  desk: Desk,
  profile: EngineProfile,
  sitemap: SitemapFacts,
  { row, engine }: SitemapFacts['submissions'][number],
): Comparison {
  const { reading, state } = sitemap;
  const readable = reading !== null && state !== 'unreachable';
  return compareCounts(
    {
      submittedAt: new Date(row.submittedAt),
      ours: {
        addresses: readable ? reading.addresses : null,
        atEngineReading: engine?.ours ?? null,
        broken: reading?.findings.find(({ grade }) => grade === 'stops')?.says ?? null,
      },
      engine: engine && {
        readAt: engine.readAt == null ? null : new Date(engine.readAt),
        found: engine.found ?? null,
        listed: engine.listed ?? null,
        trouble: engine.trouble ?? null,
      },
      apartSince: row.apartSince == null ? null : new Date(row.apartSince),
    },
    durationMs(profile.sitemaps?.firstReading ?? 'P1D'),
    desk.clock.now(),
  );
}
