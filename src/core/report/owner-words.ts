import { hostsForPeople } from '../address/host.js';
import type { SheetLanguage } from '../sheet/sentences.js';
import { REPORT_WORDS } from './report-words.js';

/** Something from the journal, with the enrolment that it is about; the engine by its title. */
export interface Happened {
  readonly kind: string;
  readonly says: string;
  readonly engine: string | null;
  readonly reach: 'name' | 'address' | null;
  readonly target: string | null;
}

/** What happened, in words for people who have never heard of enrolments and badges; the journal's own, plainly, where it is about no enrolment. */
export function inOwnersWords(
  { kind, says, engine, reach, target }: Happened,
  language: SheetLanguage = 'en',
): string {
  const { phrases, wholeDomain } = REPORT_WORDS[language];
  const phrase = Object.hasOwn(phrases, kind) ? phrases[kind] : undefined;
  const named = namedIn(kind, says, target);
  // By which form of its address an engine takes a sitemap is between it and us.
  if (!phrase && kind === 'sitemap.submitted') return plainly(says.replace(/ as \S+\.$/u, '.'));
  if (!phrase || (BY_ENGINE.has(kind) && (engine === null || named === null))) return plainly(says);
  const reason = /“.*”/su.exec(says)?.[0];
  const what = hostsForPeople(
    reach === 'name' && named === target ? wholeDomain(named ?? '') : (named ?? ''),
  );
  return phrase(engine ?? '', what, reason === undefined ? '' : `: ${reason}.`);
}

/** Kinds that only an engine and what is registered there make a sentence of. */
const BY_ENGINE: ReadonlySet<string> = new Set([
  ...['enrolled', 'enrolled.again', 'enrolment.adopted', 'enrolment.ended', 'enrolment.missing'],
  ...['claim.confirmed', 'claim.refused', 'ownership.confirmed', 'ownership.withdrawn'],
  ...['sitemap.submitted', 'sitemap.withdrawn'],
]);

/** What a sentence of the journal is about: a website or a sitemap by its address, else what is registered. */
function namedIn(kind: string, says: string, target: string | null): string | null {
  const [address] = /\bhttps?:\/\/[^\s“”]+[^\s“”.,:;]/u.exec(says) ?? [];
  return kind.startsWith('sitemap.') || kind === 'property.added' ? (address ?? target) : target;
}

/** One of our sentences without what only we name so: references of enrolments, badges, hosts in their ASCII form. */
export function plainly(says: string): string {
  const plain = says
    .replace(/(?<![\w@-])([\w-]{1,64})@[\w/-]{1,64}:(?:address|name)\b/gu, '$1')
    .replace(/\b(?:its|the) badge\b/gu, 'the proof of ownership');
  return hostsForPeople(plain);
}
