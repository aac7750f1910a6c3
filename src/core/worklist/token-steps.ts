import type { Method } from '../profile/profile.js';
import { writtenDay, writtenMinute } from '../time/time-formats.js';
import type { MakeStep, StepFacts, Wanted } from './step-facts.js';

/** A token that nobody claimed with in time is void, wherever it stands. */
export function expired(facts: StepFacts, now: Date, step: MakeStep): Wanted | null {
  const at = facts.tokenExpiresAt;
  if (!at || at > now) return null;
  return step(
    'renew-token',
    `The token expired on ${writtenDay(at)}, before anybody claimed with it: get a new one. What was placed is out of date.`,
    at,
  );
}

/** When there is little time left to have a token placed and claimed. */
function hurry({ tokenExpiresAt, engineTitle }: StepFacts): string {
  return tokenExpiresAt
    ? ` ${engineTitle}’s token expires on ${writtenDay(tokenExpiresAt)} unless it is claimed by then.`
    : '';
}

export function unplaced(facts: StepFacts, now: Date, step: MakeStep): Wanted {
  const check = facts.lastCheck;
  const publish = publishStep(facts, step);
  if (!check)
    return (
      publish ?? step('place', `Have the token for ${facts.engineTitle} placed, then check.${hurry(facts)}`)
    );
  if (check.visibleAt && check.visibleAt > now) {
    return step(
      'wait',
      `Not seen yet, and resolvers may remember that until then: check again afterwards.`,
      check.at,
      check.visibleAt,
    );
  }
  if (!check.tried && publish !== null) return publish;
  if (!check.tried && facts.methods.length > 1)
    return step(
      'place',
      `Nothing was placed yet on ${writtenMinute(check.at)} UTC: have one of its tokens placed (${either(facts.methods)}; one is enough). It is looked at by itself.${hurry(facts)}`,
    );
  return step(
    'place',
    `Not in place at the last check, on ${writtenMinute(check.at)} UTC: ${check.says ?? 'the token was not seen.'}${hurry(facts)}`,
    facts.badgeSince,
  );
}

/** Where we can publish a token of one of some methods ourselves; null where no target is on record. */
function targetOnRecord({ carried }: StepFacts, methods: readonly Method[]): 'zone' | 'web root' | null {
  const method = methods.find((one) => carried.includes(one));
  if (method === undefined) return null;
  return method === 'dns' ? 'zone' : 'web root';
}

/** How a token that stood comes back: by us where a target is on record, else by whoever has the keys. */
export function again(facts: StepFacts, methods: readonly Method[], otherwise: string): string {
  const where = targetOnRecord(facts, methods);
  return where === null ? otherwise : `Publish it in the ${where} again`;
}

/** A token with a target on record waits for nobody. */
function publishStep(facts: StepFacts, step: MakeStep): Wanted | null {
  const where = targetOnRecord(facts, facts.methods);
  if (where === null) return null;
  return step(
    'publish',
    `Publish the token for ${facts.engineTitle} in the ${where}, to which we have access.${hurry(facts)}`,
  );
}

/** `meta or dns`, `meta, file or dns` */
function either(methods: readonly Method[]): string {
  return [methods.slice(0, -1).join(', '), methods.at(-1)].join(' or ');
}

export function claimable(facts: StepFacts, now: Date, step: MakeStep): Wanted {
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
