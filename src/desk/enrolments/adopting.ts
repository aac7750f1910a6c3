import Joi from 'joi';
import type { JobResult, Met } from '../../api/documents.js';
import { covers, scopeForPeople, scopeText, type Scope } from '../../core/address/reach.js';
import { addressText } from '../../core/address/web-address.js';
import type { EnrolmentAtEngine } from '../../engines/engine.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { AccountRow } from '../../store/models/accounts.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { accountFor } from '../engines/accounts.js';
import { engineValue } from '../engines/answers.js';
import { factsOf } from '../facts/enrolment-facts.js';
import { nameOf } from '../context/names.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { refreshOwnership } from '../ownership/ownership.js';
import { engineOf, engineUnder, nowText, profileOf, type Desk } from '../context/desk.js';
import { frontDoorOf } from '../context/front-door.js';
import { noteSubmission } from '../sitemaps/submitting.js';
import { askToken } from '../tokens/tokens.js';
import { methodsFor } from '../../core/profile/profile.js';

interface AdoptInput {
  readonly accountId: string;
  readonly take: boolean;
}

/** One piece: everything that is enrolled under an account, looked at or taken over. */
export async function adoptPieces(
  desk: Desk,
  input: { engine: string; account?: string; take?: boolean },
): Promise<NewPiece<AdoptInput>[]> {
  const { id, title, worked } = profileOf(desk, input.engine);
  if (worked.how === 'house') throw new Problem('nothing-to-adopt', { engine: title });
  const account = await accountFor(desk, id, input.account);
  const work: AdoptInput = { accountId: account.id, take: input.take === true };
  return [{ subject: `${id}/${account.name}`, input: work, engine: id }];
}

/** One piece of an adopting job. What is recorded here already is never written over. */
async function runAdopt(desk: Desk, piece: Piece<AdoptInput>): Promise<JobResult> {
  const { accountId, take } = piece.input;
  const account = await AccountRow.findByPk(accountId, { rejectOnEmpty: true });
  const { title } = profileOf(desk, account.engine);
  const there = engineValue(await engineUnder(desk, account).list());
  const [rows, properties] = await Promise.all([
    EnrolmentRow.findAll({ where: { accountId, endedAt: null } }),
    PropertyRow.findAll({ where: { archivedAt: null }, order: ['handle'] }),
  ]);
  const handles = new Map(properties.map(({ id, handle }) => [id, handle]));
  const met: Met[] = [];
  for (const one of there) {
    const compared = await compare(desk, one, rows, properties);
    const property = compared.property && properties.find(({ id }) => id === compared.property?.id);
    if (compared.state === 'new' && take && property) {
      const id = await takeOver(desk, piece, account, property, one);
      met.push({
        ...compared,
        state: 'taken-over',
        says: `Taken over as ${await nameOf(desk, id)}.`,
      });
    } else met.push(compared);
  }
  for (const row of rows.filter(({ ref }) => !there.some((one) => one.ref === ref)))
    met.push(missing(row, handles.get(row.propertyId) ?? row.propertyId, title));
  const count = (state: Met['state']) => met.filter((one) => one.state === state).length;
  const says = `${String(there.length)} enrolled at ${title} under ${account.name}: ${String(count('known'))} known, ${String(count('new') + count('taken-over'))} new here, ${String(count('differs'))} unlike ours, ${String(count('no-property'))} without a property, ${String(count('missing'))} missing there.`;
  return { says, stops: count('differs') + count('missing') > 0, met };
}

async function compare(
  desk: Desk,
  one: EnrolmentAtEngine,
  rows: readonly EnrolmentRow[],
  properties: readonly PropertyRow[],
): Promise<Met> {
  const target = scopeText(one.target);
  const base = { target, reach: one.target.reach, ref: one.ref, ownership: one.ownership.state };
  const row =
    rows.find(({ ref }) => ref === one.ref) ??
    rows.find((own) => own.target === target && own.reach === one.target.reach);
  if (row) {
    const property = properties.find(({ id }) => id === row.propertyId);
    const named = property ? { id: property.id, handle: property.handle } : null;
    const unlike = await differences(desk, row, one);
    return unlike === ''
      ? { ...base, property: named, state: 'known', says: 'Recorded here as it is there.' }
      : { ...base, property: named, state: 'differs', says: unlike };
  }
  const property = properties.find((own) => belongs(one.target, own));
  if (!property)
    return {
      ...base,
      property: null,
      state: 'no-property',
      says: `No property here is ${scopeForPeople(one.target)}: take it on first.`,
    };
  return {
    ...base,
    property: { id: property.id, handle: property.handle },
    state: 'new',
    says: `Enrolled there, not recorded here: can be taken over for ${property.handle}.`,
  };
}

/** An address belongs to the property whose front door it is; a name to the one whose front door it covers. */
function belongs(target: Scope, property: PropertyRow): boolean {
  const door = addressText(frontDoorOf(property));
  return target.reach === 'name'
    ? covers(target, door)
    : addressText(target.address) === door || addressText(target.address) === property.address;
}

async function differences(desk: Desk, row: EnrolmentRow, one: EnrolmentAtEngine): Promise<string> {
  const facts = await factsOf(desk, row);
  const isHeldHere = facts.ownership?.kind === 'confirmed';
  const isHeldThere = one.ownership.state === 'held';
  return [
    row.ref === one.ref ? '' : `The engine calls it ${one.ref}, our record ${row.ref}.`,
    isHeldHere === isHeldThere
      ? ''
      : `The engine says ${isHeldThere ? 'held' : one.ownership.state}, our record ${facts.standing.badge}.`,
    row.target === scopeText(one.target)
      ? ''
      : `The engine has ${scopeText(one.target)}, our record ${row.target}.`,
  ]
    .filter((part) => part !== '')
    .join(' ');
}

function missing(row: EnrolmentRow, handle: string, title: string): Met {
  return {
    target: row.target,
    reach: row.reach,
    ref: row.ref,
    ownership: 'none',
    property: { id: row.propertyId, handle },
    state: 'missing',
    says: `Recorded here, but ${title} does not know it: enrol it again.`,
  };
}

/** Records an enrolment as it is at the engine: its ownership, tokens and sitemaps with it. @returns its identifier */
async function takeOver(
  desk: Desk,
  piece: Piece,
  account: AccountRow,
  property: PropertyRow,
  one: EnrolmentAtEngine,
): Promise<string> {
  const profile = profileOf(desk, account.engine);
  const row = await desk.store.write(async (transaction) => {
    const created = await EnrolmentRow.create(
      {
        id: newId(),
        propertyId: property.id,
        engine: account.engine,
        accountId: account.id,
        reach: one.target.reach,
        target: scopeText(one.target),
        ref: one.ref,
        createdAt: nowText(desk),
      },
      { transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: 'enrolment.adopted',
      says: `${scopeForPeople(one.target)} was found enrolled at ${profile.title} and taken over for ${property.handle}.`,
      property,
      enrolmentId: created.id,
      details: { ref: one.ref },
    });
    return created;
  });
  await refreshOwnership(desk, piece.actor, await factsOf(desk, row));
  for (const method of methodsFor(profile, row.reach))
    await askToken(desk, piece.actor, await factsOf(desk, row), method);
  await takeSitemaps(desk, property, row);
  return row.id;
}

async function takeSitemaps(desk: Desk, property: PropertyRow, row: EnrolmentRow): Promise<void> {
  const outcome = await (await engineOf(desk, row)).sitemaps(row.ref);
  for (const { ref, address } of outcome.kind === 'done' ? outcome.value : []) {
    const base = row.reach === 'address' ? row.target : addressText(frontDoorOf(property));
    if (!URL.canParse(address, base)) continue;
    const url = new URL(address, base).href;
    const [sitemap] = await desk.store.write((transaction) =>
      SitemapRow.findOrCreate({
        where: { propertyId: property.id, url },
        defaults: { id: newId(), propertyId: property.id, url, createdAt: nowText(desk) },
        transaction,
      }),
    );
    await noteSubmission(desk, sitemap, row, address, ref);
  }
}

export const adoptWork = anyWork<AdoptInput>({
  kind: 'adopt',
  lane: 'long',
  input: Joi.object<AdoptInput, true>({ accountId: Joi.string().required(), take: Joi.boolean().required() }),
  run: runAdopt,
});
