import type { Transaction } from 'sequelize';
import { contactNoted } from '../../core/letter/contact.js';
import { newId } from '../../store/ids.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/**
 * Whoever is noted with a client, by an address, is one of its people, to whom letters and reports can go; with another note it is
 * another. Whoever was added as a contact by themselves stays.
 */
export async function followNoted(
  desk: Desk,
  actor: Actor,
  {
    clientId,
    before,
    now,
  }: { readonly clientId: string; readonly before: string | null; readonly now: string | null },
  transaction: Transaction,
): Promise<void> {
  const [former, noted] = [contactNoted(before), contactNoted(now)];
  if (former?.email === noted?.email && former?.name === noted?.name) return;
  const at = nowText(desk);
  if (former)
    await desk.store.run(
      `UPDATE contacts SET endedAt = $at WHERE clientId = $clientId AND propertyId IS NULL AND role = 'owner' AND endedAt IS NULL
         AND email = $email AND name = $name`,
      { ...former, clientId, at },
      transaction,
    );
  if (!noted) return;
  const [there] = await desk.store.select(
    'SELECT 1 FROM contacts WHERE clientId = $clientId AND endedAt IS NULL AND lower(email) = lower($email)',
    { clientId, email: noted.email },
    transaction,
  );
  if (there) return;
  await desk.store.insert(
    'contacts',
    [
      {
        ...{ id: newId(), clientId, propertyId: null, name: noted.name, role: 'owner', email: noted.email },
        ...{ language: 'en', createdAt: at, endedAt: null },
      },
    ],
    transaction,
  );
  await note(desk, actor, transaction, {
    kind: 'contact.added',
    says: `${noted.name} is the owner of all of the client’s websites.`,
    clientId,
  });
}
