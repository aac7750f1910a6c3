import type { Acts, StepKind } from './kinds.js';
import { AT_ENGINE, makeStep, type NextStep } from './step.js';
import type { Badge } from '../badge/standing.js';
import type { Hindrance } from '../badge/sight.js';
import type { Method } from '../profile/profile.js';
import type { Forecast } from '../badge/judge/judge.js';
import { COUNT_CASES, type CountState } from '../sitemap/comparison.js';
import type { SitemapState } from '../sitemap/reading.js';
import { HOUR } from '../time/duration.js';
import { writtenDay } from '../time/written.js';

/** What is on record for one enrolment, as far as its next step needs it. */
export interface StepFacts {
  readonly engineTitle: string;
  /** Whether a person carries everything to and from the engine. */
  readonly byHand: boolean;
  /** Since when the engine does not know the enrolment any more; null while it does. */
  readonly missingSince: Date | null;
  /** When the token in force is void if nobody claims with it; null where it lasts. */
  readonly tokenExpiresAt: Date | null;
  /** What the engine has switched off, and until when. */
  readonly suspended: readonly { readonly work: string; readonly until: Date; readonly since: Date }[];
  /** When it was to be ended at an engine that is worked by hand, which nobody has said that it was; null where it is to stay. */
  readonly endAsked: Date | null;
  readonly badge: Badge;
  readonly badgeSince: Date;
  /** The methods whose token is known, the best first. */
  readonly methods: readonly Method[];
  /** Those of which we can carry the token ourselves, since its place is on record. */
  readonly carried: readonly Method[];
  /** The method by which the badge is held; null where it is not, or where that is not known. */
  readonly heldBy: Method | null;
  /** The newest look at any placement. */
  readonly lastCheck: {
    readonly at: Date;
    readonly forecast: Forecast;
    readonly visibleAt: Date | null;
    readonly says: string | null;
    /** Whether something was placed there, rightly or not. */
    readonly tried: boolean;
    /** What stood in the way of the look, and since when nothing was seen; null where it came as far as the place. */
    readonly hindered: { readonly by: Hindrance; readonly says: string; readonly since: Date } | null;
  } | null;
  /** A claim that was sent and whose answer is not known. */
  readonly openClaim: Date | null;
  readonly refusal: { readonly at: Date; readonly reason: string } | null;
  readonly takesSitemaps: boolean;
  /** Whether it is for a variant that only leads elsewhere, so that nothing more is to be done with it. */
  readonly leadsOnly: boolean;
  /** The sitemaps that it covers. */
  readonly sitemaps: readonly {
    readonly url: string;
    readonly state: SitemapState;
    /** The worst that our reading found; null where it found nothing to mend. */
    readonly worst: string | null;
    readonly submitted: boolean;
    /** Whether it was taken back everywhere, so that nobody reads it any more. */
    readonly withdrawn: boolean;
    readonly counts: CountState | null;
    readonly dueBy: Date | null;
    readonly since: Date;
    /** The sitemap beside which its submission by this enrolment is one too many; null where it is not. */
    readonly tooManyBy: string | null;
    /** Since when the engine's count has been unlike ours. */
    readonly apartSince: Date | null;
  }[];
}

/** What an engine has to be asked for so that a step can be done; other steps need nobody but us and the client. */
export const STEP_NEEDS: Readonly<Partial<Record<StepKind, string>>> = {
  'enrol-again': 'enrol',
  'ask-engine': 'claim',
  claim: 'claim',
  'renew-token': 'token',
  'get-token': 'token',
  enrol: 'enrol',
  'enrol-door': 'enrol',
  'submit-sitemap': 'sitemaps',
  'withdraw-sitemap': 'sitemaps',
};

/** The next step for one enrolment, from what is recorded. What the engine has switched off is waited for, not failed. */
export function nextStep(facts: StepFacts, now: Date): NextStep {
  const step = wantedStep({ ...facts, engineTitle: AT_ENGINE }, now);
  const off = facts.suspended.find(({ work }) => work === STEP_NEEDS[step.kind]);
  if (!off) return makeStep(step, facts.engineTitle);
  const then = step.template.charAt(0).toLowerCase() + step.template.slice(1);
  return makeStep(
    {
      kind: 'wait',
      template: `Switched off by ${AT_ENGINE} for now; then: ${then}`,
      since: off.since,
      until: off.until,
      acts: 'engine',
    },
    facts.engineTitle,
  );
}

/**
 * When the next step of an enrolment may change by time alone: the first time to come of all that are in its facts; null where
 * none is. Before it, and while the facts stay as they are, so does the step.
 */
export function turnsAt(facts: StepFacts, now: Date): Date | null {
  const times = [
    facts.tokenExpiresAt,
    facts.lastCheck?.visibleAt,
    facts.lastCheck?.hindered ? lastsAt(facts.lastCheck.hindered.since) : null,
    ...facts.suspended.map(({ until }) => until),
    ...facts.sitemaps.map(({ dueBy }) => dueBy),
  ].flatMap((time) => (time && time > now ? [time.getTime()] : []));
  return times.length === 0 ? null : new Date(Math.min(...times));
}

type Wanted = Pick<NextStep, 'kind' | 'template' | 'since' | 'until'> & { acts?: Acts };

function wantedStep(facts: StepFacts, now: Date): Wanted {
  const engine = facts.engineTitle;
  const since = facts.badgeSince;
  const step: MakeStep = (kind, template, from = since, until = null, acts) => ({
    kind,
    template,
    since: from,
    until,
    ...(acts ? { acts } : {}),
  });
  if (facts.endAsked)
    return step(
      'end-there',
      `End it on ${engine}’s own pages, then record that it has ended: until then ${engine} still has it.`,
      facts.endAsked,
    );
  if (facts.missingSince)
    return step(
      'enrol-again',
      `${engine} has lost this enrolment; nothing is wrong with the site. Enrol it again and get the token anew.`,
      facts.missingSince,
    );
  if (facts.openClaim)
    return step(
      'ask-engine',
      `${engine} has not answered the claim yet; ask how it stands.`,
      facts.openClaim,
    );
  if (facts.leadsOnly && facts.badge !== 'held')
    return step('none', 'For a variant that only leads to the front door: an enrolment there counts.');
  switch (facts.badge) {
    case 'lost':
      if (facts.lastCheck?.forecast === 'accept' && facts.lastCheck.at > since)
        return step('claim', `The token stands again: claim at ${engine} once more.`);
      return step(
        'prove-again',
        `${engine} withdrew the badge. ${again(facts, facts.methods, 'Have the token placed again')}, check, and claim.`,
      );
    case 'slipping':
      return step(
        'repair',
        `The token is gone: ${facts.lastCheck?.says ?? 'our check no longer sees it.'} ${again(facts, facts.heldBy === null ? facts.methods : [facts.heldBy], 'Have it put back')} before ${engine} looks.`,
        facts.lastCheck?.at ?? since,
      );
    case 'bare':
      return facts.byHand
        ? step('get-token', `Register the site on ${engine}’s own pages, and paste the token that it shows.`)
        : step('get-token', `Get the token from ${engine}.`);
    case 'issued':
      return expired(facts, now, step) ?? unplaced(facts, now, step);
    case 'in-place':
      return expired(facts, now, step) ?? claimable(facts, now, step);
    case 'held':
      return unseen(facts, now, step) ?? sitemapStep(facts, step);
  }
}

type MakeStep = (kind: StepKind, template: string, from?: Date, until?: Date | null, acts?: Acts) => Wanted;

/** A token that nobody claimed with in time is void, wherever it stands. */
function expired(facts: StepFacts, now: Date, step: MakeStep): Wanted | null {
  const at = facts.tokenExpiresAt;
  if (!at || at > now) return null;
  return step(
    'renew-token',
    `The token was void on ${writtenDay(at)}, since nobody had claimed with it: get a new one; what was placed is old.`,
    at,
  );
}

/** When there is little time left to have a token placed and claimed. */
function hurry({ tokenExpiresAt, engineTitle }: StepFacts): string {
  return tokenExpiresAt
    ? ` ${engineTitle}’s token is void on ${writtenDay(tokenExpiresAt)} unless it is claimed by then.`
    : '';
}

function unplaced(facts: StepFacts, now: Date, step: MakeStep): Wanted {
  const check = facts.lastCheck;
  const carries = carriedThere(facts, step);
  if (!check)
    return (
      carries ?? step('place', `Have the token for ${facts.engineTitle} placed, then check.${hurry(facts)}`)
    );
  if (check.visibleAt && check.visibleAt > now) {
    return step(
      'wait',
      `Not seen yet, and resolvers may remember that until then: check again afterwards.`,
      check.at,
      check.visibleAt,
    );
  }
  if (!check.tried && carries !== null) return carries;
  if (!check.tried && facts.methods.length > 1)
    return step(
      'place',
      `Nothing is placed yet: have one of its tokens placed (${either(facts.methods)}; one is enough), then check.${hurry(facts)}`,
    );
  return step(
    'place',
    `Not in place at the last check: ${check.says ?? 'the token was not seen.'}${hurry(facts)}`,
    facts.badgeSince,
  );
}

/** Where we can carry a token of one of some methods ourselves; null where its place is not on record. */
function placeOnRecord({ carried }: StepFacts, methods: readonly Method[]): 'zone' | 'web root' | null {
  const method = methods.find((one) => carried.includes(one));
  if (method === undefined) return null;
  return method === 'dns' ? 'zone' : 'web root';
}

/** How a token that stood comes back: by us where its place is on record, else by whoever has the keys. */
function again(facts: StepFacts, methods: readonly Method[], otherwise: string): string {
  const where = placeOnRecord(facts, methods);
  return where === null ? otherwise : `Carry it to the ${where} again`;
}

/** A token whose place is on record waits for nobody. */
function carriedThere(facts: StepFacts, step: MakeStep): Wanted | null {
  const where = placeOnRecord(facts, facts.methods);
  if (where === null) return null;
  return step(
    'carry',
    `Carry the token for ${facts.engineTitle} to the ${where}: its place is on record.${hurry(facts)}`,
  );
}

/** `meta or dns`, `meta, file or dns` */
function either(methods: readonly Method[]): string {
  return [methods.slice(0, -1).join(', '), methods.at(-1)].join(' or ');
}

function claimable(facts: StepFacts, now: Date, step: MakeStep): Wanted {
  const { lastCheck, refusal } = facts;
  if (refusal && (!lastCheck || refusal.at >= lastCheck.at)) {
    return step(
      'check',
      `${facts.engineTitle} refused (“${refusal.reason}”) though our check saw the token: check again before another claim.`,
      refusal.at,
    );
  }
  if (lastCheck?.visibleAt && lastCheck.visibleAt > now)
    return step('wait', 'In place; a claim makes sense from then on.', lastCheck.at, lastCheck.visibleAt);
  return step(
    'claim',
    facts.byHand
      ? `The token stands: claim on ${facts.engineTitle}’s own pages, and record the verdict.`
      : `The token stands: claim at ${facts.engineTitle}.${hurry(facts)}`,
  );
}

/** A look that failed is no loss: it is taken again soon. What goes on for long is told to those who can mend it. */
function unseen({ lastCheck, engineTitle }: StepFacts, now: Date, step: MakeStep): Wanted | null {
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
    `${UNSEEN[hindered.by]} ${hindered.says} While it lasts, ${engineTitle} does not see the token either, and withdraws the badge in time.`,
    hindered.since,
  );
}

/** From this time on a look that fails again and again is a case to work on. */
function lastsAt(since: Date): Date {
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

function sitemapStep(facts: StepFacts, step: MakeStep): Wanted {
  if (!facts.takesSitemaps) return step('none', `Held at ${facts.engineTitle}.`);
  const inUse = facts.sitemaps.filter((one) => !one.withdrawn);
  const broken = inUse.find((one) => one.state === 'unreachable' || one.state === 'flawed');
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
