import type { Reach } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { registrableOf } from '../../core/address/host.js';
import { readPaste } from '../../core/address/paste.js';
import { scopeText } from '../../core/address/reach.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import type { AccountRow } from '../../store/models/accounts.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { rememberFacts } from '../clients/properties.js';
import { answersTaken } from '../engines/facts-asked.js';
import { profileOf, type Actor, type Desk } from '../context/desk.js';
import { EXACT, findProperties } from '../context/references.js';
import { accountFor } from '../engines/accounts.js';
import type { NewPiece } from '../jobs/work.js';
import type { Projections } from '../projections/projections.js';
import { propertiesToEnrol } from '../projections/worklist.js';
import { fittingEngines, plansFor, type Plans } from '../facts/fit.js';
import { given } from '../../api/given.js';

/** One enrolment that is to be made. */
export interface EnrolInput {
  readonly propertyId: string;
  readonly engine: string;
  readonly accountId: string;
  /** Whether the account was asked for, and not merely the usual one. */
  readonly named: boolean;
  readonly reach: Reach;
  /** The target by the registration plan or given by hand; null for the front door or the name, as they are by then. */
  readonly target: string | null;
}

export interface EnrolOrder {
  readonly properties?: string[];
  /** In place of properties: all that should be enrolled with the engines and are not, of a client where one is named. */
  readonly missing?: true;
  readonly client?: string;
  readonly engines?: string[];
  /** In place of engines: all that matter to the client's audience. */
  readonly fitting?: boolean;
  readonly reach?: Reach;
  readonly address?: string;
  readonly account?: string;
  readonly facts?: Record<string, string>;
}

/** The pieces of an order for whatever is missing at its engines: each property by its registration plan. */
async function missingPieces(
  desk: Desk,
  kept: Projections,
  actor: Actor,
  { missing: _, client, engines = [], ...order }: EnrolOrder,
): Promise<NewPiece<EnrolInput>[]> {
  const pieces: NewPiece<EnrolInput>[] = [];
  for (const engine of engines) {
    const properties = await propertiesToEnrol(desk, kept, {
      engine,
      ...given({ client }),
    });
    if (properties.length === 0) continue;
    pieces.push(...(await piecesFor(desk, actor, { ...order, properties, engines: [engine] }, true)));
  }
  return pieces;
}

/** One piece for each property and engine. An engine's address reach is taken unless another is asked for: every method serves it. */
export async function enrolPieces(
  desk: Desk,
  kept: Projections,
  actor: Actor,
  order: EnrolOrder,
): Promise<NewPiece<EnrolInput>[]> {
  return order.missing === true ? missingPieces(desk, kept, actor, order) : piecesFor(desk, actor, order);
}

async function piecesFor(
  desk: Desk,
  actor: Actor,
  order: EnrolOrder,
  isPlanned = isByPlan(order),
): Promise<NewPiece<EnrolInput>[]> {
  const properties = await findProperties(order.properties ?? [], EXACT);
  if (order.address !== undefined && properties.length > 1) {
    throw new Problem('address-for-many');
  }
  const facts = answersTaken(desk, order.facts ?? {});
  const plans = isPlanned ? await plansFor(desk, properties) : new Map<string, Plans>();
  const engines = await enginesFor(desk, order, properties);
  const accounts = new Map<string, AccountRow>();
  const pieces: NewPiece<EnrolInput>[] = [];
  for (const property of properties) {
    if (order.facts) await rememberFacts(desk, actor, property.id, facts);
    for (const engine of engines(property)) {
      const profile = profileOf(desk, engine);
      const account = accounts.get(profile.id) ?? (await accountFor(desk, profile.id, order.account));
      accounts.set(profile.id, account);
      for (const { reach, target } of plannedTargets(plans.get(property.id), profile) ?? [
        asOrdered(property, profile, order),
      ]) {
        const work: EnrolInput = {
          propertyId: property.id,
          engine: profile.id,
          accountId: account.id,
          named: order.account !== undefined,
          reach,
          target,
        };
        pieces.push({
          subject: `${property.handle}@${profile.id}:${reach}`,
          input: work,
          engine: profile.id,
        });
      }
    }
  }
  return pieces;
}

/** Fitting engines are enrolled with by the registration plan, unless the one who asks says how. */
function isByPlan({ fitting, reach, address }: EnrolOrder): boolean {
  return fitting === true && reach === undefined && address === undefined;
}

type Ordered = Pick<EnrolInput, 'reach' | 'target'>;

/** What the plan has for an engine, what is there already included; null where there is none to go by. */
function plannedTargets(plans: Plans | undefined, profile: EngineProfile): Ordered[] | null {
  const lines = plans?.at(profile) ?? [];
  if (lines.length === 0) return null;
  return lines.map(({ target }) => ({ reach: target.reach, target: scopeText(target) }));
}

function asOrdered(property: PropertyRow, profile: EngineProfile, order: EnrolOrder): Ordered {
  const reach = order.reach ?? (profile.reaches.includes('address') ? 'address' : 'name');
  requireReach(profile, reach);
  return { reach, target: order.address === undefined ? null : ownAddress(property, order.address) };
}

/** Which engines each property is to be enrolled with. */
async function enginesFor(
  desk: Desk,
  { engines, reach }: EnrolOrder,
  properties: readonly PropertyRow[],
): Promise<(property: PropertyRow) => readonly string[]> {
  if (engines) return () => engines;
  const clients = await ClientRow.findAll({
    where: { id: [...new Set(properties.map(({ clientId }) => clientId))] },
  });
  const takes = (engine: string) => reach === undefined || profileOf(desk, engine).reaches.includes(reach);
  const fitting = new Map(
    clients.map(({ id, audience }) => [id, fittingEngines(desk, audience).filter(takes)]),
  );
  return ({ clientId }) => fitting.get(clientId) ?? [];
}

function requireReach(profile: EngineProfile, reach: Reach): void {
  if (profile.reaches.includes(reach)) return;
  throw new Problem('reach-not-taken', { engine: profile.title, reach, taken: profile.reaches.join(' or ') });
}

function ownAddress(property: PropertyRow, text: string): string {
  const paste = readPaste(text);
  if (paste.kind === 'refused') throw new Problem('bad-address', { says: paste.says }, { why: paste.why });
  // After a move to another domain the property lives there.
  const own = [property.host, ...(property.frontDoor == null ? [] : [new URL(property.frontDoor).hostname])];
  if (!own.map(registrableOf).includes(registrableOf(paste.address.host))) {
    throw new Problem('not-of-property', {
      host: paste.address.host,
      property: property.handle,
      own: property.host,
    });
  }
  return scopeText({ reach: 'address', address: paste.address });
}
