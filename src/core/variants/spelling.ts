import { addressText, type WebAddress } from '../address/web-address.js';
import { finding } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import { isSameThing } from './fingerprint.js';
import type { Looked } from './follow.js';

/** Other ways in which people write the address of one and the same page. */
export type SpellingKind = 'port' | 'slash' | 'case' | 'index-file';

/** What another way of writing turned out to be. */
export type SpellingOutcome = 'same-address' | 'leads-here' | 'same-page' | 'other-page' | 'nothing';

export interface Spelling {
  readonly kind: SpellingKind;
  readonly url: string;
}

export interface SpellingSeen extends Spelling {
  readonly outcome: SpellingOutcome;
  readonly says: string;
}

const WORDS: Readonly<Record<SpellingKind, string>> = {
  port: 'with its default port',
  slash: 'without the closing slash',
  case: 'with other capitals',
  'index-file': 'with the name of an index file',
};
const OUTCOMES: Readonly<Record<SpellingOutcome, string>> = {
  'same-address': 'the same address by the URL standard',
  'leads-here': 'leads to the front door',
  'same-page': 'shows the same page as an address of its own',
  'other-page': 'shows something else',
  nothing: 'has nothing there',
};

/** The ways of writing the front door that are worth trying; those that are the same by the URL standard come without a look. */
export function spellingsOf(door: WebAddress): Spelling[] {
  const { scheme, host, port, path } = door;
  const found: Spelling[] = [];
  if (port === null)
    found.push({ kind: 'port', url: `${scheme}://${host}:${scheme === 'https' ? '443' : '80'}${path}` });
  const text = addressText(door);
  if (path !== '/') found.push({ kind: 'slash', url: text.slice(0, -1) });
  const other = otherCase(path);
  if (other !== path) found.push({ kind: 'case', url: text.slice(0, -path.length) + other });
  found.push({ kind: 'index-file', url: `${text}index.html` });
  return found;
}

/** A spelling that is the same address by the URL standard needs no look: a default port is none (§4.4). */
export function isSameAddress({ url }: Spelling, door: WebAddress): boolean {
  return new URL(url).href === addressText(door);
}

function otherCase(path: string): string {
  return path.replace(/[a-z]/iu, (letter) =>
    letter === letter.toLowerCase() ? letter.toUpperCase() : letter.toLowerCase(),
  );
}

/**
 * What a way of writing turned out to be.
 * @param looked null where no look was needed
 * @param atDoor what the front door itself shows
 */
export function judgeSpelling(
  spelling: Spelling,
  door: WebAddress,
  looked: Looked | null,
  atDoor: Looked | null,
): SpellingSeen {
  const outcome = outcomeOf(spelling, door, looked, atDoor);
  return { ...spelling, outcome, says: `${WORDS[spelling.kind]}: ${OUTCOMES[outcome]}` };
}

function outcomeOf(
  spelling: Spelling,
  door: WebAddress,
  looked: Looked | null,
  atDoor: Looked | null,
): SpellingOutcome {
  if (isSameAddress(spelling, door)) return 'same-address';
  const last = looked?.seen.hops.at(-1);
  if (!looked || looked.seen.end !== 'answered' || last?.status !== 200) return 'nothing';
  const end = atDoor?.seen.hops.at(-1)?.url ?? addressText(door);
  if (last.url === end || last.url === addressText(door)) return 'leads-here';
  return isSameThing(looked.face?.fingerprint ?? null, atDoor?.face?.fingerprint ?? null)
    ? 'same-page'
    : 'other-page';
}

/** What matters of the ways of writing: two addresses for one page, and one that people type and that has nothing. */
export function judgeSpellings(
  door: WebAddress,
  spellings: readonly SpellingSeen[],
  canonical: string | null,
): Finding[] {
  const address = addressText(door);
  return spellings.flatMap(({ kind, url, outcome }) => {
    const values = { url, door: address, how: WORDS[kind] };
    if (outcome === 'same-page')
      return [finding(canonical === null ? 'variants.spelt-twice' : 'variants.spelt-twice-named', values)];
    if (kind === 'slash' && outcome === 'nothing') return [finding('variants.slash-lost', values)];
    return kind === 'slash' && outcome === 'other-page' ? [finding('variants.slash-differs', values)] : [];
  });
}
