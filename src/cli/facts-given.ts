import { Usage } from './exit.js';

/** What is told of a site, as the API takes it: `kind=museum`. Throws Usage. */
export function factsGiven(given: readonly string[] | undefined): { facts?: Record<string, string> } {
  if (!given) return {};
  const pairs = given.map((text) => {
    const at = text.indexOf('=');
    if (at < 1) throw new Usage(`“${text}” tells nothing; expected such as kind=museum.`);
    return [text.slice(0, at), text.slice(at + 1)] as const;
  });
  return { facts: Object.fromEntries(pairs) };
}
