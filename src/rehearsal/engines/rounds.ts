import type { EngineEnrolment, EngineSitemap, WorldFile } from '../state.js';
import { countAddresses, judgeOwnership } from './judging.js';
import type { Grounds } from './fetching.js';
import type { Registry } from './registry.js';
import type { EngineRules } from './rules.js';

const HOUR_MS = 3_600_000;
/** An engine reads a sitemap again after so many days, and lists this share of what it found by then. */
const READS_AGAIN_MS = 72 * HOUR_MS;
const LISTED_SHARE = 0.96;

/** What an engine does by itself as time goes by: look for tokens again, and read sitemaps. */
export async function makeRounds(world: WorldFile, registry: Registry, grounds: Grounds): Promise<void> {
  const now = world.now();
  const { rules } = registry;
  for (const enrolment of registry.state.enrolments) {
    if (enrolment.ownership.state === 'none') continue;
    if (enrolment.ownership.state === 'held') await lookAgain(registry, grounds, enrolment, now);
    for (const sitemap of enrolment.sitemaps) await readDue(rules, grounds, sitemap, now);
  }
  world.save();
}

async function lookAgain(
  registry: Registry,
  grounds: Grounds,
  enrolment: EngineEnrolment,
  now: Date,
): Promise<void> {
  const { rules } = registry;
  const { method } = enrolment.ownership;
  const isMissing = enrolment.missingSince !== null;
  const due =
    Date.parse(enrolment.lastLook ?? now.toISOString()) + (isMissing ? 12 : rules.lookEveryHours) * HOUR_MS;
  if (method === undefined || now.getTime() < due) return;
  // The look that was due in between would have found the same, since nothing is moved while the clock jumps.
  const firstMissed = isMissing ? enrolment.missingSince : new Date(due).toISOString();
  enrolment.lastLook = now.toISOString();
  const verdict = await judgeOwnership(
    rules,
    grounds,
    enrolment,
    method,
    registry.known(enrolment, method)?.value,
  );
  enrolment.missingSince = verdict.ok ? null : firstMissed;
  if (
    enrolment.missingSince === null ||
    now.getTime() - Date.parse(enrolment.missingSince) < rules.graceHours * HOUR_MS
  )
    return;
  enrolment.ownership = { state: 'withdrawn', since: now.toISOString(), reason: verdict.reason };
  enrolment.missingSince = null;
}

async function readDue(
  rules: EngineRules,
  grounds: Grounds,
  sitemap: EngineSitemap,
  now: Date,
): Promise<void> {
  const submitted = Date.parse(sitemap.submittedAt);
  const next = rules.readsAfterHours[sitemap.tries];
  const due =
    next !== undefined
      ? submitted + next * HOUR_MS
      : Date.parse(sitemap.triedAt ?? sitemap.submittedAt) + READS_AGAIN_MS;
  if (now.getTime() < due && sitemap.isPinged !== true) return;
  sitemap.isPinged = false;
  sitemap.tries += 1;
  sitemap.triedAt = now.toISOString();
  if (sitemap.tries <= rules.failedFirstTries) {
    sitemap.trouble = 'could not be read';
    if (rules.readsAfterHours[sitemap.tries] !== undefined) await readDue(rules, grounds, sitemap, now);
    return;
  }
  const found = await countAddresses(grounds, sitemap.url, rules.reads);
  if (found === null) {
    sitemap.trouble = 'could not be read';
    return;
  }
  Object.assign(sitemap, {
    readAt: now.toISOString(),
    found,
    listed: Math.floor(found * LISTED_SHARE),
    trouble: null,
  });
}
