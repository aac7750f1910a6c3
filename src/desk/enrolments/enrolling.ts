import Joi from 'joi';
import { Op, type Transaction } from 'sequelize';
import type { JobResult } from '../../api/documents.js';
import { nameFor, parseScope, scopeForPeople, scopeText, type Scope } from '../../core/address/reach.js';
import { parseAddress } from '../../core/address/web-address.js';
import { missingFacts } from '../../core/profile/fit.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { Problem } from '../../api/problems.js';
import type { Engine, EnrolRequest } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { accountFor } from '../engines/accounts.js';
import { engineValue } from '../engines/answers.js';
import type { EnrolInput } from './ordering.js';
import { nameOf } from '../context/names.js';
import { note } from '../context/journal.js';
import { anyWork, type Piece } from '../jobs/work.js';
import { atOneSite } from '../context/one-at-a-time.js';
import { engineUnder, nowText, profileOf, type Actor, type Desk } from '../context/desk.js';
import { takeSubmission } from '../sitemaps/submitting.js';
import { shareAccountTokens } from '../tokens/tokens.js';
import { lookAtVariants } from '../variants/variants-work.js';

async function targetOf(desk: Desk, actor: Actor, property: PropertyRow, input: EnrolInput): Promise<Scope> {
  if (input.target !== null) return parseScope(input.reach, input.target);
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
  const same = {
    propertyId: property.id,
    engine: profile.id,
    accountId: account.id,
    reach: target.reach,
    target: scopeText(target),
  };
  const { accountId, ...anywhere } = same;
  const where = input.named ? { ...anywhere, accountId } : anywhere;
  const there = await EnrolmentRow.findOne({ where: { ...where, endedAt: null } });
  const sitemap = profile.sitemaps?.atRegistration === true ? await sitemapOf(property) : null;
  if (there && there.missingSince == null) {
    // What a crash left undone behind the record of the enrolment itself.
    if (piece.again && sitemap) await takeSubmission(engineUnder(desk, account), desk, there, sitemap);
    const name = await nameOf(desk, there.id);
    const under = there.accountId === accountId ? '' : ' under another account';
    return {
      says: `${name} is enrolled already${under}, for ${scopeForPeople(target)}.`,
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
      says: `${property.handle} was enrolled${again} at ${profile.title} by ${target.reach}: ${scopeForPeople(target)}.`,
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
  const name = await nameOf(desk, row.id);
  return {
    says: enrolSays(profile, name, target, shared, there !== null),
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
  name: string,
  target: Scope,
  shared: number,
  isAgain: boolean,
): string {
  const where = scopeForPeople(target);
  if (profile.worked.how === 'hand')
    return `Noted. Now register ${where} on ${profile.title}’s own pages, and paste the token that it shows: “token ${name} --paste …”.`;
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
