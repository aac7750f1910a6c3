import type { Advice } from '../../api/documents.js';
import { adviseMethods, unknownAccess } from '../../core/badge/advice.js';
import { PropertyRow } from '../../store/models/clients.js';
import { profileOf, type Desk } from '../context/desk.js';
import { namesOf } from '../context/names.js';
import { findEnrolments } from '../context/enrolment-refs.js';

/** Which method to have placed for an enrolment, why, and what each costs later. */
export async function showAdvice(desk: Desk, ref: string): Promise<{ items: Advice[] }> {
  const rows = await findEnrolments(desk, ref);
  const names = await namesOf(
    desk.store,
    rows.map(({ id }) => id),
  );
  const items = await Promise.all(
    rows.map(async ({ id, engine, reach, propertyId, askedMethod }) => {
      const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
      const profile = profileOf(desk, engine);
      const methods = adviseMethods(profile, reach, property.access, property.siteSeen ?? null);
      return {
        enrolment: { id, name: names.get(id) ?? id },
        methods: methods.map(({ why, ...one }) => ({ ...one, why: [...why] })),
        asked: askedMethod ?? null,
        unknown: unknownAccess(profile, reach, property.access),
      };
    }),
  );
  return { items };
}
