import { Op } from 'sequelize';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import type { Desk } from '../context/desk.js';
import { findClient } from '../context/client-refs.js';
import { findAllEnrolments } from '../context/enrolment-refs.js';
import { type HowToFind } from '../context/references.js';

/** The enrolments that a request names, each once: by references, of a client, or all there are. Throws Problem. */
export async function chosenEnrolments(
  desk: Desk,
  which: {
    enrolments?: string[];
    all?: boolean;
    client?: string;
  },
  how: HowToFind = {},
): Promise<EnrolmentRow[]> {
  if (which.enrolments !== undefined && which.all !== true)
    return findAllEnrolments(desk, which.enrolments, how);
  const of = which.client === undefined ? {} : { clientId: (await findClient(which.client, how)).id };
  const living = await PropertyRow.findAll({
    where: { archivedAt: null, ...of },
    attributes: ['id'],
    raw: true,
  });
  const ids = new Set(living.map(({ id }) => id));
  const rows = await EnrolmentRow.findAll({
    where: { endedAt: null, ...(which.client === undefined ? {} : { propertyId: { [Op.in]: [...ids] } }) },
    order: ['propertyId', 'engine', 'reach'],
  });
  return rows.filter(({ propertyId }) => ids.has(propertyId));
}
