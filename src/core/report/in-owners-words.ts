import { hostsForPeople } from '../address/host.js';

/** Something from the journal, with the enrolment that it is about; the engine by its title. */
export interface Happened {
  readonly kind: string;
  readonly says: string;
  readonly engine: string | null;
  readonly reach: 'name' | 'address' | null;
  readonly target: string | null;
}

type Phrase = (engine: string, what: string, reason: string) => string;

/** What is said of an enrolment; `reason` is the engine's own, with a colon before it, or nothing. */
const PHRASES: Readonly<Record<string, Phrase>> = {
  enrolled: (engine, what) => `Registered at ${engine}: ${what}.`,
  'enrolled.again': (engine, what) => `Registered at ${engine} anew: ${what}.`,
  'enrolment.adopted': (engine, what) =>
    `Registered at ${engine} before, and looked after from now on: ${what}.`,
  'enrolment.ended': (engine, what) => `No longer registered at ${engine}: ${what}.`,
  'enrolment.missing': (engine, what) => `${engine} has lost the registration of ${what}.`,
  'claim.confirmed': (engine, what) => `${engine} confirmed the ownership of ${what}.`,
  'claim.refused': (engine, what, reason) =>
    `${engine} did not confirm the ownership of ${what} yet${reason || '.'}`,
  'ownership.confirmed': (engine, what) => `${engine} confirmed the ownership of ${what}.`,
  'ownership.withdrawn': (engine, what, reason) =>
    `${engine} withdrew the proof of ownership of ${what}${reason || '.'}`,
};

/** What happened, in words for people who have never heard of enrolments and badges; the journal's own, plainly, where it is about no enrolment. */
export function inOwnersWords({ kind, says, engine, reach, target }: Happened): string {
  // By which form of its address an engine takes a sitemap is between it and us.
  if (kind === 'sitemap.submitted') return plainly(says.replace(/ as \S+\.$/u, '.'));
  const phrase = Object.hasOwn(PHRASES, kind) ? PHRASES[kind] : undefined;
  if (!phrase || engine === null || target === null) return plainly(says);
  const reason = /“.*”/su.exec(says)?.[0];
  const what = hostsForPeople(reach === 'name' ? `the whole domain ${target}` : target);
  return phrase(engine, what, reason === undefined ? '' : `: ${reason}.`);
}

/** One of our sentences without what only we name so: references of enrolments, badges, hosts in their ASCII form. */
export function plainly(says: string): string {
  const plain = says
    .replace(/(?<![\w@-])([\w-]{1,64})@[\w/-]{1,64}:(?:address|name)\b/gu, '$1')
    .replace(/\b(?:its|the) badge\b/gu, 'the proof of ownership');
  return hostsForPeople(plain);
}
