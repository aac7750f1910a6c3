import type { Transaction } from 'sequelize';
import { PropertyRow } from '../../store/models/clients.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/**
 * What somebody says by the link of a letter answers that letter.
 * @param says why it cannot be done; null where it is said to be done
 */
export async function answerByLink(
  desk: Desk,
  linkId: string,
  says: string | null,
  transaction: Transaction,
): Promise<void> {
  const answer = says === null ? 'It is done.' : `It cannot be done: ${says}`;
  const letters = await desk.store.select<{ id: string; name: string; subject: string }>(
    `SELECT l.id, c.name, l.subject FROM letters l JOIN contacts c ON c.id = l.contactId WHERE l.linkId = $linkId`,
    { linkId },
    transaction,
  );
  for (const { id, name, subject } of letters) {
    await desk.store.run(
      'UPDATE letters SET answeredAt = $now, answer = $answer, answerKind = $kind WHERE id = $id',
      { id, answer, kind: says === null ? 'done' : 'cannot', now: nowText(desk) },
      transaction,
    );
    const properties = await desk.store.select<{ propertyId: string }>(
      'SELECT propertyId FROM letter_properties WHERE letterId = $id',
      { id },
      transaction,
    );
    const rows = await PropertyRow.findAll({
      where: { id: properties.map(({ propertyId }) => propertyId) },
      transaction,
    });
    for (const property of rows)
      await note(desk, { personId: null }, transaction, {
        kind: 'letter.answered',
        says: `${name} answers to “${subject}”: ${answer}`,
        property,
      });
  }
}
