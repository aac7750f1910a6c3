import { Op } from 'sequelize';
import type { Handover, HandoverEnrolment, HandoverItem, Standing } from '../../api/documents.js';
import { parseScope } from '../../core/address/reach.js';
import { placementOf, type Placement } from '../../core/badge/placement.js';
import { AccountRow } from '../../store/models/accounts.js';
import { TokenRow } from '../../store/models/enrolments.js';
import type { ClientRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import type { Desk } from '../context/desk.js';
import { personNames } from '../context/journal.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { holdsByNewest, valuesInForce } from '../tokens/in-force.js';
import { placementFor } from '../tokens/placements.js';
import { foreignTokens } from './foreign.js';
import { enrolmentsOfClient, knownHolders } from './holders.js';

/** The handing over of a client, as it is on record. */
export interface HandoverValues {
  readonly id: string;
  readonly clientId: string;
  readonly startedAt: string;
  readonly personId: string | null;
  readonly deleteOn: string | null;
  readonly endedAt: string | null;
  readonly toldAt: string | null;
}

interface TickValues {
  readonly handoverId: string;
  readonly item: string;
  readonly at: string;
  readonly personId: string | null;
  readonly note: string | null;
}

/** The newest handing over of a client; null where none was begun. */
export async function handoverOf({ store }: Desk, clientId: string): Promise<HandoverValues | null> {
  const [row] = await store.select<HandoverValues>(
    'SELECT * FROM handovers WHERE clientId = $clientId ORDER BY startedAt DESC LIMIT 1',
    { clientId },
  );
  return row ?? null;
}

/** What a client takes along, and what has to be done before it goes. Throws Problem. */
export async function showHandover(desk: Desk, ref: string): Promise<Handover> {
  return viewHandover(desk, await findClient(ref, { archivedToo: true }));
}

export async function viewHandover(desk: Desk, client: ClientRow): Promise<Handover> {
  const facts = await enrolmentsOfClient(desk, client.id);
  const ids = facts.map(({ row }) => row.id);
  const [accounts, holders, former, begun, foreign] = await Promise.all([
    AccountRow.findAll({ where: { id: [...new Set(facts.map(({ row }) => row.accountId))] } }),
    knownHolders(desk, ids),
    TokenRow.findAll({
      where: { enrolmentId: ids, replacedAt: { [Op.ne]: null } },
      order: [['replacedAt', 'DESC']],
    }),
    handoverOf(desk, client.id),
    foreignTokens(desk, facts),
  ]);
  const inForce = await valuesInForce(former.map(({ value }) => value));
  const shared = await sharedAccounts(desk, client.id, accounts);
  const accountOf = new Map(accounts.map((one) => [one.id, one]));
  const enrolments = facts.map((one): HandoverEnrolment => ({
    enrolment: one.name,
    engine: { id: one.profile.id, title: one.profile.title },
    account: accountOf.get(one.row.accountId)?.name ?? '',
    badge: one.standing.badge,
    method: one.ownership?.method ?? one.claim?.method ?? null,
    holders: holders.get(one.row.id) ?? null,
  }));
  const own = accounts.map((account) => ({
    engine: { id: account.engine, title: desk.book.titleOf(account.engine) },
    name: account.name,
    shared: shared.has(account.id),
    passedOnAt: account.passedOnAt ?? null,
  }));
  return {
    client: client.handle,
    name: client.name,
    begun: begun && (await begunView(begun)),
    enrolments,
    stays: facts.flatMap(staying),
    mayGo: facts.flatMap((one) => going(one, former, inForce)),
    accounts: own,
    foreign,
    items: await ticked(desk, begun, itemsFor(enrolments, own)),
  };
}

async function begunView({
  startedAt,
  personId,
  deleteOn,
  endedAt,
}: HandoverValues): Promise<NonNullable<Handover['begun']>> {
  const names = await personNames([personId]);
  return {
    at: startedAt,
    by: personId === null ? null : (names.get(personId) ?? null),
    deleteOn,
    endedAt,
  };
}

/** The accounts under which something of another client is, too. */
async function sharedAccounts(
  { store }: Desk,
  clientId: string,
  accounts: readonly AccountRow[],
): Promise<ReadonlySet<string>> {
  const rows = await store.select<{ accountId: string }>(
    `SELECT DISTINCT e.accountId FROM enrolments e JOIN properties p ON p.id = e.propertyId
      WHERE e.endedAt IS NULL AND p.clientId <> $clientId AND e.accountId IN (SELECT value FROM json_each($ids))`,
    { clientId, ids: JSON.stringify(accounts.map(({ id }) => id)) },
  );
  return new Set(rows.map(({ accountId }) => accountId));
}

function standingOf({ profile, name }: EnrolmentFacts, placement: Placement | null): Standing[] {
  if (!placement) return [];
  const { place } = placement;
  const what =
    placement.method === 'meta'
      ? placement.tag
      : placement.method === 'dns'
        ? placement.value
        : placement.path;
  return [{ engine: profile.title, enrolment: name, place, what }];
}

/**
 * The tokens by which a badge is held, or may be: the one that was confirmed, and each that stands besides. Without them the engine
 * withdraws, whoever looks after the website then.
 */
function staying(facts: EnrolmentFacts): Standing[] {
  const { standing, ownership, tokens, checks } = facts;
  if (standing.badge !== 'held' && standing.badge !== 'slipping') return [];
  return tokens
    .filter(
      ({ id, method }) =>
        ownership?.method === method || checks.some((check) => check.tokenId === id && check.seen),
    )
    .flatMap((token) => standingOf(facts, placementFor(facts, token)));
}

/** Tokens that were replaced, once the badge is held by the one in their place, and nobody else’s hangs on the same. */
function going(facts: EnrolmentFacts, former: readonly TokenRow[], inForce: ReadonlySet<string>): Standing[] {
  const { row, profile } = facts;
  return former
    .filter(
      ({ enrolmentId, value, method }) =>
        enrolmentId === row.id && !inForce.has(value) && holdsByNewest(facts, method),
    )
    .flatMap(({ method, value }) =>
      standingOf(facts, placementOf(profile, parseScope(row.reach, row.target), method, value)),
    );
}

/** Where nobody but us holds it, the client loses everything the day that we go. */
function itemsFor(
  enrolments: readonly HandoverEnrolment[],
  accounts: Handover['accounts'],
): (Omit<HandoverItem, 'done'> & { readonly isDone: boolean; readonly at: string | null })[] {
  const held = enrolments.filter(
    ({ badge, engine }) => (badge === 'held' || badge === 'slipping') && engine.id !== 'house',
  );
  return [
    ...held.map(({ enrolment, engine, account, holders }) => ({
      item: `holder ${enrolment}`,
      says: `Have the client hold ${enrolment} at ${engine.title} under an account of its own, beside ours (${account}).`,
      isDone: holders?.items.some(({ own }) => !own) === true,
      at: holders?.at ?? null,
    })),
    ...accounts
      .filter(({ shared, engine }) => !shared && engine.id !== 'house')
      .map(({ engine, name, passedOnAt }) => ({
        item: `account ${name}@${engine.id}`,
        says: `Pass the account ${name} at ${engine.title} on: nothing but this client’s is under it.`,
        isDone: passedOnAt !== null,
        at: passedOnAt,
      })),
    {
      item: 'tokens',
      says: 'Tell the client which tokens have to stay, and which may be taken out.',
      isDone: false,
      at: null,
    },
    {
      item: 'archive',
      says: 'Give the client its part of the records, as an archive.',
      isDone: false,
      at: null,
    },
  ];
}

async function ticked(
  { store }: Desk,
  begun: HandoverValues | null,
  items: ReturnType<typeof itemsFor>,
): Promise<HandoverItem[]> {
  const ticks = begun
    ? await store.select<TickValues>('SELECT * FROM handover_ticks WHERE handoverId = $id', { id: begun.id })
    : [];
  const names = await personNames(ticks.map(({ personId }) => personId));
  return items.map(({ item, says, isDone, at }) => {
    const tick = ticks.find((one) => one.item === item);
    const by = tick?.personId == null ? null : (names.get(tick.personId) ?? null);
    const done = tick ? { at: tick.at, by, note: tick.note } : isDone ? { at, by: null, note: null } : null;
    return { item, says, done };
  });
}
