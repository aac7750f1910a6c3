import type { Hindrance } from '../badge/visibility.js';
import { COUNT_CASES } from '../sitemap/comparison.js';
import { HOUR } from '../time/duration.js';
import type { MakeStep, StepFacts, Wanted } from './step-facts.js';

/** A look that failed is no loss: it is taken again soon. What goes on for long is told to those who can mend it. */
export function unseen(
  { lastCheck, engineTitle, badge }: StepFacts,
  now: Date,
  step: MakeStep,
): Wanted | null {
  const hindered = lastCheck?.hindered;
  if (!hindered) return null;
  if (now < lastsAt(hindered.since))
    return step(
      'wait',
      `The last look failed: ${hindered.says} It is looked at again soon; nothing is lost yet.`,
      hindered.since,
      lastsAt(hindered.since),
    );
  return step(
    'mend-site',
    badge === 'held'
      ? `${UNSEEN[hindered.by]} ${hindered.says} While it lasts, ${engineTitle} does not see the token either, and withdraws the badge in time.`
      : `${UNSEEN[hindered.by]} ${hindered.says} While it lasts, ${engineTitle} does not see the token either: a claim would be refused.`,
    hindered.since,
  );
}

/** From this time on a look that fails again and again is a case to work on. */
export function lastsAt(since: Date): Date {
  return new Date(since.getTime() + LASTS);
}
const LASTS = 2 * HOUR;

const UNSEEN: Readonly<Record<Hindrance, string>> = {
  site: 'The website cannot be reached.',
  names: 'The name cannot be resolved.',
  certificate: 'The certificate keeps visitors and engines out.',
  wall: 'We are kept out; whether engines are, too, only the website’s people can tell.',
  means: 'It takes more than we have to look at it.',
};

export function sitemapStep(facts: StepFacts, step: MakeStep): Wanted {
  if (!facts.takesSitemaps) return step('none', `Held at ${facts.engineTitle}.`);
  const inUse = facts.sitemaps.filter((one) => !one.withdrawn);
  // What no engine knows harms nobody, and nobody is asked to mend it.
  const broken = inUse.find(
    (one) => one.submitted && (one.state === 'unreachable' || one.state === 'flawed'),
  );
  if (broken)
    return step(
      'mend-sitemap',
      broken.worst ?? `The sitemap ${broken.url} is ${broken.state}.`,
      broken.since,
    );
  const submitted = inUse.filter((one) => one.submitted);
  if (submitted.length === 0 && facts.leadsOnly)
    return step('none', `Held at ${facts.engineTitle}, for a variant that only leads to the front door.`);
  if (submitted.length === 0) return step('submit-sitemap', `Submit a sitemap to ${facts.engineTitle}.`);
  const off = submitted.find(({ counts }) => counts !== null && COUNT_CASES.includes(counts));
  if (off)
    return step(
      'read-sitemap',
      `${facts.engineTitle}’s reading of ${off.url} is ${off.counts === 'apart' ? 'unlike ours' : String(off.counts)}: compare the counts.`,
      off.apartSince ?? off.since,
    );
  const spare = submitted.find(({ tooManyBy }) => tooManyBy !== null);
  if (spare)
    return step(
      'withdraw-sitemap',
      spare.tooManyBy === spare.url
        ? `Withdraw ${spare.url} from this enrolment: ${facts.engineTitle} knows it by another enrolment as well.`
        : `Withdraw ${spare.url} from ${facts.engineTitle}: it has ${spare.tooManyBy ?? ''}, which is enough.`,
      spare.since,
    );
  const waiting = submitted.find((one) => one.counts === 'waiting');
  if (waiting)
    return step(
      'wait',
      `${facts.engineTitle} has yet to read ${waiting.url}.`,
      waiting.since,
      waiting.dueBy,
      'engine',
    );
  return step('none', `Held, and the sitemap is read.`);
}
