import { addressForPeople, addressText } from '../../core/address/web-address.js';
import {
  publishSitemapStep,
  enrolDoorStep,
  enrolStep,
  gather,
  mendSiteStep,
  renewStep,
  type FoundStep,
} from '../../core/worklist/step-groups.js';
import { assignmentAt, UNASSIGNED, type StepAssignment } from '../../core/worklist/assignment.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import type {
  EntryValues,
  SitemapValues,
  StandingValues,
  WatchedValues,
  YardValues,
} from '../../store/models/projections.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { planFor } from '../../core/variants/plan.js';
import { heldAbove } from '../facts/covering.js';
import { publishable } from '../facts/publishable.js';
import { enrolmentFacts } from '../facts/enrolment-facts.js';
import { assignmentsOf } from './assignments.js';
import { reminders, remindsAt, unanswered } from './reminders.js';
import { fittingEngines } from '../facts/fit.js';
import type { Desk } from '../context/desk.js';
import { linkAnswers } from './link-answers.js';
import { sitemapFacts } from '../facts/sitemap-facts.js';
import type { AlertNow } from '../../core/alerts/alert.js';
import { alertsOf, alertsTurnAt, unclearOf } from '../../core/alerts/alerts.js';
import { changedSince } from '../alerts/last-good.js';
import { alertFactsOf } from '../alerts/alert-facts.js';
import type { AlertsOf } from '../alerts/alerts.js';
import { lastOutage } from '../outages/outages.js';
import { watchedOf } from '../facts/watched.js';
import { viewSitemaps } from '../sitemaps/view.js';
import { withSteps, type SteppedFacts } from '../facts/steps.js';
import { coverByEngine, coveringOf, knownDoor, type CoverAt } from '../facts/cover.js';
import { variantFacts, type VariantFacts } from '../facts/variant-facts.js';
import type { Facts } from './property-facts.js';
import { ALL, entryValues, sitemapValues, standingValues, yardValues } from './projection-rows.js';

/** Raised whenever what is derived from the same facts becomes another: then everything is derived anew. */
export const DERIVATION = 14;

/** Where one property stands, as it is kept ready; all empty for one that is archived. */
export interface Derived {
  readonly standings: readonly StandingValues[];
  readonly entries: readonly EntryValues[];
  readonly yard: readonly YardValues[];
  readonly sitemaps: readonly SitemapValues[];
  readonly watched: readonly WatchedValues[];
  /** What people are to be told of; this is no table that is kept, but what the record of cases is made by. */
  readonly cases: AlertsOf;
}

const NOTHING: Derived = {
  standings: [],
  entries: [],
  yard: [],
  sitemaps: [],
  watched: [],
  cases: { clientId: '', cases: [], unclear: [], isKept: false },
};

/** Derives where properties stand from their facts alone, with a fixed number of queries for all of them. */
export async function derive(desk: Desk, propertyIds: readonly string[]): Promise<Map<string, Derived>> {
  const properties = await PropertyRow.findAll({ where: { id: [...propertyIds], archivedAt: null } });
  const ids = properties.map(({ id }) => id);
  const [rows, clients, variantsOf, sitemapsOf, above, outage, markOf, unansweredOf, carriableOf, heardAt] =
    await Promise.all([
      EnrolmentRow.findAll({
        where: { propertyId: ids, endedAt: null },
        order: ['engine', 'reach', 'createdAt', 'id'],
      }),
      ClientRow.findAll({ where: { id: [...new Set(properties.map(({ clientId }) => clientId))] } }),
      variantFacts(desk, ids),
      sitemapFacts(desk, ids),
      heldAbove(desk, properties),
      lastOutage(desk),
      assignmentsOf(desk, ids),
      unanswered(desk, ids),
      publishable(desk, ids),
      linkAnswers(desk, ids),
    ]);
  const clientOf = new Map(clients.map((client) => [client.id, client]));
  // Of an engine whose profile was taken away nothing can be said until it is back.
  const known = rows.filter(({ engine }) => desk.book.profiles.has(engine));
  const all = await withSteps(desk, await enrolmentFacts(desk, known), sitemapsOf, carriableOf);
  const [viewed, changed] = await Promise.all([
    viewSitemaps(desk, properties, all, sitemapsOf),
    changedSince(desk, all),
  ]);
  const derived = new Map(propertyIds.map((id) => [id, NOTHING]));
  for (const property of properties) {
    const client = clientOf.get(property.clientId);
    if (!client) continue;
    const own = {
      desk,
      property,
      client,
      enrolments: all.filter(({ row }) => row.propertyId === property.id),
      variants: variantsOf(property.id),
      above: above(property),
      outage,
      changed,
      markOf,
      unanswered: unansweredOf(property.id),
      sitemapToPublish: carriableOf(property.id).sitemapSince,
      sitemaps: viewed.get(property.id) ?? [],
      sitemapFacts: sitemapsOf.get(property.id) ?? [],
      heardAt: heardAt.get(property.id) ?? null,
    };
    derived.set(property.id, deriveOne(own));
  }
  return derived;
}

function deriveOne(facts: Facts): Derived {
  const { desk, property, client, enrolments, variants, above, sitemaps } = facts;
  const fits = fittingEngines(desk, client.audience);
  const covers = coverByEngine(property, variants.roles, enrolments, above);
  const own = enrolments.map((one) => ({ ...stepAt(one), turnsAt: one.turnsAt }));
  const others = wanted(facts, fits, covers);
  const caseFacts = alertFactsOf(facts);
  const cases = alertsOf(caseFacts);
  others.push(...toRenew(cases));
  const again = reminders(facts.unanswered, [...own, ...others], desk.clock.now());
  const found = [...own, ...[...others, ...again].map((one) => ({ ...one, turnsAt: null }))];
  const steps = found.map((one) => withMark(facts, one));
  const shared = { propertyId: property.id, clientId: client.id, handle: property.handle };
  return {
    standings: steps.map((one) => standingValues(shared, one)),
    entries: gather(steps).map((one, at) => entryValues(property, client, one, at)),
    yard: [
      yardValues(
        facts,
        fits,
        covers,
        steps,
        firstOf(alertsTurnAt(caseFacts), remindsAt(facts.unanswered, desk.clock.now())),
      ),
    ],
    sitemaps: sitemaps.map((one, at) => sitemapValues(shared, one, at)),
    watched: watchedOf(facts),
    cases: { clientId: client.id, cases, unclear: unclearOf(caseFacts), isKept: true },
  };
}

/** What ends unless it is renewed is a step as well, and in every list of what is to be done. */
function toRenew(cases: readonly AlertNow[]): FoundStep[] {
  const ending = cases.filter(({ kind }) => kind === 'certificate' || kind === 'name-ends');
  const [first] = ending;
  return first ? [renewStep(ending.map(({ says }) => says).join(' '), first.since)] : [];
}

/** The earlier of two times; null where neither is to come. */
function firstOf(one: Date | null, other: Date | null): Date | null {
  return one && other ? (one < other ? one : other) : (one ?? other);
}

/** A step with what people said of it; what is put off turns on its day. */
function withMark<Step extends FoundStep & { readonly turnsAt: Date | null }>(
  { desk, property, markOf }: Facts,
  one: Step,
): Step & { readonly mark: StepAssignment } {
  const said = markOf({
    propertyId: property.id,
    engine: one.engine?.id ?? ALL,
    enrolmentId: one.enrolment?.id ?? '',
    kind: one.step.kind,
  });
  const mark = said === null ? UNASSIGNED : assignmentAt(said, desk.clock.now());
  const until = mark.putOff?.until ?? null;
  const turnsAt = until && (one.turnsAt === null || until < one.turnsAt) ? until : one.turnsAt;
  return { ...one, mark, turnsAt };
}

function stepAt({ row, name, profile, standing, step }: SteppedFacts): FoundStep {
  return {
    engine: { id: profile.id, title: profile.title },
    enrolment: {
      id: row.id,
      name,
      engine: row.engine,
      badge: standing.badge,
      byHand: profile.worked.how === 'hand',
    },
    step,
  };
}

/** What is to be done where there is no enrolment: to enrol, to enrol the front door, to mend the site. */
function wanted(facts: Facts, fits: readonly string[], covers: readonly CoverAt[]): FoundStep[] {
  const { desk, property, enrolments, variants } = facts;
  const takenOn = new Date(property.createdAt);
  const without = [...desk.book.profiles.values()].filter(
    (profile) =>
      fits.includes(profile.id) &&
      !enrolments.some(({ row }) => row.engine === profile.id) &&
      isWorthEnrolling(facts, profile),
  );
  return [
    ...variants.stops.slice(0, 1).map(({ finding, since }) => mendSiteStep(finding.says, new Date(since))),
    ...doorSteps(property, variants, covers),
    ...(facts.sitemapToPublish ? [publishSitemapStep(facts.sitemapToPublish)] : []),
    ...without.map(({ id, title }) => enrolStep(property.handle, { id, title }, takenOn)),
  ];
}

/** Whether the registration plan of an engine has something to be made there; nobody can say while the front door is not known. */
function isWorthEnrolling({ property, variants, above }: Facts, profile: EngineProfile): boolean {
  const door = knownDoor(property);
  if (door === null) return variants.stops.length === 0;
  const ground = { door, variants: variants.roles, zone: property.access.zone };
  const there = above.filter(({ row }) => row.engine === profile.id).map(coveringOf);
  return planFor(profile, ground, there).some((line) => line.there === null);
}

/** To enrol the front door, where no enrolment at an engine covers it. */
function doorSteps(property: PropertyRow, { move }: VariantFacts, covers: readonly CoverAt[]): FoundStep[] {
  const door = knownDoor(property);
  if (door === null) return [];
  const at = addressText(door);
  const hasMoved = move?.toAddress === at;
  const since = new Date(hasMoved ? move.at : (property.variantsAt ?? property.createdAt));
  return covers
    .filter(({ uncovered }) => uncovered.includes(at))
    .map(({ engine }) => enrolDoorStep(addressForPeople(door), hasMoved, engine, since));
}
