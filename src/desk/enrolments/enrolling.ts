import Joi from 'joi';
import { Op, type Transaction } from 'sequelize';
import type { JobResult, Reach } from '../../api/documents.js';
import { nameFor, parseTarget, targetForPeople, targetText, type Target } from '../../core/address/reach.js';
import { readPaste } from '../../core/address/paste.js';
import { registrableOf } from '../../core/address/host.js';
import { parseAddress } from '../../core/address/web-address.js';
import { factFault, missingFacts } from '../../core/profile/fit.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { Problem } from '../../api/problems.js';
import type { Engine, EnrolRequest } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { accountFor } from '../engines/accounts.js';
import { engineValue } from '../engines/answers.js';
import { fittingEngines, plansFor, type Plans } from './fit.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { atOneSite } from '../context/one-at-a-time.js';
import { engineUnder, nowText, profileOf, type Actor, type Desk } from '../context/desk.js';
import { rememberFacts } from '../clients/properties.js';
import { EXACT, findProperties } from '../context/references.js';
import { takeSubmission } from '../sitemaps/submitting.js';
import { shareAccountTokens } from '../tokens/tokens.js';
import type { KeptReady } from '../standing/kept-ready.js';
import { propertiesToEnrol } from '../standing/worklist.js';
import { lookAtVariants } from '../variants/looking.js';

interface EnrolInput {
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
  kept: KeptReady,
  actor: Actor,
  { missing: _, client, engines = [], ...order }: EnrolOrder,
): Promise<NewPiece<EnrolInput>[]> {
  const pieces: NewPiece<EnrolInput>[] = [];
  for (const engine of engines) {
    const properties = await propertiesToEnrol(desk, kept, {
      engine,
      ...(client === undefined ? {} : { client }),
    });
    if (properties.length === 0) continue;
    pieces.push(...(await piecesFor(desk, actor, { ...order, properties, engines: [engine] }, true)));
  }
  return pieces;
}

/** One piece for each property and engine. An engine's address reach is taken unless another is asked for: every method serves it. */
export async function enrolPieces(
  desk: Desk,
  kept: KeptReady,
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
  requireAnswers(desk, order.facts ?? {});
  const pieces: NewPiece<EnrolInput>[] = [];
  for (const property of properties) {
    if (order.facts) await rememberFacts(desk, actor, property.id, order.facts);
    const plans = isPlanned ? await plansFor(desk, property) : null;
    for (const engine of await enginesFor(desk, order, property)) {
      const profile = profileOf(desk, engine);
      const account = await accountFor(desk, profile.id, order.account);
      for (const { reach, target } of plannedTargets(plans, profile) ?? [
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
function plannedTargets(plans: Plans | null, profile: EngineProfile): Ordered[] | null {
  const lines = plans?.at(profile) ?? [];
  if (lines.length === 0) return null;
  return lines.map(({ target }) => ({ reach: target.reach, target: targetText(target) }));
}

function asOrdered(property: PropertyRow, profile: EngineProfile, order: EnrolOrder): Ordered {
  const reach = order.reach ?? (profile.reaches.includes('address') ? 'address' : 'name');
  requireReach(profile, reach);
  return { reach, target: order.address === undefined ? null : ownAddress(property, order.address) };
}

async function enginesFor(desk: Desk, order: EnrolOrder, property: PropertyRow): Promise<readonly string[]> {
  if (order.engines) return order.engines;
  const { audience } = await ClientRow.findByPk(property.clientId, { rejectOnEmpty: true });
  const fitting = fittingEngines(desk, audience);
  const { reach } = order;
  return reach === undefined
    ? fitting
    : fitting.filter((engine) => profileOf(desk, engine).reaches.includes(reach));
}

/** Refuses facts that nobody asks for, and answers that are not among those that are taken. */
export function requireAnswers(desk: Desk, facts: Readonly<Record<string, string>>): void {
  const wanted = [...desk.book.profiles.values()].flatMap((profile) => profile.facts);
  for (const [id, answer] of Object.entries(facts)) {
    const asking = wanted.filter((fact) => fact.id === id);
    if (asking.length === 0) {
      const known = [...new Set(wanted.map((fact) => fact.id))].join(', ') || 'nothing';
      throw new Problem('fact-not-asked', { fact: id, known });
    }
    for (const fact of asking) {
      const fault = factFault(fact, answer);
      if (fault !== null) throw new Problem('bad-fact', { says: fault });
    }
  }
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
  return targetText({ reach: 'address', address: paste.address });
}

async function targetOf(desk: Desk, actor: Actor, property: PropertyRow, input: EnrolInput): Promise<Target> {
  if (input.target !== null) return parseTarget(input.reach, input.target);
  if (input.reach === 'name') {
    const name = nameFor(parseAddress(property.address));
    if (name === null)
      throw new Problem('folder-by-name', { property: property.handle, host: property.host });
    return { reach: 'name', name };
  }
  if (property.frontDoor == null) await lookAtVariants(desk, actor, property);
  await property.reload();
  if (property.frontDoor != null) return { reach: 'address', address: parseAddress(property.frontDoor) };
  throw new Problem('door-unknown', {
    property: property.handle,
    why: property.frontDoorSays ?? 'it was not looked at yet.',
  });
}

/** What the engine wants to know of the site. Throws Problem `facts-wanted` with what nobody has told yet. */
function factsFor(profile: EngineProfile, property: PropertyRow): Record<string, string> {
  const missing = missingFacts(profile.facts, property.facts);
  if (missing.length > 0) {
    const asked = missing.map(
      ({ title, id, oneOf }) => `${title} (${id}${oneOf ? `: ${oneOf.join(', ')}` : ''})`,
    );
    throw new Problem(
      'facts-wanted',
      {
        engine: profile.title,
        property: property.handle,
        asked: asked.join('; '),
        first: missing[0]?.id ?? 'id',
      },
      { facts: missing },
    );
  }
  return Object.fromEntries(profile.facts.map(({ id }) => [id, property.facts[id] ?? '']));
}

/** One piece of an enrolling job. Doing it again, even after a crash between engine and record, changes nothing. */
function runEnrol(desk: Desk, piece: Piece<EnrolInput>): Promise<JobResult> {
  return atOneSite(piece.input.propertyId, piece.input.engine, () => enrol(desk, piece));
}

async function enrol(desk: Desk, piece: Piece<EnrolInput>): Promise<JobResult> {
  const { input } = piece;
  const property = await PropertyRow.findByPk(input.propertyId, { rejectOnEmpty: true });
  const profile = profileOf(desk, input.engine);
  const account = await accountFor(desk, profile.id, input.accountId);
  const target = await targetOf(desk, piece.actor, property, input);
  const name = `${property.handle}@${profile.id}:${target.reach}`;
  const same = {
    propertyId: property.id,
    engine: profile.id,
    accountId: account.id,
    reach: target.reach,
    target: targetText(target),
  };
  const { accountId, ...anywhere } = same;
  const where = input.named ? { ...anywhere, accountId } : anywhere;
  const there = await EnrolmentRow.findOne({ where: { ...where, endedAt: null } });
  const sitemap = profile.sitemaps?.atRegistration === true ? await sitemapOf(property) : null;
  if (there && there.missingSince == null) {
    // What a crash left undone behind the record of the enrolment itself.
    if (piece.again && sitemap) await takeSubmission(engineUnder(desk, account), desk, there, sitemap);
    const under = there.accountId === accountId ? '' : ' under another account';
    return {
      says: `${name} is enrolled already${under}, for ${targetForPeople(target)}.`,
      stops: false,
      enrolment: name,
    };
  }
  const request: EnrolRequest = {
    target,
    key: piece.itemId,
    facts: factsFor(profile, property),
    sitemap: sitemap?.url ?? null,
  };
  const ref = await enrolledAs(engineUnder(desk, account), profile.id, request, piece.again);
  const { row, shared } = await desk.store.write(async (transaction) => {
    const meanwhile = there
      ? null
      : await EnrolmentRow.findOne({ where: { ...same, endedAt: null }, transaction });
    // Another piece that enrolled it at the same time has written it down already.
    if (meanwhile) return { row: meanwhile, shared: 0 };
    const enrolment = there
      ? await enrolledAgain(desk, transaction, there, ref)
      : await EnrolmentRow.create({ id: newId(), ...same, ref, createdAt: nowText(desk) }, { transaction });
    const again = there ? ' again' : '';
    await note(desk, piece.actor, transaction, {
      kind: there ? 'enrolled.again' : 'enrolled',
      says: `${property.handle} was enrolled${again} at ${profile.title} by ${target.reach}: ${targetForPeople(target)}.`,
      property,
      enrolmentId: enrolment.id,
      details: { ref },
    });
    // With the enrolment itself: what came later would be left out by a crash between the two.
    const tokens =
      profile.token.per === 'account' && !there ? await shareAccountTokens(desk, transaction, enrolment) : 0;
    return { row: enrolment, shared: tokens };
  });
  if (sitemap) await takeSubmission(engineUnder(desk, account), desk, row, sitemap);
  return {
    says: enrolSays(profile, property, target, shared, there !== null),
    stops: false,
    enrolment: name,
  };
}

/** Keys under which an engine is asked once more for what was begun before a crash. */
const MOST_TRIES = 3;

/**
 * Enrols at the engine. What was begun before a crash is asked for under the same key, and answered as the first time: that
 * may be an enrolment that was ended since then, by a later order that came first. Then it is asked for anew.
 * @returns the engine's reference
 */
async function enrolledAs(
  engine: Engine,
  id: string,
  request: EnrolRequest,
  again: boolean,
): Promise<string> {
  for (let time = 1; ; time += 1) {
    const key = time === 1 ? request.key : `${request.key}-${String(time)}`;
    const { ref } = engineValue(await engine.enrol({ ...request, key }));
    if (!again || time === MOST_TRIES) return ref;
    const ended = await EnrolmentRow.count({ where: { engine: id, ref, endedAt: { [Op.ne]: null } } });
    const alive = await EnrolmentRow.count({ where: { engine: id, ref, endedAt: null } });
    if (ended === 0 || alive > 0) return ref;
  }
}

function enrolSays(
  profile: EngineProfile,
  property: PropertyRow,
  target: Target,
  shared: number,
  isAgain: boolean,
): string {
  const where = targetForPeople(target);
  if (profile.worked.how === 'hand')
    return `Noted. Now register ${where} on ${profile.title}’s own pages, and paste the token that it shows: “token ${property.handle}@${profile.id} --paste …”.`;
  const done = `Enrolled${isAgain ? ' again' : ''} at ${profile.title} by ${target.reach}: ${where}.`;
  return shared > 0 ? `${done} Its token is the one of the account, known already.` : done;
}

/** The same enrolment under the engine's new identifier. What it had been told of sitemaps is gone with the old one. */
async function enrolledAgain(
  desk: Desk,
  transaction: Transaction,
  row: EnrolmentRow,
  ref: string,
): Promise<EnrolmentRow> {
  await SubmissionRow.update(
    { withdrawnAt: nowText(desk) },
    { where: { enrolmentId: row.id, withdrawnAt: null }, transaction },
  );
  return row.update({ ref, missingSince: null }, { transaction });
}

/** The sitemap to name at registration: an index before all others, else the first that was noted. */
async function sitemapOf(property: PropertyRow): Promise<SitemapRow | null> {
  return SitemapRow.findOne({ where: { propertyId: property.id }, order: ['createdAt'] });
}

export const enrolWork = anyWork<EnrolInput>({
  kind: 'enrol',
  input: Joi.object<EnrolInput, true>({
    propertyId: Joi.string().required(),
    engine: Joi.string().required(),
    accountId: Joi.string().required(),
    named: Joi.boolean().required(),
    reach: Joi.string().valid('name', 'address').required(),
    target: Joi.string().allow(null).required(),
  }),
  run: runEnrol,
});
