import type { Account, Engine } from '../api/documents.js';
import { methodsFor, type EngineProfile } from '../core/profile/profile.js';
import { durationMs, durationWords } from '../core/time/duration.js';
import { newId } from '../store/ids.js';
import { AccountRow } from '../store/models/enrolments.js';
import { nowText, type Desk } from './parts.js';

/** An engine's rules in the words of one who works with them. */
function rulesOf(profile: EngineProfile): string[] {
  const rules = profile.reaches.map(
    (reach) => `Registers by ${reach}: proven by ${methodsFor(profile, reach).join(', ')}.`,
  );
  const lives = profile.token.livesUnclaimed;
  rules.push(
    profile.token.per === 'account'
      ? 'One token for all the properties of an account.'
      : 'A token of its own for each enrolment.',
  );
  if (lives !== undefined)
    rules.push(`A token that nobody claims with lives ${durationWords(durationMs(lives))}.`);
  const grace = durationMs(profile.keeps.grace);
  const patience =
    grace === 0
      ? 'withdraws at once when the token is gone'
      : `withdraws after ${durationWords(grace)} without the token`;
  rules.push(`Looks again every ${durationWords(durationMs(profile.keeps.looksEvery))}; ${patience}.`);
  if (!profile.sitemaps) return [...rules, 'Takes no sitemaps.'];
  const { form, formats, firstReading, needsBadge } = profile.sitemaps;
  const when = durationWords(durationMs(firstReading));
  return [
    ...rules,
    `Takes sitemaps (${formats.join(', ')}) as ${form === 'path' ? 'a path' : 'a whole address'}${needsBadge ? ', once the badge is held' : ''}; first reading within ${when}.`,
  ];
}

export function listEngines(desk: Desk): { items: Engine[] } {
  const items = [...desk.profiles.values()].map((profile): Engine => ({
    id: profile.id,
    title: profile.title,
    audience: profile.audience === 'everyone' ? 'everyone' : [...profile.audience],
    worked: profile.worked.how,
    reaches: [...profile.reaches],
    methods: [...new Set(profile.reaches.flatMap((reach) => methodsFor(profile, reach)))],
    takesSitemaps: profile.sitemaps !== undefined,
    rules: rulesOf(profile),
  }));
  return { items };
}

export async function listAccounts(): Promise<{ items: Account[] }> {
  const rows = await AccountRow.findAll({ order: ['engine', 'name'] });
  return { items: rows.map(({ id, engine, name, createdAt }) => ({ id, engine, name, createdAt })) };
}

/** Every engine with a profile has at least the agency's own account. */
export async function ensureAccounts(desk: Desk): Promise<void> {
  const there = new Set((await AccountRow.findAll({ attributes: ['engine'] })).map(({ engine }) => engine));
  const missing = [...desk.profiles.keys()].filter((engine) => !there.has(engine));
  if (missing.length === 0) return;
  await desk.store.write(async (transaction) => {
    const createdAt = nowText(desk);
    await AccountRow.bulkCreate(
      missing.map((engine) => ({ id: newId(), engine, name: 'agency', createdAt })),
      { transaction },
    );
  });
}
