import type { StepKind } from './kinds.js';
import { lastsAt, sitemapStep, unseen } from './held-steps.js';
import { AT_ENGINE, makeStep, type NextStep } from './step.js';
import type { MakeStep, StepFacts, Wanted } from './step-facts.js';
import { again, claimable, expired, unplaced } from './token-steps.js';

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
      return expired(facts, now, step) ?? unseen(facts, now, step) ?? claimable(facts, now, step);
    case 'held':
      return unseen(facts, now, step) ?? sitemapStep(facts, step);
  }
}
