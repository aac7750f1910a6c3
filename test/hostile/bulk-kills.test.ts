import { expect, it } from 'vitest';
import type { Client } from '../../src/client/client.js';
import { sendOrder } from '../../src/rehearsal/command.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { MISHAPS } from '../../src/rehearsal/mishaps.js';
import { Killable } from '../support/killable.js';

/** Moments at which the service is killed in the midst of its bulk jobs; by night twenty (`npm run hostile`). */
const KILLS = Math.min(20, Number(process.env['KILLS'] ?? '2'));
const ENGINES = ['veldrane', 'ostrime'] as const;
const SITES = [
  ...MISHAPS.slice(0, KILLS).map(({ handle, site }) => ({ handle, host: site.host })),
  { handle: 'clocks', host: 'tidewell-clocks.example' },
  { handle: 'ropes', host: 'bollard-ropes.example' },
  { handle: 'tea', host: 'compass-tea.example' },
];

/** What stands in the records and at the engines in the end, without what is another in every run. */
type Ended = Readonly<Record<string, unknown>>;

async function endOf({ client, world }: Killable): Promise<Ended> {
  const pages = await Promise.all(
    SITES.map(({ handle }) => client.listEnrolments({ query: { property: handle } })),
  );
  const enrolments = pages
    .flatMap(({ items }) => items)
    .map(({ name, badge, placements, claim, ownership }) => ({
      name,
      badge,
      tokens: placements.map(({ method }) => method),
      seen: placements.map(({ check }) => check?.seen ?? null),
      verdict: claim?.verdict ?? null,
      answered: claim !== null && claim.answeredAt !== null,
      ownership: ownership?.kind ?? null,
    }));
  const engines = ENGINES.map((id) => {
    const state = world.file.state.engines[id];
    const there = state?.enrolments ?? [];
    return { id, targets: there.map(({ target }) => target).sort(), judged: state?.claimsJudged.length };
  });
  return { enrolments, engines };
}

/** So many pieces are under way at once at most: what a kill cut off is done before so many more are. */
const AT_ONCE = 8;

/**
 * Begins a bulk job, and kills the service in its midst, up to so many times; each time at another place of it, since a piece that
 * is begun three times and never ended is given up. @returns how often it was killed
 */
async function inBulk(
  service: Killable,
  kills: number,
  begin: (client: Client) => Promise<{ id: string }>,
): Promise<number> {
  const { id } = await begin(service.client);
  const job = () => service.client.showJob({ params: { id } });
  const isFarEnough = async (finished: number) => {
    const now = await job();
    return now.state === 'done' || now.finished >= finished;
  };
  let killed = 0;
  for (let place = 0; killed < kills; place = (await job()).finished + AT_ONCE) {
    await expect.poll(() => isFarEnough(place), { timeout: 600_000, interval: 10 }).toBe(true);
    if ((await job()).state === 'done') break;
    // Now at its beginning, now a little on.
    await new Promise((done) => setTimeout(done, (killed % 5) * 10));
    await service.kill();
    await service.start();
    killed += 1;
  }
  await expect.poll(async () => (await job()).state, { timeout: 600_000, interval: 100 }).toBe('done');
  expect((await job()).finished).toBe((await job()).total);
  return killed;
}

/** A morning in bulk: everything enrolled, every token got and placed, everything checked and claimed. */
async function morning(kills: number): Promise<Ended> {
  const service = await Killable.open();
  let left = kills;
  /** Kills that are done by the end of a job, as a part of all; what one has no room for is left to those behind it. */
  const next = async (part: number, begin: Parameters<typeof inBulk>[2]): Promise<void> => {
    left -= await inBulk(service, Math.max(0, Math.round(kills * part) - (kills - left)), begin);
  };
  try {
    await service.start();
    await service.client.addClient({ body: { name: 'Quay', handle: 'quay' } });
    for (const { handle, host } of SITES) {
      const { job } = await service.client.addProperty({ body: { client: 'quay', address: host, handle } });
      await service.client.finished({ id: job });
    }
    const properties = SITES.map(({ handle }) => handle);
    await next(0.2, (client) =>
      client.enrol({ body: { properties, engines: [...ENGINES], reach: 'address' } }),
    );
    await next(0.35, (client) => client.getTokens({ body: { all: true } }));
    for (const { handle } of SITES.slice(-6)) {
      const { items } = await service.client.listEnrolments({ query: { property: handle } });
      for (const placement of items.flatMap(({ placements }) => placements))
        if (placement.method === 'meta') await sendOrder(service.world.control.url, orderFor(placement));
    }
    await next(0.85, (client) => client.check({ body: { all: true } }));
    await next(1, (client) => client.claim({ body: { all: true, anyway: true } }));
    expect(left).toBe(0);
    expect((await service.client.health()).faults).toBe(0);
    return await endOf(service);
  } finally {
    await service.close();
  }
}

it(`bulk jobs that are killed ${String(KILLS)} times end as undisturbed ones do, with nothing done twice at the engines`, async () => {
  const undisturbed = await morning(0);
  expect(JSON.stringify(undisturbed)).toContain('"badge":"held"');
  expect(await morning(KILLS)).toEqual(undisturbed);
}, 1_200_000);
