import type { Fit, Job, PlanLine, Property } from '../../../api/documents.js';
import { api } from '../../api.js';

/** Enrols as a line of the plan says. */
export function enrolByPlan(property: Property, fit: Fit, line: PlanLine | undefined): Promise<Job> {
  const body = { properties: [property.id], engines: [fit.engine.id] };
  if (!line) return api.enrol({ body });
  const { reach, target } = line;
  return api.enrol({ body: { ...body, reach, ...(reach === 'address' ? { address: target } : {}) } });
}
