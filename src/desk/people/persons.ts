import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import type { Key, NewKey, Person, Role } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { DAY } from '../../core/time/duration.js';
import { newId } from '../../store/ids.js';
import { KeyRow, PersonRow } from '../../store/models/people.js';
import { note } from '../context/journal.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { hashPassword, isPassword } from './passwords.js';
import { unlessTaken } from '../context/versions.js';

const SESSION_DAYS = 14;
/** How long a key lives where nobody says. */
const KEY_DAYS = 365;
const LONGEST_AGENT = 200;

export interface SignedIn {
  readonly person: Person;
  readonly via: 'session' | 'key';
  readonly keyId: string;
}

export function viewPerson({ id, name, role, createdAt }: PersonRow): Person {
  return { id, name, role, createdAt };
}

/** What is kept of a secret. */
export function hashed(secret: string): string {
  return createHash('sha256').update(secret).digest('base64url');
}

export async function addPerson(
  desk: Desk,
  actor: Actor,
  input: { name: string; role: Role; password: string },
): Promise<Person> {
  const password = await hashPassword(input.password);
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const created = await PersonRow.create(
          { id: newId(), name: input.name, role: input.role, password, createdAt: nowText(desk) },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'person.added',
          says: `${input.name} was added as ${input.role}.`,
        });
        return created;
      }),
    `There is a person “${input.name}” already.`,
  );
  return viewPerson(row);
}

export async function listPersons(): Promise<{ items: Person[] }> {
  return { items: (await PersonRow.findAll({ where: { endedAt: null }, order: ['name'] })).map(viewPerson) };
}

/** A person who is here, by her name; `me` is the one who asks. Throws Problem. */
export async function findPerson({ person }: SignedIn, name: string): Promise<PersonRow> {
  const row = await PersonRow.findOne({ where: { name: name === 'me' ? person.name : name, endedAt: null } });
  if (!row) throw new Problem('no-such-person', { ref: name });
  return row;
}

/** Ends a person's access, with all her keys and sessions. The last lead cannot be ended. */
export async function endPerson(desk: Desk, actor: Actor, id: string): Promise<void> {
  await desk.store.write(async (transaction) => {
    const row = await PersonRow.findOne({ where: { id, endedAt: null }, transaction });
    if (!row) throw new Problem('no-such-person', { ref: id });
    const leads = await PersonRow.count({ where: { role: 'lead', endedAt: null }, transaction });
    if (row.role === 'lead' && leads === 1) throw new Problem('only-lead', { person: row.name });
    await row.update({ endedAt: nowText(desk) }, { transaction });
    await KeyRow.update({ endedAt: nowText(desk) }, { where: { personId: id, endedAt: null }, transaction });
    // What was handed to her is nobody's in particular again.
    await desk.store.run('UPDATE step_marks SET personId = NULL WHERE personId = $id', { id }, transaction);
    await note(desk, actor, transaction, {
      kind: 'person.ended',
      says: `${row.name} has no access any more.`,
    });
  });
  desk.events.emit('access', id);
}

/** Checks a name and password. The answer takes as long for a name that does not exist. Throws Problem. */
export async function signIn(
  desk: Desk,
  name: string,
  password: string,
  agent = '',
): Promise<{ person: Person; secret: string; expiresAt: Date }> {
  const row = await PersonRow.findOne({ where: { name, endedAt: null } });
  const right = await isPassword(password, row?.password ?? (await decoy()));
  if (!row || !right) throw new Problem('wrong-password');
  const expiresAt = new Date(desk.clock.now().getTime() + SESSION_DAYS * DAY);
  const { secret } = await giveSecret(desk, row.id, { kind: 'session', label: 'console', agent }, expiresAt);
  return { person: viewPerson(row), secret, expiresAt };
}

let decoyHash: Promise<string> | null = null;
function decoy(): Promise<string> {
  decoyHash ??= hashPassword(randomBytes(16).toString('hex'));
  return decoyHash;
}

async function giveSecret(
  desk: Desk,
  personId: string,
  { kind, label, agent }: { kind: 'key' | 'session'; label: string; agent: string },
  expiresAt: Date,
): Promise<{ row: KeyRow; secret: string }> {
  const secret = `${kind === 'key' ? 'ybk' : 'ybs'}_${randomBytes(32).toString('base64url')}`;
  const row = await desk.store.write((transaction) =>
    KeyRow.create(
      {
        id: newId(),
        personId,
        kind,
        label,
        hash: hashed(secret),
        createdAt: nowText(desk),
        expiresAt: expiresAt.toISOString(),
        agent: agent === '' ? null : agent.slice(0, LONGEST_AGENT),
      },
      { transaction },
    ),
  );
  return { row, secret };
}

/** @param days for which it is good */
export async function addKey(
  desk: Desk,
  personId: string,
  { label, days = KEY_DAYS }: { label: string; days?: number },
): Promise<NewKey> {
  const expiresAt = new Date(desk.clock.now().getTime() + days * DAY);
  const { row, secret } = await giveSecret(desk, personId, { kind: 'key', label, agent: '' }, expiresAt);
  return { id: row.id, label, createdAt: row.createdAt, expiresAt: row.expiresAt ?? null, key: secret };
}

/** The keys and sessions of the one who asks, newest first, without those that are over. */
export async function listKeys(desk: Desk, { person, keyId }: SignedIn): Promise<{ items: Key[] }> {
  const rows = await KeyRow.findAll({
    where: {
      personId: person.id,
      endedAt: null,
      [Op.or]: [{ expiresAt: null }, { expiresAt: { [Op.gt]: nowText(desk) } }],
    },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
  });
  return {
    items: rows.map(({ id, kind, label, agent, createdAt, usedAt, expiresAt }) => ({
      id,
      kind,
      label,
      agent: agent ?? null,
      createdAt,
      usedAt: usedAt ?? null,
      expiresAt: expiresAt ?? null,
      current: id === keyId,
    })),
  };
}

/** Ends one of a person's own keys or sessions. Throws Problem. */
export async function endKey(desk: Desk, personId: string, id: string): Promise<void> {
  const [ended] = await desk.store.write((transaction) =>
    KeyRow.update({ endedAt: nowText(desk) }, { where: { id, personId, endedAt: null }, transaction }),
  );
  if (ended === 0) throw new Problem('no-such-key', { ref: id });
  desk.events.emit('access', personId);
}
