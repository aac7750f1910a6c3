import type { WorkItem, Yard, YardRow } from '../api/documents.js';
import { addressForPeople, parseAddress } from '../core/address/web-address.js';
import { byHarm, type NextStep } from '../core/worklist/next-step.js';
import { ClientRow, PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow } from '../store/models/enrolments.js';
import { enrolmentFacts } from './facts.js';
import { sitemapFacts } from './sitemap/facts.js';
import { viewLine, viewStep, withSteps, type SteppedFacts } from './steps.js';
import { fittingEngines } from './fit.js';
import { coverByEngine, variantSteps, type CoverAt } from './variants/cover.js';
import { variantFacts, type VariantFacts } from './variants/facts.js';
import type { Desk } from './parts.js';
import { doorOf, propertyRows, type PropertyQuery } from './properties.js';
import { findClient, findProperty } from './refs.js';

interface Standing {
  readonly property: PropertyRow;
  readonly client: ClientRow;
  readonly enrolments: readonly SteppedFacts[];
  /** The engines that matter to its audience. */
  readonly fits: readonly string[];
  readonly steps: readonly WorkStep[];
  readonly variants: VariantFacts;
  readonly covers: readonly CoverAt[];
}

/** Where a step is for the property as a whole, whatever the engine. */
const ALL_ENGINES = { id: 'all', title: 'All engines' };

interface WorkStep {
  readonly engine: { readonly id: string; readonly title: string };
  readonly facts: SteppedFacts | null;
  readonly step: NextStep;
}

/** Where properties stand, with a fixed number of queries for all of them. */
async function standings(desk: Desk, properties: readonly PropertyRow[]): Promise<Standing[]> {
  const ids = properties.map(({ id }) => id);
  const [rows, clients, variantsOf] = await Promise.all([
    EnrolmentRow.findAll({
      where: { propertyId: ids, endedAt: null },
      order: ['engine', 'reach', 'createdAt'],
    }),
    ClientRow.findAll({ where: { id: [...new Set(properties.map(({ clientId }) => clientId))] } }),
    variantFacts(desk, ids),
  ]);
  const clientOf = new Map(clients.map((client) => [client.id, client]));
  const ofProperty = new Map<string, SteppedFacts[]>();
  for (const facts of await withSteps(desk, await enrolmentFacts(desk, rows))) {
    const list = ofProperty.get(facts.row.propertyId) ?? [];
    list.push(facts);
    ofProperty.set(facts.row.propertyId, list);
  }
  return properties.flatMap((property) => {
    const client = clientOf.get(property.clientId);
    const enrolments = ofProperty.get(property.id) ?? [];
    if (!client) return [];
    const fits = fittingEngines(desk, client.audience);
    const variants = variantsOf(property.id);
    const covers = coverByEngine(property, variants.roles, enrolments);
    const steps = [
      ...stepsOf(desk, property, enrolments, fits),
      ...variantSteps(property, variants, covers).map(({ engine, step }) => ({
        engine: engine ?? ALL_ENGINES,
        facts: null,
        step,
      })),
    ].sort((a, b) => byHarm(a.step, b.step));
    return [{ property, client, enrolments, fits, steps, variants, covers }];
  });
}

/** The next step at every engine that matters: of each enrolment, and to enrol where there is none yet. */
function stepsOf(
  desk: Desk,
  property: PropertyRow,
  enrolments: readonly SteppedFacts[],
  fits: readonly string[],
): WorkStep[] {
  const steps = enrolments.map((facts): WorkStep => ({
    engine: { id: facts.profile.id, title: facts.profile.title },
    facts,
    step: facts.step,
  }));
  for (const profile of desk.book.profiles.values()) {
    if (!fits.includes(profile.id) || enrolments.some(({ row }) => row.engine === profile.id)) continue;
    const step: NextStep = {
      kind: 'enrol',
      says: `Enrol ${property.handle} with ${profile.title}.`,
      since: new Date(property.createdAt),
      until: null,
    };
    steps.push({ engine: { id: profile.id, title: profile.title }, facts: null, step });
  }
  return steps;
}

/** One page of the yard: properties by handle, with their enrolments at every engine. */
export async function readYard(desk: Desk, query: PropertyQuery): Promise<Yard> {
  const { rows, next } = await propertyRows(query);
  const sitemaps = await sitemapFacts(
    desk,
    rows.map(({ id }) => id),
  );
  const items = (await standings(desk, rows)).map(
    ({ property, client, enrolments, fits, steps, variants, covers }): YardRow => {
      const own = sitemaps.get(property.id) ?? [];
      const first = steps[0];
      const state =
        (['unreachable', 'flawed', 'unread', 'clean'] as const).find((one) =>
          own.some((sitemap) => sitemap.state === one),
        ) ?? 'none';
      return {
        property: {
          id: property.id,
          handle: property.handle,
          addressForPeople: addressForPeople(doorOf(property)),
          client: { id: client.id, handle: client.handle, name: client.name },
        },
        enrolments: enrolments.map(viewLine),
        fits: [...fits],
        sitemaps: { total: own.length, state },
        variants: {
          missed: covers.flatMap(({ engine, missed }) =>
            missed.map((address) => ({ engine, address: addressForPeople(parseAddress(address)) })),
          ),
          stops: variants.stops[0]?.finding.says ?? null,
        },
        step:
          first && first.step.kind !== 'none'
            ? { ...viewStep(first.step), engine: first.engine.title }
            : null,
      };
    },
  );
  return { engines: columnsFor(desk, items), items, next };
}

/** The engines that matter on a page: fitting or enrolled with, and those that show the results of such a one. */
function columnsFor(desk: Desk, rows: readonly YardRow[]): Yard['engines'] {
  const matters = (id: string) =>
    rows.some(
      ({ fits, enrolments }) => fits.includes(id) || enrolments.some(({ engine }) => engine.id === id),
    );
  const own = [...desk.book.profiles.values()].filter(({ id }) => rows.length === 0 || matters(id));
  const borrowing = [...desk.book.borrowed.values()].filter(({ worked }) =>
    own.some(({ id }) => id === worked.from),
  );
  return [
    ...own.map(({ id, title }) => ({ id, title, from: null })),
    ...borrowing.map(({ id, title, worked }) => ({
      id,
      title,
      from: { id: worked.from, title: desk.book.titleOf(worked.from) },
    })),
  ];
}

/** Everything that can be done or is waited for, the worst and oldest harm first. */
export async function readWorklist(
  desk: Desk,
  query: { client?: string; property?: string },
): Promise<{ items: WorkItem[] }> {
  const properties =
    query.property !== undefined
      ? [await findProperty(query.property)]
      : await PropertyRow.findAll({
          where: {
            archivedAt: null,
            ...(query.client === undefined ? {} : { clientId: (await findClient(query.client)).id }),
          },
        });
  const all = (await standings(desk, properties)).flatMap(({ property, client, steps }) =>
    steps.map((step) => ({ property, client, ...step })),
  );
  const items = all
    .filter(({ step }) => step.kind !== 'none')
    .sort((a, b) => byHarm(a.step, b.step) || a.property.handle.localeCompare(b.property.handle))
    .map(({ property, client, engine, facts, step }): WorkItem => ({
      property: {
        id: property.id,
        handle: property.handle,
        client: { id: client.id, handle: client.handle, name: client.name },
      },
      engine,
      enrolment: facts && { id: facts.row.id, name: facts.name },
      badge: facts?.standing.badge ?? null,
      step: viewStep(step),
    }));
  return { items };
}
