import { randomBytes } from 'node:crypto';
import type { Webhook, NewWebhook } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { ClientRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/** An address that gets alerts as signed requests. */
export interface WebhookValues {
  readonly id: string;
  readonly url: string;
  /** Sealed, and bound to where it goes. */
  readonly secret: string;
  /** Null where it is told of everything. */
  readonly clientId: string | null;
  readonly createdAt: string;
  readonly personId: string | null;
  readonly endedAt: string | null;
}

const SECRET_BYTES = 32;
const MOST_HOOKS = 50;

/** The webhooks in force. */
export function webhooksNow({ store }: Pick<Desk, 'store'>): Promise<WebhookValues[]> {
  return store.select<WebhookValues>('SELECT * FROM hooks WHERE endedAt IS NULL ORDER BY createdAt, id');
}

export async function webhookOf({ store }: Desk, id: string): Promise<WebhookValues | null> {
  const [row] = await store.select<WebhookValues>('SELECT * FROM hooks WHERE id = $id AND endedAt IS NULL', {
    id,
  });
  return row ?? null;
}

/** Adds a webhook. The secret by which its requests are signed is shown this once. Throws Problem. */
export async function addWebhook(
  desk: Desk,
  actor: Actor,
  { url: text, client }: { readonly url: string; readonly client?: string },
): Promise<NewWebhook> {
  const url = URL.canParse(text) ? new URL(text) : null;
  if (!url || !/^https?:$/u.test(url.protocol) || url.username !== '' || url.password !== '')
    throw new Problem('bad-webhook', { url: text });
  if ((await webhooksNow(desk)).length >= MOST_HOOKS)
    throw new Problem('too-many-webhooks', { most: MOST_HOOKS });
  const of = client === undefined ? null : await findClient(client);
  const id = newId();
  const secret = randomBytes(SECRET_BYTES).toString('base64url');
  const row: WebhookValues = {
    ...{
      id,
      url: url.href,
      secret: desk.book.requireVault().seal(secret, id, url.origin),
      clientId: of?.id ?? null,
    },
    ...{ createdAt: nowText(desk), personId: actor.personId, endedAt: null },
  };
  await desk.store.write(async (transaction) => {
    await desk.store.insert('hooks', [{ ...row }], transaction);
    await note(desk, actor, transaction, {
      kind: 'webhook.added',
      // What comes behind its origin may be as good as a password.
      says: `${url.origin} gets the alerts${of ? ` of ${of.name}` : ''} from now on.`,
      ...(of ? { clientId: of.id } : {}),
    });
  });
  const [hook] = await view([row]);
  if (!hook) throw new Error('what was just written is there');
  return { ...hook, secret };
}

export async function listWebhooks(desk: Desk): Promise<{ items: Webhook[] }> {
  return { items: await view(await webhooksNow(desk)) };
}

/** Tells an address no more. Throws Problem. */
export async function endWebhook(desk: Desk, actor: Actor, id: string): Promise<void> {
  const row = await webhookOf(desk, id);
  if (!row) throw new Problem('no-such-webhook', { ref: id });
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'UPDATE hooks SET endedAt = $now WHERE id = $id',
      { id, now: nowText(desk) },
      transaction,
    );
    await desk.store.run(
      `UPDATE messages SET nextAt = NULL, deadAt = $now, fault = 'its address was taken off' WHERE hookId = $id AND nextAt IS NOT NULL`,
      { id, now: nowText(desk) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'webhook.ended',
      says: `${new URL(row.url).origin} is told of nothing any more.`,
    });
  });
}

async function view(rows: readonly WebhookValues[]): Promise<Webhook[]> {
  const clients = await ClientRow.findAll({ where: { id: rows.flatMap(({ clientId }) => clientId ?? []) } });
  return rows.map(({ id, url, clientId, createdAt }) => ({
    id,
    url,
    client: clients.find((one) => one.id === clientId)?.handle ?? null,
    createdAt,
  }));
}
