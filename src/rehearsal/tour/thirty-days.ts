import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createClient } from '../../client/client.js';
import { liveThirtyDays, takeOnAll, type Happened, type Lived } from '../thirty-days.js';
import { says, type Tour } from './tour.js';

const DAY = 24 * 3_600_000;

/** The least that there must be between what we tell and what an engine does, in the middle of all. */
const LEAD_DAYS = 2;

/** Thirty days of what happens to websites: what was told, when, and how long before an engine acted. */
export async function thirtyDays(tour: Tour, folder: string): Promise<void> {
  const read = <T>(name: string): T =>
    JSON.parse(readFileSync(join(folder, '.yardbadge', name), 'utf8')) as T;
  const { url, key } = read<{ url: string; key: string }>('signin.json');
  const { control } = read<{ control: string }>('rehearsal.json');
  const world = {
    client: createClient({ url, key }),
    control,
    say: (text: string) => {
      tour.say(text);
    },
  };
  tour.say('\n# Thirty days of what happens to websites\n');
  await takeOnAll(world);
  const lived = await liveThirtyDays(world);
  tour.say('');
  for (const one of lived.happened) tour.say(lineOf(one, lived.begun));
  const told = lived.happened.filter((one) => one.told !== null);
  tour.hold(
    'every harm was told',
    told.every(({ notifiedAt }) => notifiedAt !== null),
  );
  const leads = leadsOf(lived);
  const middle = leads[Math.floor(leads.length / 2)] ?? 0;
  tour.hold(
    `before the engine acted, ${middle.toFixed(1)} days before it in the middle of ${String(leads.length)} alerts`,
    leads.length > 0 && Math.min(...leads) > 0 && middle >= LEAD_DAYS,
  );
  await tour.step('what people were sent', ['notifications', '--limit', '40'], 0, says('token gone', 'sent'));
  await tour.step('what is still open', ['alerts'], 0, says('lost'));
  await tour.step('and how it went at one of them', ['history', 'ferries'], 0, says('held'));
  await tour.step('the watch itself', ['watch', '--limit', '5'], 0, says('In the past day'));
}

/** Days between what was told and what an engine did about it, the least first. */
function leadsOf({ happened }: Lived): number[] {
  return happened
    .flatMap(({ notifiedAt, lostAt }) =>
      notifiedAt !== null && lostAt !== null ? [(Date.parse(lostAt) - Date.parse(notifiedAt)) / DAY] : [],
    )
    .sort((a, b) => a - b);
}

function lineOf({ time, says: what, told, notifiedAt, lostAt }: Happened, begun: number): string {
  const day = (at: string) => `day ${String(Math.floor((Date.parse(at) - begun) / DAY) + 1)}`;
  const hours = (at: string) => ((Date.parse(at) - Date.parse(time)) / (DAY / 24)).toFixed(1);
  const how =
    told === null
      ? 'nothing is told'
      : notifiedAt === null
        ? 'NOT told'
        : `told ${hours(notifiedAt)} hours later${lostAt === null ? '' : `, ${((Date.parse(lostAt) - Date.parse(notifiedAt)) / DAY).toFixed(1)} days before the first engine acted`}`;
  return `${day(time).padEnd(7)} ${what.padEnd(40)} ${how}`;
}
