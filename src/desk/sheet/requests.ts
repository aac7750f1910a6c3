import type { Transaction } from 'sequelize';
import { Problem } from '../../api/problems.js';
import type { Method } from '../../core/profile/profile.js';
import { askedBy, type SheetToken } from '../../core/sheet/sheet.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { PropertyRow } from '../../store/models/clients.js';
import { nowText, profileOf, type Actor, type Desk } from '../context/desk.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { note } from '../context/journal.js';
import { nameOf } from '../context/names.js';
import { EXACT } from '../context/references.js';

/**
 * Writes down what a client's people are asked for by a letter or a link: from then on the same is asked for, whatever tokens come or
 * are advised later. What was asked before stays.
 */
export async function keepAsked(
  desk: Desk,
  tokens: readonly SheetToken[],
  transaction: Transaction,
): Promise<void> {
  for (const { enrolmentId, method } of askedBy(tokens))
    await EnrolmentRow.update(
      { askedMethod: method, askedAt: nowText(desk) },
      { where: { id: enrolmentId, askedMethod: null }, transaction },
    );
}

/** Changes by which method a client's people are asked to prove an enrolment. Throws Problem. */
export async function changeAsked(desk: Desk, actor: Actor, ref: string, method: Method): Promise<void> {
  const rows = await findEnrolments(desk, ref, EXACT);
  for (const row of rows) await changeOne(desk, actor, row, method);
}

async function changeOne(desk: Desk, actor: Actor, row: EnrolmentRow, method: Method): Promise<void> {
  const profile = profileOf(desk, row.engine);
  if (profile.methods[method]?.reaches.includes(row.reach) !== true)
    throw new Problem('method-gone', { engine: profile.title, method });
  if (row.askedMethod === method) return;
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const name = await nameOf(desk, row.id);
  await desk.store.write(async (transaction) => {
    await EnrolmentRow.update(
      { askedMethod: method, askedAt: nowText(desk) },
      { where: { id: row.id }, transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'enrolment.asked',
      says: `${name}: the client’s people are asked for its proof by ${method}${row.askedMethod == null ? '' : ` in place of ${row.askedMethod}`}.`,
      property,
      enrolmentId: row.id,
    });
  });
}
