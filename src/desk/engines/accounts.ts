import { Op, col, fn } from 'sequelize';
import type { Account, LinkState } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { AccountRow } from '../../store/models/accounts.js';
import { ClientRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import type { EngineProfile } from '../../core/profile/profile.js';
import { OWN_ACCOUNT } from '../engine-book/book.js';
import { note } from '../context/journal.js';
import { nowText, profileOf, type Actor, type Desk } from '../context/desk.js';
import { findClient } from '../context/client-refs.js';
import { EXACT } from '../context/references.js';
import { requireVersion, unlessTaken, type Expected } from '../context/versions.js';
import { given } from '../../api/given.js';

/** How the links of an account stand, the newest word first. */
export function viewLinks(desk: Desk, accountId: string): LinkState[] {
  return desk.links
    .of(accountId)
    .sort((a, b) => b.at.getTime() - a.at.getTime())
    .map(({ work, kind, says, until, since, at }) => ({
      work,
      // Patience that is over is no news any more, but nobody has asked since.
      state: kind,
      says,
      until: until?.toISOString() ?? null,
      since: since.toISOString(),
      at: at.toISOString(),
    }));
}

/** What engines have switched off for an account just now. */
export function viewSuspended(desk: Desk, accountId: string): LinkState[] {
  const off = new Set<string>(desk.links.suspended(accountId).map(({ work }) => work));
  return viewLinks(desk, accountId).filter(({ work }) => off.has(work));
}

async function view(desk: Desk, rows: readonly AccountRow[]): Promise<Account[]> {
  const clients = await ClientRow.findAll({ where: { id: rows.flatMap((row) => row.passedOnTo ?? []) } });
  const counts = (await EnrolmentRow.findAll({
    where: { endedAt: null },
    attributes: ['accountId', [fn('COUNT', col('id')), 'count']],
    group: ['accountId'],
    raw: true,
  })) as unknown as { accountId: string; count: number }[];
  return rows.map((row) => {
    const source = desk.book.keySource(row);
    const to = clients.find(({ id }) => id === row.passedOnTo);
    return {
      id: row.id,
      engine: row.engine,
      name: row.name,
      key: {
        from: source.kind,
        variable: source.kind === 'environment' ? source.name : null,
        ready: source.kind === 'environment' ? source.set : source.kind !== 'none',
      },
      passedOn:
        row.passedOnAt == null || !to
          ? null
          : { at: row.passedOnAt, to: { id: to.id, handle: to.handle, name: to.name } },
      enrolments: counts.find(({ accountId }) => accountId === row.id)?.count ?? 0,
      links: viewLinks(desk, row.id),
      createdAt: row.createdAt,
      version: row.version,
    };
  });
}

export async function listAccounts(desk: Desk): Promise<{ items: Account[] }> {
  return { items: await view(desk, await AccountRow.findAll({ order: ['engine', 'createdAt', 'name'] })) };
}

/** An account by identifier or `ENGINE/NAME`. Throws Problem. */
export async function findAccount(ref: string): Promise<AccountRow> {
  const [engine = '', name = ''] = ref.split('/');
  const row = await AccountRow.findOne({
    where: { [Op.or]: [{ id: ref }, { engine: engine.toLowerCase(), name }] },
  });
  if (row) return row;
  throw new Problem('no-such-account', { ref });
}

/**
 * The account to enrol under: the one named, else the first that was not passed on.
 * Throws Problem.
 */
export async function accountFor(desk: Desk, engine: string, name?: string): Promise<AccountRow> {
  const rows = await AccountRow.findAll({ where: { engine }, order: ['createdAt', 'name'] });
  const chosen =
    name === undefined
      ? rows.find(({ passedOnAt }) => passedOnAt == null)
      : rows.find((row) => row.name === name || row.id === name);
  const { title } = profileOf(desk, engine);
  if (!chosen) {
    const names = rows.map((row) => row.name).join(', ');
    throw name === undefined
      ? new Problem('accounts-passed-on', { engine: title, id: engine })
      : new Problem('no-such-account-there', { ref: name, engine: title, known: names });
  }
  if (chosen.passedOnAt != null)
    throw new Problem('account-passed-on', { account: `${engine}/${chosen.name}` });
  return chosen;
}

interface KeyChange {
  readonly key?: string;
  readonly keyFrom?: string;
}

type KeyColumns = Partial<Pick<AccountRow, 'keyFrom' | 'keySealed'>>;

function keyColumns(desk: Desk, id: string, profile: EngineProfile, { key, keyFrom }: KeyChange): KeyColumns {
  if (keyFrom !== undefined) {
    requireNameable(desk, keyFrom);
    return { keyFrom, keySealed: null };
  }
  if (key === undefined || profile.worked.how !== 'link') return {};
  if (!desk.book.vault) throw new Error('keys are sealed by a running service only');
  const { origin } = new URL(profile.worked.base);
  return { keySealed: desk.book.vault.seal(key, id, origin), keyFrom: null };
}

/** Refuses a variable of the environment that the operator did not mean for this. Throws Problem. */
export function requireNameable(desk: Desk, variable: string): void {
  if (desk.book.mayName(variable)) return;
  throw new Problem('key-not-for-naming', { variable });
}

export async function addAccount(
  desk: Desk,
  actor: Actor,
  input: { engine: string; name: string } & KeyChange,
): Promise<Account> {
  const profile = profileOf(desk, input.engine);
  requireKeyUse(profile.worked.how, profile.title, input);
  const id = newId();
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const created = await AccountRow.create(
          {
            id,
            engine: profile.id,
            name: input.name,
            createdAt: nowText(desk),
            ...keyColumns(desk, id, profile, input),
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'account.added',
          says: `The account ${profile.id}/${input.name} was added.`,
        });
        return created;
      }),
    `There is an account “${input.name}” at ${profile.title} already.`,
  );
  return one(desk, row);
}

function requireKeyUse(how: string, title: string, { key, keyFrom }: KeyChange): void {
  if (how === 'link' || (key === undefined && keyFrom === undefined)) return;
  throw new Problem('no-key-needed', { engine: title });
}

async function one(desk: Desk, row: AccountRow): Promise<Account> {
  const [account] = await view(desk, [row]);
  if (!account) throw new Error('an account that is there can be shown');
  return account;
}

/** @param expected version by If-Match, if the caller sent one */
export async function editAccount(
  desk: Desk,
  actor: Actor,
  ref: string,
  changes: { name?: string; passedOnTo?: string | null } & KeyChange,
  expected: Expected = null,
): Promise<Account> {
  const { id, engine } = await findAccount(ref);
  const profile = profileOf(desk, engine);
  requireKeyUse(profile.worked.how, profile.title, changes);
  const client = changes.passedOnTo == null ? null : await findClient(changes.passedOnTo, EXACT);
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const current = await AccountRow.findByPk(id, { transaction, rejectOnEmpty: true });
        requireVersion(current.version, expected);
        await current.update(
          {
            ...given({ name: changes.name }),
            ...keyColumns(desk, id, profile, changes),
            ...(changes.passedOnTo === undefined
              ? {}
              : { passedOnTo: client?.id ?? null, passedOnAt: client ? nowText(desk) : null }),
            version: current.version + 1,
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'account.edited',
          says: editSays(`${engine}/${current.name}`, changes, client),
          ...(client ? { clientId: client.id } : {}),
        });
        return current;
      }),
    `There is an account “${changes.name ?? ''}” at ${profile.title} already.`,
  );
  return one(desk, row);
}

function editSays(
  name: string,
  changes: { passedOnTo?: string | null } & KeyChange,
  client: ClientRow | null,
): string {
  if (client) return `The account ${name} was passed on to ${client.name}.`;
  if (changes.passedOnTo === null) return `The account ${name} is the agency’s again.`;
  if (changes.key !== undefined || changes.keyFrom !== undefined)
    return `The account ${name} has another key.`;
  return `The account is now ${name}.`;
}

/** Every engine with a profile has at least the agency's own account. */
export async function ensureAccounts(desk: Desk): Promise<void> {
  const there = new Set((await AccountRow.findAll({ attributes: ['engine'] })).map(({ engine }) => engine));
  const missing = [...desk.book.profiles.keys()].filter((engine) => !there.has(engine));
  if (missing.length === 0) return;
  await desk.store.write(async (transaction) => {
    const createdAt = nowText(desk);
    await AccountRow.bulkCreate(
      missing.map((engine) => ({ id: newId(), engine, name: OWN_ACCOUNT, createdAt })),
      { transaction },
    );
  });
}
