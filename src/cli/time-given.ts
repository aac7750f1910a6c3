import { Usage } from './exit.js';

/** A day, or a time, in the form of the API. Throws Usage on what is neither. */
export function timeGiven(text: string): string {
  const whole = /^\d{4}-\d{2}-\d{2}$/.test(text) ? `${text}T00:00:00Z` : text;
  if (Number.isNaN(Date.parse(whole)))
    throw new Usage(`“${text}” is no day; expected such as 2026-11-24 or 2026-11-24T09:30:00Z.`);
  return new Date(whole).toISOString();
}
