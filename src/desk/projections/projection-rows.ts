import type { Sitemap, WorkEntry, YardRow } from '../../api/documents.js';
import { addressForPeople, parseAddress } from '../../core/address/web-address.js';
import {
  placeInOrder,
  putOffLast,
  type EngineNamed,
  type Gathered,
  type StepAt,
} from '../../core/worklist/step-groups.js';
import { PUT_OFF, type StepAssignment } from '../../core/worklist/assignment.js';
import { progressOf, type Progress } from '../../core/worklist/progress.js';
import { byHarm, harmOf } from '../../core/worklist/step.js';
import { worstSitemap } from '../../core/sitemap/reading.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import type {
  EntryValues,
  SitemapValues,
  StandingValues,
  YardValues,
} from '../../store/models/projections.js';
import { frontDoorOf } from '../context/front-door.js';
import { needsWork, placesOf } from '../sitemaps/order.js';
import { bestBadge } from '../../core/badge/standing.js';
import { inBrief } from '../sitemaps/view.js';
import { viewLine, viewStep } from '../facts/steps.js';
import { type CoverAt } from '../facts/cover.js';
import type { Facts } from './property-facts.js';

export type Shared = Pick<StandingValues, 'propertyId' | 'clientId' | 'handle'>;

export function standingValues(
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
export const ALL = 'all';

/** Words between blanks, so that each is found whole by a part of the text. */
export function inBlanks(words: readonly string[]): string {
  return ` ${[...new Set(words)].join(' ')} `;
}

export function entryValues(
  property: PropertyRow,
  client: ClientRow,
  one: Gathered,
  at: number,
): EntryValues {
  return {
    place: placeInOrder(one, property.handle, String(at).padStart(3, '0')),
    propertyId: property.id,
    clientId: client.id,
    kind: one.mark.putOff ? PUT_OFF : one.kind,
    acts: one.acts,
    personId: one.mark.person?.id ?? '',
    engines: inBlanks(one.engines.map(({ id }) => id)),
    badges: inBlanks(one.enrolments.flatMap(({ engine, badge }) => [badge, `${engine}:${badge}`])),
    words: searched(property, client, [one.says, one.mark.person?.name ?? ''].join(' ')),
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

function viewMark({ person, putOff }: StepAssignment): Pick<WorkEntry, 'person' | 'putOff'> {
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
    addressForPeople(frontDoorOf(property)),
    client.handle,
    client.name,
    ...more,
  ]
    .join(' ')
    .toLowerCase();
}

export function yardValues(
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
      addressForPeople: addressForPeople(frontDoorOf(property)),
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
    engines: inBlanks([...fits, ...enrolments.map(({ row: { engine } }) => engine)]),
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

export function sitemapValues(shared: Shared, sitemap: Sitemap, at: number): SitemapValues {
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
