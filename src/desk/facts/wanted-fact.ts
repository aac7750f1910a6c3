import type { WantedFact } from '../../api/documents.js';
import type { WantedFact as Fact } from '../../core/profile/profile.js';

/** What an engine asks for before it enrols, as a form has it. */
export function viewFact({ id, title, oneOf, form }: Fact): WantedFact {
  return { id, title, oneOf: oneOf ? [...oneOf] : null, form: form ?? null };
}
