import { languagesTyped } from './languages.js';
import { isBorrowing, type Profile, type WantedFact } from './profile.js';

/** Whether an engine is worth enrolling a property with, and why, in words. */
export interface Fit {
  readonly fits: boolean;
  readonly why: string;
}

/**
 * Whether an engine matters to an audience.
 * @param audience countries by ISO 3166-1 alpha-2; empty where nobody said, which means everyone everywhere
 * @param titleOf names the engine whose results another one shows
 */
export function fitOf(profile: Profile, audience: readonly string[], titleOf: (id: string) => string): Fit {
  const shared =
    profile.audience === 'everyone'
      ? audience
      : audience.filter((country) => profile.audience.includes(country));
  const matters = profile.audience === 'everyone' || shared.length > 0;
  if (isBorrowing(profile))
    return {
      fits: false,
      why: `Shows ${titleOf(profile.worked.from)}’s results: enrolling there is enough.`,
    };
  if (profile.worked.how === 'house')
    return { fits: true, why: 'Wanted first: it proves that the client controls the site.' };
  if (profile.audience === 'everyone')
    return { fits: true, why: `Matters to everyone${shareWords(profile, audience)}.` };
  const countries = profile.audience.join(', ');
  if (matters)
    return {
      fits: true,
      why: `Matters in ${shared.join(', ')}, where its audience is${shareWords(profile, shared)}.`,
    };
  return {
    fits: false,
    why:
      audience.length === 0
        ? `Matters only in ${countries}, and the client’s audience is not narrowed to any country.`
        : `Matters only in ${countries}; the client’s audience is in ${audience.join(', ')}.`,
  };
}

function shareWords(profile: Profile, countries: readonly string[]): string {
  const everywhere = profile.share['everywhere'];
  const known = countries.flatMap((country) => {
    const share = profile.share[country];
    return share === undefined ? [] : [`${String(share)} % in ${country}`];
  });
  if (known.length > 0) return ` (${known.join(', ')})`;
  return everywhere === undefined ? '' : ` (about ${String(everywhere)} %)`;
}

/** The order in which engines are shown: the house, then those that matter to everyone, the largest share first, then the rest. */
export function inOrder<Some extends Profile>(profiles: Iterable<Some>): Some[] {
  const weight = (profile: Profile): number => {
    if (profile.worked.how === 'house') return 1000;
    return profile.audience === 'everyone' ? 100 + (profile.share['everywhere'] ?? 0) : 0;
  };
  return [...profiles].sort((a, b) => weight(b) - weight(a) || a.title.localeCompare(b.title));
}

/** The facts that engines want at registration and that are not known yet, each once. */
export function missingFacts<Fact extends { readonly id: string }>(
  wanted: readonly Fact[],
  known: Readonly<Record<string, string>>,
): Fact[] {
  return [...new Map(wanted.map((fact) => [fact.id, fact])).values()].filter(
    ({ id }) => known[id] === undefined,
  );
}

/**
 * An answer as the engine takes it, or why it takes none such.
 * @param fact with the answers that it takes, if not any
 */
export function factAnswer(
  { title, oneOf, form }: Pick<WantedFact, 'title' | 'oneOf' | 'form'>,
  given: string,
): { readonly answer: string } | { readonly fault: string } {
  const answer = given.trim();
  if (answer === '') return { fault: `${title}: expected an answer.` };
  if (answer.length > 200) return { fault: `${title}: expected at most 200 characters.` };
  if (form === 'languages') {
    const typed = languagesTyped(answer);
    if ('codes' in typed) return { answer: typed.codes.join(' ') };
    const words = typed.unknown.map((word) => `“${word.slice(0, 60)}”`).join(', ');
    return {
      fault: `${title}: expected languages by code or name, such as “fi en”; ${words || 'it'} is none.`,
    };
  }
  if (!oneOf) return { answer };
  const found = oneOf.find((one) => one.toLowerCase() === answer.toLowerCase());
  return found === undefined
    ? { fault: `${title}: expected one of ${oneOf.join(', ')}; got “${answer.slice(0, 60)}”.` }
    : { answer: found };
}
