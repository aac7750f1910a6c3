import { Usage } from './exit.js';

/** How many lines of a list somebody asks for, as the API takes it. Throws Usage. */
export function linesGiven(text: string): number {
  const count = Number(text);
  if (/^\d{1,3}$/u.test(text) && count >= 1 && count <= 500) return count;
  throw new Usage(`“${text}” is no number of lines; expected 1 to 500.`);
}
