import { parseTarget, targetForPeople } from '../core/address/reach.js';
import type { EnrolmentLine } from '../api/documents.js';
import { standing, type Standing } from '../core/badge/standing.js';
import type { SitemapState } from '../core/sitemap/reading.js';
import { compareCounts, type Comparison } from '../core/sitemap/comparison.js';
import { stateOf } from '../core/sitemap/reading.js';
import { durationMs } from '../core/time/duration.js';
import { decisiveCheck } from '../core/worklist/decisive.js';
import { nextStep, type NextStep } from '../core/worklist/next-step.js';
import { METHODS, type EngineProfile, type Method } from '../core/profile/profile.js';
import { PropertyRow } from '../store/models/clients.js';
import { AccountRow } from '../store/models/accounts.js';
import { CheckRow, ClaimRow, EnrolmentRow, OwnershipRow, TokenRow } from '../store/models/enrolments.js';
import { EngineReadingRow, ReadingRow, SitemapRow, SubmissionRow } from '../store/models/sitemaps.js';
import type { Store } from '../store/store.js';
import { profileOf, type Desk } from './parts.js';

/** A sitemap as recorded: its newest reading, and its live submissions with what the engines said last. */
export interface SitemapFacts {
  readonly row: SitemapRow;
  readonly reading: ReadingRow | null;
  readonly state: SitemapState;
  readonly submissions: readonly { readonly row: SubmissionRow; readonly engine: EngineReadingRow | null }[];
}

/** Everything recorded of one enrolment that its badge and its next step are derived from. */
export interface EnrolmentFacts {
  readonly row: EnrolmentRow;
  /** As it is written: `ferries@veldrane:name`. */
  readonly name: string;
  readonly profile: EngineProfile;
  readonly account: AccountRow | null;
  readonly tokens: readonly TokenRow[];
  /** The newest check of each token in force. */
  readonly checks: readonly CheckRow[];
  readonly ownership: OwnershipRow | null;
  readonly claim: ClaimRow | null;
  readonly standing: Standing;
  readonly step: NextStep;
}

/** The newest row of each group, for groups with the given ids. Table and columns are ours, never input. */
async function newest<Row extends object>(
  store: Store,
  table: string,
  group: string,
  order: string,
  ids: readonly string[],
): Promise<Row[]> {
  if (ids.length === 0) return [];
  const first = group.split(',')[0] ?? group;
  return store.select<Row>(
    `SELECT * FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY ${group} ORDER BY ${order} DESC, rowid DESC) AS nth
       FROM ${table} WHERE ${first} IN (:ids)) WHERE nth = 1`,
    { ids },
  );
}

function by<Row>(rows: readonly Row[], key: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) groups.set(key(row), [...(groups.get(key(row)) ?? []), row]);
  return groups;
}

type Raw<Row> = { [Key in keyof Row]: Row[Key] };

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
      state: reading ? stateOf(reading.findings) : 'unread',
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
  submission: SitemapFacts['submissions'][number],
): Comparison {
  const { engine } = submission;
  const readable = sitemap.reading !== null && sitemap.state !== 'unreachable';
  return compareCounts(
    {
      submittedAt: new Date(submission.row.submittedAt),
      ours: readable ? (sitemap.reading?.addresses ?? null) : null,
      engine: engine && {
        readAt: engine.readAt == null ? null : new Date(engine.readAt),
        found: engine.found ?? null,
        listed: engine.listed ?? null,
        trouble: engine.trouble ?? null,
      },
    },
    durationMs(profile.sitemaps?.firstReading ?? 'P1D'),
    desk.clock.now(),
  );
}

/** The facts of enrolments, in their order. Costs a fixed number of queries, however many they are. */
export async function enrolmentFacts(desk: Desk, rows: readonly EnrolmentRow[]): Promise<EnrolmentFacts[]> {
  const ids = rows.map(({ id }) => id);
  const [tokens, checks, ownerships, claims, sitemaps, properties, siblings, accounts] = await Promise.all([
    TokenRow.findAll({ where: { enrolmentId: ids, replacedAt: null } }),
    newest<Raw<CheckRow>>(desk.store, 'checks', 'enrolmentId, method', 'checkedAt', ids),
    newest<Raw<OwnershipRow>>(desk.store, 'ownerships', 'enrolmentId', 'at', ids),
    newest<Raw<ClaimRow>>(desk.store, 'claims', 'enrolmentId', 'askedAt', ids),
    sitemapFacts(desk, [...new Set(rows.map(({ propertyId }) => propertyId))]),
    PropertyRow.findAll({
      where: { id: [...new Set(rows.map(({ propertyId }) => propertyId))] },
      attributes: ['id', 'handle'],
    }),
    EnrolmentRow.findAll({
      where: { propertyId: [...new Set(rows.map(({ propertyId }) => propertyId))], endedAt: null },
      attributes: ['id', 'propertyId', 'engine'],
    }),
    AccountRow.findAll({ where: { id: [...new Set(rows.map(({ accountId }) => accountId))] } }),
  ]);
  const accountOf = new Map(accounts.map((one) => [one.id, one]));
  const siblingsOf = by(siblings, (one) => `${one.propertyId} ${one.engine}`);
  const tokensOf = by(tokens, (one) => one.enrolmentId);
  const checksOf = by(checks, (one) => one.enrolmentId);
  const ownershipOf = new Map(ownerships.map((one) => [one.enrolmentId, one]));
  const claimOf = new Map(claims.map((one) => [one.enrolmentId, one]));
  const handleOf = new Map(properties.map(({ id, handle }) => [id, handle]));
  return rows.map((row) => {
    const inForce = inOrder(tokensOf.get(row.id) ?? []);
    const current = (checksOf.get(row.id) ?? []).filter((check) =>
      inForce.some((token) => token.id === check.tokenId),
    );
    return assemble(desk, {
      row,
      name: `${handleOf.get(row.propertyId) ?? row.propertyId}@${row.engine}:${row.reach}`,
      profile: profileOf(desk, row.engine),
      account: accountOf.get(row.accountId) ?? null,
      tokens: inForce,
      checks: inOrder(current).map((check) =>
        CheckRow.build({ ...check, seen: Boolean(check.seen) }, { raw: true, isNewRecord: false }),
      ),
      ownership: ownershipOf.get(row.id) ?? null,
      claim: claimOf.get(row.id) ?? null,
      sitemaps: sitemaps.get(row.propertyId) ?? [],
      siblings: new Set([
        row.id,
        ...(siblingsOf.get(`${row.propertyId} ${row.engine}`) ?? []).map(({ id }) => id),
      ]),
    });
  });
}

/** The facts of one enrolment. */
export async function factsOf(desk: Desk, row: EnrolmentRow): Promise<EnrolmentFacts> {
  const [facts] = await enrolmentFacts(desk, [row]);
  if (!facts) throw new Error('an enrolment that is there has facts');
  return facts;
}

/** In the order in which methods are proposed, so that a choice among equals is always the same. */
function inOrder<Row extends { method: Method }>(rows: readonly Row[]): Row[] {
  return [...rows].sort((a, b) => METHODS.indexOf(a.method) - METHODS.indexOf(b.method));
}

function assemble(
  desk: Desk,
  parts: Omit<EnrolmentFacts, 'standing' | 'step'> & {
    sitemaps: readonly SitemapFacts[];
    siblings: ReadonlySet<string>;
  },
): EnrolmentFacts {
  const { row, tokens, checks, ownership, claim, profile, account, sitemaps, name } = parts;
  const held = standing({
    enrolledAt: new Date(row.createdAt),
    tokenAt: tokens[0] ? new Date(tokens[0].issuedAt) : null,
    checks: checks.map((check) => ({
      method: check.method,
      seen: check.seen,
      at: new Date(check.checkedAt),
      since: new Date(check.seenSince),
    })),
    ownership: ownership && ownershipFact(ownership),
  });
  const step = nextStep(
    {
      engineTitle: profile.title,
      byHand: profile.worked.how === 'hand',
      missingSince: row.missingSince == null ? null : new Date(row.missingSince),
      tokenExpiresAt: soonest(tokens),
      suspended: desk.links
        .suspended(row.accountId)
        .flatMap(({ work, until, since }) => (until ? [{ work, until, since }] : [])),
      badge: held.badge,
      badgeSince: held.since,
      lastCheck: lastCheck(checks, ownership?.kind === 'confirmed' ? (ownership.method ?? null) : null),
      openClaim: claim && claim.answeredAt == null ? new Date(claim.askedAt) : null,
      refusal:
        claim?.verdict === 'refused' && claim.answeredAt != null
          ? { at: new Date(claim.answeredAt), reason: claim.reason ?? '' }
          : null,
      takesSitemaps: profile.sitemaps !== undefined,
      sitemaps: sitemaps.map((sitemap) => {
        const submission = sitemap.submissions.find((one) => one.row.enrolmentId === row.id);
        const counts = submission ? countsOf(desk, profile, sitemap, submission) : null;
        // An engine that knows the sitemap by another enrolment need not be told again by this one.
        const known = sitemap.submissions.some((one) => parts.siblings.has(one.row.enrolmentId));
        return {
          url: sitemap.row.url,
          state: sitemap.state,
          submitted: known,
          counts: counts?.state ?? null,
          dueBy: counts?.dueBy ?? null,
          since: new Date(sitemap.reading?.at ?? sitemap.row.createdAt),
        };
      }),
    },
    desk.clock.now(),
  );
  return { row, name, profile, account, tokens, checks, ownership, claim, standing: held, step };
}

/** When the first of the tokens is void; the others follow, since they were got together. */
function soonest(tokens: readonly TokenRow[]): Date | null {
  const times = tokens.flatMap(({ expiresAt }) => (expiresAt == null ? [] : [expiresAt])).sort();
  return times[0] === undefined ? null : new Date(times[0]);
}

function ownershipFact(row: OwnershipRow): Parameters<typeof standing>[0]['ownership'] {
  if (row.kind === 'withdrawn') return { kind: 'withdrawn', at: new Date(row.at), reason: row.reason ?? '' };
  return { kind: 'confirmed', at: new Date(row.at), method: row.method ?? 'meta' };
}

function lastCheck(
  checks: readonly CheckRow[],
  claimed: string | null,
): Parameters<typeof nextStep>[0]['lastCheck'] {
  const facts = checks.map((check) => ({
    method: check.method,
    seen: check.seen,
    at: new Date(check.checkedAt),
    leading: leadingCode(check),
    check,
  }));
  const chosen = decisiveCheck(facts, claimed)?.check;
  if (!chosen) return null;
  return {
    at: new Date(chosen.checkedAt),
    forecast: chosen.forecast,
    visibleAt: chosen.visibleAt == null ? null : new Date(chosen.visibleAt),
    says: chosen.findings.find((one) => one.grade === 'stops')?.says ?? null,
  };
}

function leadingCode(check: CheckRow): string | null {
  return check.findings.find((one) => one.grade === 'stops')?.code ?? null;
}

export function viewStep(step: NextStep): EnrolmentLine['step'] {
  return {
    kind: step.kind,
    says: step.says,
    since: step.since.toISOString(),
    until: step.until?.toISOString() ?? null,
  };
}

/** An enrolment in one line, as the yard shows it. */
export function viewLine(facts: EnrolmentFacts): EnrolmentLine {
  const { row, profile } = facts;
  return {
    id: row.id,
    name: facts.name,
    engine: { id: profile.id, title: profile.title },
    byHand: profile.worked.how === 'hand',
    reach: row.reach,
    target: row.target,
    targetForPeople: targetForPeople(parseTarget(row.reach, row.target)),
    badge: facts.standing.badge,
    badgeSince: facts.standing.since.toISOString(),
    step: viewStep(facts.step),
  };
}
