import { literal, Op } from 'sequelize';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { findAllEnrolments, type HowToFind } from '../context/references.js';

/** The enrolments that a request names, each once. */
export async function chosenEnrolments(
  which: {
    enrolments?: string[];
    all?: boolean;
  },
  how: HowToFind = {},
): Promise<EnrolmentRow[]> {
  if (which.all === true || which.enrolments === undefined) {
    return EnrolmentRow.findAll({
      where: {
        propertyId: { [Op.in]: literal('(SELECT id FROM properties WHERE archivedAt IS NULL)') },
        endedAt: null,
      },
      order: ['propertyId', 'engine', 'reach'],
    });
  }
  return findAllEnrolments(which.enrolments, how);
}
