import type { Sitemap, WorkEntry, YardRow } from '../../api/documents.js';
import { addressForPeople, addressText, parseAddress } from '../../core/address/web-address.js';
import {
  carrySitemapStep,
  enrolDoorStep,
  enrolStep,
  gather,
  mendSiteStep,
  placeInOrder,
  putOffLast,
  type EngineNamed,
  type FoundStep,
  type Gathered,
  type StepAt,
} from '../../core/worklist/gathered.js';
import { markAt, PUT_OFF, UNMARKED, type StepMark } from '../../core/worklist/mark.js';
import { progressOf, type Progress } from '../../core/worklist/progress.js';
import { byHarm, harmOf } from '../../core/worklist/step.js';
import { worstSitemap } from '../../core/sitemap/reading.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import type {
  EntryValues,
  SitemapValues,
  StandingValues,
  WatchedValues,
  YardValues,
} from '../../store/models/kept-ready.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { planFor } from '../../core/variants/plan.js';
import { heldAbove } from './above.js';
import { carriable } from './carriable.js';
import { enrolmentFacts, type EnrolmentFacts } from './facts.js';
import { marksOf } from './marks.js';
import { reminders, remindsAt, unanswered, type Unanswered } from './reminders.js';
import { fittingEngines } from '../enrolments/fit.js';
import type { Desk } from '../context/desk.js';
import { doorOf } from '../clients/properties.js';
import { needsWork, placesOf } from '../sitemaps/order.js';
import { sitemapFacts, type SitemapFacts } from '../sitemaps/facts.js';
import { casesOf, casesTurnAt, unclearOf } from '../../core/telling/cases.js';
import { changedSince } from '../telling/last-good.js';
import { caseFactsOf } from '../telling/case-facts.js';
import type { CasesOf } from '../telling/cases.js';
import { lastOutage, type Outage } from '../watch/outages.js';
import { bestBadge } from '../../core/badge/standing.js';
import { watchedOf } from '../watch/watched.js';
import { inBrief, viewSitemaps } from '../sitemaps/view.js';
import { viewLine, viewStep, withSteps, type SteppedFacts } from './steps.js';
import { coverByEngine, coveringOf, knownDoor, type CoverAt } from '../variants/cover.js';
import { variantFacts, type VariantFacts } from '../variants/facts.js';

/** Raised whenever what is derived from the same facts becomes another: then everything is derived anew. */
export const DERIVATION = 9;

/** Where one property stands, as it is kept ready; all empty for one that is archived. */
export interface Derived {
  readonly standings: readonly StandingValues[];
  readonly entries: readonly EntryValues[];
  readonly yard: readonly YardValues[];
  readonly sitemaps: readonly SitemapValues[];
  readonly watched: readonly WatchedValues[];
  /** What people are to be told of; this is no table that is kept, but what the record of cases is made by. */
  readonly cases: CasesOf;
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
  const [rows, clients, variantsOf, sitemapsOf, above, outage, markOf, unansweredOf, carriableOf] =
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
      marksOf(desk, ids),
      unanswered(desk, ids),
      carriable(desk, ids),
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
      sitemapToCarry: carriableOf(property.id).sitemapSince,
      sitemaps: viewed.get(property.id) ?? [],
      sitemapFacts: sitemapsOf.get(property.id) ?? [],
    };
    derived.set(property.id, deriveOne(own));
  }
  return derived;
}

interface Facts {
  readonly desk: Desk;
  readonly property: PropertyRow;
  readonly client: ClientRow;
  readonly enrolments: readonly SteppedFacts[];
  readonly variants: VariantFacts;
  /** What is held for other properties and is over this one. */
  readonly above: readonly EnrolmentFacts[];
  /** The newest time in which nothing could be reached from here. */
  readonly outage: Outage | null;
  /** What has changed where tokens are gone, by identifier of the check. */
  readonly changed: ReadonlyMap<string, readonly string[]>;
  readonly markOf: Awaited<ReturnType<typeof marksOf>>;
  /** The letters that nobody has answered, oldest first. */
  readonly unanswered: readonly Unanswered[];
  /** Since when a made sitemap waits to be carried. */
  readonly sitemapToCarry: Date | null;
  readonly sitemaps: readonly Sitemap[];
  readonly sitemapFacts: readonly SitemapFacts[];
}

function deriveOne(facts: Facts): Derived {
  const { desk, property, client, enrolments, variants, above, sitemaps } = facts;
  const fits = fittingEngines(desk, client.audience);
  const covers = coverByEngine(property, variants.roles, enrolments, above);
  const own = enrolments.map((one) => ({ ...stepAt(one), turnsAt: one.turnsAt }));
  const others = wanted(facts, fits, covers);
  const again = reminders(facts.unanswered, [...own, ...others], desk.clock.now());
  const found = [...own, ...[...others, ...again].map((one) => ({ ...one, turnsAt: null }))];
  const steps = found.map((one) => withMark(facts, one));
  const shared = { propertyId: property.id, clientId: client.id, handle: property.handle };
  const caseFacts = caseFactsOf(facts);
  return {
    standings: steps.map((one) => standingValues(shared, one)),
    entries: gather(steps).map((one, at) => entryValues(property, client, one, at)),
    yard: [
      yardValues(
        facts,
        fits,
        covers,
        steps,
        firstOf(casesTurnAt(caseFacts), remindsAt(facts.unanswered, desk.clock.now())),
      ),
    ],
    sitemaps: sitemaps.map((one, at) => sitemapValues(shared, one, at)),
    watched: watchedOf(facts),
    cases: { clientId: client.id, cases: casesOf(caseFacts), unclear: unclearOf(caseFacts), isKept: true },
  };
}

/** The earlier of two times; null where neither is to come. */
function firstOf(one: Date | null, other: Date | null): Date | null {
  return one && other ? (one < other ? one : other) : (one ?? other);
}

/** A step with what people said of it; what is put off turns on its day. */
function withMark<Step extends FoundStep & { readonly turnsAt: Date | null }>(
  { desk, property, markOf }: Facts,
  one: Step,
): Step & { readonly mark: StepMark } {
  const said = markOf({
    propertyId: property.id,
    engine: one.engine?.id ?? ALL,
    enrolmentId: one.enrolment?.id ?? '',
    kind: one.step.kind,
  });
  const mark = said === null ? UNMARKED : markAt(said, desk.clock.now());
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
    ...(facts.sitemapToCarry ? [carrySitemapStep(facts.sitemapToCarry)] : []),
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

type Shared = Pick<StandingValues, 'propertyId' | 'clientId' | 'handle'>;

function standingValues(
  shared: Shared,
  { engine, enrolment, step, turnsAt, mark }: StepAt & { readonly turnsAt: Date | null },
): StandingValues {
  return {
    id: enrolment?.id ?? [shared.propertyId, engine?.id ?? ALL, step.kind].join(' '),
    ...shared,
    engine: engine?.id ?? ALL,
    enrolmentId: enrolment?.id ?? null,
    badge: enrolment?.badge ?? null,
    kind: step.kind,
    harm: harmOf(step.kind),
    acts: step.acts,
    since: step.since.toISOString(),
    until: step.until?.toISOString() ?? null,
    says: step.says,
    turnsAt: turnsAt?.toISOString() ?? null,
    personId: mark.person?.id ?? null,
    putOff: mark.putOff?.until.toISOString() ?? null,
  };
}

/** Stands for the engine where a step is for the property as a whole. */
const ALL = 'all';

/** Words between blanks, so that each is found whole by a part of the text. */
export function inBlanks(words: readonly string[]): string {
  return ` ${[...new Set(words)].join(' ')} `;
}

function entryValues(property: PropertyRow, client: ClientRow, one: Gathered, at: number): EntryValues {
  return {
    place: placeInOrder(one, property.handle, String(at).padStart(3, '0')),
    propertyId: property.id,
    clientId: client.id,
    kind: one.mark.putOff ? PUT_OFF : one.kind,
    acts: one.acts,
    personId: one.mark.person?.id ?? '',
    engines: inBlanks(one.engines.map(({ id }) => id)),
    badges: inBlanks(one.enrolments.flatMap(({ engine, badge }) => [badge, `${engine}:${badge}`])),
    words: searched(property, client, one.says),
    document: JSON.stringify({
      property: {
        id: property.id,
        handle: property.handle,
        client: { id: client.id, handle: client.handle, name: client.name },
      },
      properties: 1,
      engines: [...one.engines],
      enrolments: [...one.enrolments],
      step: {
        kind: one.kind,
        says: one.says,
        acts: one.acts,
        since: one.since.toISOString(),
        until: one.until?.toISOString() ?? null,
      },
      ...viewMark(one.mark),
    } satisfies WorkEntry),
  };
}

function viewMark({ person, putOff }: StepMark): Pick<WorkEntry, 'person' | 'putOff'> {
  return {
    person: person?.name ?? null,
    putOff: putOff && { ...putOff, until: putOff.until.toISOString() },
  };
}

/** What a filter by text looks in. */
function searched(property: PropertyRow, client: ClientRow, ...more: readonly string[]): string {
  return [
    property.handle,
    property.address,
    addressForPeople(doorOf(property)),
    client.handle,
    client.name,
    ...more,
  ]
    .join(' ')
    .toLowerCase();
}

function yardValues(
  facts: Facts,
  fits: readonly string[],
  covers: readonly CoverAt[],
  steps: readonly StepAt[],
  turnsAt: Date | null,
): YardValues {
  const { property, client, enrolments, variants, sitemaps } = facts;
  const [first] = [...steps].sort((a, b) => putOffLast(a, b) || byHarm(a.step, b.step));
  const progress = progressAt(facts, fits);
  const row: YardRow = {
    property: {
      id: property.id,
      handle: property.handle,
      addressForPeople: addressForPeople(doorOf(property)),
      client: { id: client.id, handle: client.handle, name: client.name },
    },
    enrolments: enrolments.map(viewLine),
    fits: [...fits],
    above: facts.above.map(({ name, profile: { id, title } }) => ({
      engine: { id, title },
      enrolment: name,
    })),
    sitemaps: { total: sitemaps.length, state: worstSitemap(sitemaps.map(({ state }) => state)) },
    variants: {
      missed: covers.flatMap(({ engine, missed }) =>
        missed.map((address) => ({ engine, address: addressForPeople(parseAddress(address)) })),
      ),
      stops: variants.stops[0]?.finding.says ?? null,
    },
    step:
      first && first.step.kind !== 'none' && !first.mark.putOff
        ? { ...viewStep(first.step), engine: (first.engine ?? WHOLE).title }
        : null,
    progress,
  };
  return {
    propertyId: property.id,
    clientId: client.id,
    handle: property.handle,
    words: searched(property, client),
    badges: inBlanks(
      enrolments.flatMap(({ row: { engine }, standing: { badge } }) => [badge, engine, `${engine}:${badge}`]),
    ),
    kinds: inBlanks(steps.map(({ step }) => step.kind)),
    document: JSON.stringify(row),
    turnsAt: turnsAt?.toISOString() ?? null,
    done: progress.done,
    stages: progress.total,
  };
}

/** How far its taking on is. */
function progressAt(
  { desk, property, enrolments, variants, above, sitemaps }: Facts,
  fits: readonly string[],
): Progress {
  const submissions = sitemaps.flatMap((one) => one.submissions);
  return progressOf({
    areVariantsJudged: property.variantsAt != null && variants.stops.length === 0,
    engines: fits.flatMap((id) => {
      const profile = desk.book.profiles.get(id);
      if (!profile) return [];
      const badges = enrolments.filter(({ row }) => row.engine === id && row.missingSince == null);
      const own = submissions.filter(({ engine }) => engine.id === id);
      return [
        {
          title: profile.title,
          badge: bestBadge(badges.map(({ standing }) => standing.badge)),
          isAbove: above.some(({ row }) => row.engine === id),
          takesSitemaps: profile.sitemaps !== undefined,
          isSubmitted: own.length > 0,
          isRead: own.some(({ engineReading }) => engineReading?.readAt != null),
          isHouse: profile.worked.how === 'house',
        },
      ];
    }),
  });
}

/** Where a step is for the property as a whole, whatever the engine. */
const WHOLE: EngineNamed = { id: ALL, title: 'All engines' };

function sitemapValues(shared: Shared, sitemap: Sitemap, at: number): SitemapValues {
  const places = placesOf(sitemap, `${shared.handle} ${String(at).padStart(6, '0')}`);
  return {
    sitemapId: sitemap.id,
    propertyId: shared.propertyId,
    clientId: shared.clientId,
    byProperty: places.property,
    byGap: places.gap,
    byAge: places.age,
    byFall: places.fall,
    work: needsWork(sitemap) ? 'yes' : 'no',
    state: sitemap.state,
    counts: inBlanks(sitemap.submissions.flatMap(({ engine, counts }) => [counts.state, engine.id])),
    words: `${shared.handle} ${sitemap.url}`.toLowerCase(),
    document: JSON.stringify(inBrief(sitemap)),
  };
}
