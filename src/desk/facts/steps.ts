import { hindranceOf } from '../../core/badge/visibility.js';
import { covers, parseScope, scopeForPeople } from '../../core/address/reach.js';
import type { EnrolmentLine } from '../../api/documents.js';
import { worstOf } from '../../core/sitemap/reading.js';
import { nextStep, turnsAt } from '../../core/worklist/next-step.js';
import type { StepFacts } from '../../core/worklist/step-facts.js';
import type { NextStep } from '../../core/worklist/step.js';
import { VariantRow } from '../../store/models/variants.js';
import { EnrolmentRow, type CheckRow, type TokenRow } from '../../store/models/enrolments.js';
import { publishable, type Publishable } from './publishable.js';
import type { EnrolmentFacts } from './enrolment-facts.js';
import { by } from '../context/newest.js';
import type { Desk } from '../context/desk.js';
import { countsOf, sitemapFacts, type SitemapFacts } from './sitemap-facts.js';
import { tellingCheck, wasTried } from '../../core/worklist/decisive-check.js';

/** An enrolment with the one thing to do for it now. */
export interface SteppedFacts extends EnrolmentFacts {
  readonly step: NextStep;
  /** When the step may change by time alone; null where nothing is waited for. */
  readonly turnsAt: Date | null;
}

/**
 * The next step of each enrolment. Costs a fixed number of queries more than the facts alone.
 * @param known the sitemaps of their properties, where they are known
 * @param carried what can be carried of their properties, where that is known
 */
export async function withSteps(
  desk: Desk,
  all: readonly EnrolmentFacts[],
  known?: ReadonlyMap<string, readonly SitemapFacts[]>,
  carried?: (propertyId: string) => Publishable,
): Promise<SteppedFacts[]> {
  if (all.length === 0) return [];
  const properties = [...new Set(all.map(({ row }) => row.propertyId))];
  const [sitemaps, carriedOf, enrolments, leading] = await Promise.all([
    known ?? sitemapFacts(desk, properties),
    carried ?? publishable(desk, properties),
    EnrolmentRow.findAll({
      where: { propertyId: properties, endedAt: null },
      attributes: ['id', 'propertyId', 'engine'],
    }),
    VariantRow.findAll({
      where: { propertyId: properties, role: 'leads', endedAt: null },
      attributes: ['propertyId', 'address'],
    }),
  ]);
  const siblings = by(enrolments, (one) => `${one.propertyId} ${one.engine}`);
  const leadsOnly = new Set(leading.map(({ propertyId, address }) => `${propertyId} ${address}`));
  return all.map((facts) => {
    const { row } = facts;
    const isLeading = row.reach === 'address' && leadsOnly.has(`${row.propertyId} ${row.target}`);
    const others = (siblings.get(`${row.propertyId} ${row.engine}`) ?? []).map(({ id }) => id);
    const siblingIds = new Set([row.id, ...others]);
    const own = sitemaps.get(row.propertyId) ?? [];
    const { methods } = carriedOf(row.propertyId);
    const needed = { ...stepFacts(desk, facts, own, siblingIds, isLeading), carried: methods };
    const now = desk.clock.now();
    return { ...facts, step: nextStep(needed, now), turnsAt: turnsAt(needed, now) };
  });
}

function stepFacts(
  desk: Desk,
  { row, tokens, checks, ownership, claim, profile, standing: held }: EnrolmentFacts,
  sitemaps: readonly SitemapFacts[],
  siblings: ReadonlySet<string>,
  leadsOnly: boolean,
): Omit<StepFacts, 'carried'> {
  const target = parseScope(row.reach, row.target);
  const heldBy = ownership?.kind === 'confirmed' ? (ownership.method ?? null) : null;
  return {
    engineTitle: profile.title,
    byHand: profile.worked.how === 'hand',
    missingSince: row.missingSince == null ? null : new Date(row.missingSince),
    tokenExpiresAt: soonest(tokens),
    suspended: desk.links
      .suspended(row.accountId)
      .flatMap(({ work, until, since }) => (until ? [{ work, until, since }] : [])),
    endAsked: row.endAskedAt == null ? null : new Date(row.endAskedAt),
    methods: tokens.map(({ method }) => method),
    badge: held.badge,
    badgeSince: held.since,
    heldBy,
    lastCheck: lastCheck(checks, heldBy),
    openClaim: claim && claim.answeredAt == null ? new Date(claim.askedAt) : null,
    refusal:
      claim?.verdict === 'refused' && claim.answeredAt != null
        ? { at: new Date(claim.answeredAt), reason: claim.reason ?? '' }
        : null,
    takesSitemaps: profile.sitemaps !== undefined,
    leadsOnly,
    sitemaps: sitemaps
      .filter((one) => covers(target, one.row.url))
      .map((sitemap) => {
        const submission = sitemap.submissions.find((one) => one.row.enrolmentId === row.id);
        const counts = submission ? countsOf(desk, profile, sitemap, submission) : null;
        return {
          url: sitemap.row.url,
          state: sitemap.state,
          worst: worstOf(sitemap.reading?.findings ?? [])?.says ?? null,
          // An engine that knows the sitemap by another enrolment need not be told again by this one.
          withdrawn: sitemap.withdrawn,
          submitted: sitemap.submissions.some((one) => siblings.has(one.row.enrolmentId)),
          counts: counts?.state ?? null,
          dueBy: counts?.dueBy ?? null,
          since: new Date(sitemap.reading?.at ?? sitemap.row.createdAt),
          tooManyBy: submission?.tooMany?.by ?? null,
          apartSince: counts?.since ?? null,
        };
      }),
  };
}

/** When the first of the tokens is void; the others follow, since they were got together. */
function soonest(tokens: readonly TokenRow[]): Date | null {
  const times = tokens.flatMap(({ expiresAt }) => (expiresAt == null ? [] : [expiresAt])).sort();
  return times[0] === undefined ? null : new Date(times[0]);
}

function lastCheck(checks: readonly CheckRow[], claimed: string | null): StepFacts['lastCheck'] {
  const chosen = tellingCheck(checks, claimed);
  if (!chosen) return null;
  const stops = chosen.findings.find((one) => one.grade === 'stops');
  return {
    at: new Date(chosen.checkedAt),
    forecast: chosen.forecast,
    visibleAt: chosen.visibleAt == null ? null : new Date(chosen.visibleAt),
    says: stops?.says ?? null,
    tried: wasTried(stops?.code ?? null),
    hindered: hindranceBy(chosen),
  };
}

function hindranceBy({
  seen,
  findings,
  seenSince,
}: CheckRow): NonNullable<StepFacts['lastCheck']>['hindered'] {
  const by = seen ? null : hindranceOf(findings);
  const [first] = findings;
  return by && first ? { by, says: first.says, since: new Date(seenSince) } : null;
}

export function viewStep(step: NextStep): EnrolmentLine['step'] {
  return {
    kind: step.kind,
    says: step.says,
    acts: step.acts,
    since: step.since.toISOString(),
    until: step.until?.toISOString() ?? null,
  };
}

/** An enrolment in one line, as the yard shows it. */
export function viewLine(facts: SteppedFacts): EnrolmentLine {
  const { row, profile } = facts;
  return {
    id: row.id,
    name: facts.name,
    engine: { id: profile.id, title: profile.title },
    byHand: profile.worked.how === 'hand',
    reach: row.reach,
    target: row.target,
    targetForPeople: scopeForPeople(parseScope(row.reach, row.target)),
    badge: facts.standing.badge,
    badgeSince: facts.standing.since.toISOString(),
    step: viewStep(facts.step),
  };
}
