import { Op } from 'sequelize';
import { addressText } from '../../core/address/web-address.js';
import { knowsOnlyFeeds, tooManyOf, type KnownAt, type TooMany } from '../../core/sitemap/at-engine.js';
import { compareCounts, type Comparison } from '../../core/sitemap/comparison.js';
import { stateOf, type SitemapState } from '../../core/sitemap/reading.js';
import { durationMs } from '../../core/time/duration.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { ReadingChildRow } from '../../store/models/reading-sets.js';
import { EngineReadingRow, ReadingRow, SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { by, newest, type Raw } from '../context/newest.js';
import type { Desk } from '../context/desk.js';
import { frontDoorOf } from '../context/front-door.js';

/** A sitemap as recorded: its newest reading, and its live submissions with what the engines said last. */
export interface SitemapFacts {
  readonly row: SitemapRow;
  readonly reading: ReadingRow | null;
  readonly state: SitemapState;
  readonly submissions: readonly SubmissionFacts[];
  /** Whether engines knew it, and it was taken back from each of them. */
  readonly withdrawn: boolean;
}

export interface SubmissionFacts {
  readonly row: SubmissionRow;
  readonly engine: EngineReadingRow | null;
  /** How it looks beside the others of its property. */
  readonly known: KnownAt;
  readonly tooMany: TooMany | null;
  /** Whether its engine knows nothing of the property but feeds. */
  readonly feedAlone: boolean;
}

type Alone = Omit<SitemapFacts, 'submissions'> & {
  readonly submissions: readonly Pick<SubmissionFacts, 'row' | 'engine'>[];
};

/** The sitemaps of properties, by property. */
export async function sitemapFacts(
  desk: Desk,
  propertyIds: readonly string[],
): Promise<Map<string, SitemapFacts[]>> {
  const rows = await SitemapRow.findAll({ where: { propertyId: propertyIds }, order: ['url'] });
  const ids = rows.map(({ id }) => id);
  const [readings, submissions, takenBack] = await Promise.all([
    newest<Raw<ReadingRow>>(desk.store, 'readings', 'sitemapId', 'at', ids),
    SubmissionRow.findAll({ where: { sitemapId: ids, withdrawnAt: null }, order: ['submittedAt'] }),
    SubmissionRow.findAll({
      where: { sitemapId: ids, withdrawnAt: { [Op.ne]: null } },
      attributes: ['sitemapId'],
      group: ['sitemapId'],
    }),
  ]);
  const wasTakenBack = new Set(takenBack.map(({ sitemapId }) => sitemapId));
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
  const facts = rows.map((row): Alone => {
    const reading = readingOf.get(row.id) ?? null;
    return {
      row,
      reading,
      state: reading ? stateOf(reading) : 'unread',
      submissions: (submissionsOf.get(row.id) ?? []).map((one) => ({
        row: one,
        engine: engineOf.get(one.id) ?? null,
      })),
      withdrawn: wasTakenBack.has(row.id) && !submissionsOf.has(row.id),
    };
  });
  return besideOneAnother(desk, propertyIds, facts);
}

/** Each submission with what the others of its property make of it. */
async function besideOneAnother(
  desk: Desk,
  propertyIds: readonly string[],
  all: readonly Alone[],
): Promise<Map<string, SitemapFacts[]>> {
  const submissions = all.flatMap((one) => one.submissions.map(({ row }) => row));
  const indexes = all.filter(({ reading }) => reading?.kind === 'index').map(({ row }) => row.id);
  const [properties, enrolments, children] = await Promise.all([
    PropertyRow.findAll({ where: { id: [...propertyIds] } }),
    EnrolmentRow.findAll({
      where: { id: [...new Set(submissions.map(({ enrolmentId }) => enrolmentId))] },
      attributes: ['id', 'engine', 'reach'],
      raw: true,
    }),
    ReadingChildRow.findAll({ where: { sitemapId: indexes }, attributes: ['sitemapId', 'url'], raw: true }),
  ]);
  const enrolmentOf = new Map(enrolments.map((one) => [one.id, one]));
  const childrenOf = by(children, ({ sitemapId }) => sitemapId);
  const knownOf = ({ row, reading }: Alone, submission: SubmissionRow): KnownAt => {
    const { engine, reach } = enrolmentOf.get(submission.enrolmentId) ?? { engine: '', reach: 'address' };
    return {
      id: submission.id,
      engine: { id: engine, title: desk.book.titleOf(engine) },
      reach,
      url: row.url,
      kind: reading?.kind ?? null,
      children: (childrenOf.get(row.id) ?? []).map(({ url }) => url),
    };
  };
  const byProperty = by(all, (one) => one.row.propertyId);
  return new Map(
    properties.map((property) => {
      const own = byProperty.get(property.id) ?? [];
      const known = own
        .flatMap((one) => one.submissions.map(({ row }) => ({ row, known: knownOf(one, row) })))
        .sort((a, b) => a.row.submittedAt.localeCompare(b.row.submittedAt))
        .map((one) => one.known);
      const tooMany = tooManyOf(known, new URL(addressText(frontDoorOf(property))).origin);
      const whole = own.map((one): SitemapFacts => ({
        ...one,
        submissions: one.submissions.map(({ row, engine }) => {
          const self = knownOf(one, row);
          return {
            row,
            engine,
            known: self,
            tooMany: tooMany.get(row.id) ?? null,
            feedAlone: knowsOnlyFeeds(known, self.engine.id),
          };
        }),
      }));
      return [property.id, whole];
    }),
  );
}

/** Our count beside the engine's, for one submission. */
export function countsOf(
  desk: Desk,
  profile: EngineProfile,
  sitemap: SitemapFacts,
  { row, engine }: Pick<SubmissionFacts, 'row' | 'engine'>,
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
