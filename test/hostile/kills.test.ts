import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { orderFor } from '../../src/rehearsal/developer.js';
import { sendOrder } from '../../src/rehearsal/command.js';
import { Store } from '../../src/store/store.js';
import { ClaimRow, EnrolmentRow, OwnershipRow } from '../../src/store/models/enrolments.js';
import { JobItemRow, JobRow } from '../../src/store/models/jobs.js';
import { SubmissionRow } from '../../src/store/models/sitemaps.js';
import { Killable } from '../support/killable.js';

/** How often the service is killed; by night more (`npm run hostile`). */
const KILLS = Number(process.env['KILLS'] ?? '12');
const ENGINES = ['veldrane', 'ostrime'] as const;
const HANDLES = ['clocks', 'ropes', 'tea', 'buttons'] as const;
const HOSTS: Readonly<Record<(typeof HANDLES)[number], string>> = {
  clocks: 'tidewell-clocks.example',
  ropes: 'bollard-ropes.example',
  tea: 'compass-tea.example',
  buttons: 'button-museum.example',
};

/** The same numbers every time: where the kills fall is random, but not the orders between them. */
function* numbers(seed: number): Generator<number> {
  for (let at = seed; ; at = (Math.imul(at, 1_103_515_245) + 12_345) >>> 0) yield (at >>> 8) / 2 ** 24;
}

describe('killed at any moment', () => {
  let service: Killable;
  const random = numbers(20_261_126);
  const next = () => random.next().value as number;
  const pick = <T>(some: readonly T[]): T => some[Math.floor(next() * some.length)] as T;
  const engine = (id: string) => {
    const state = service.world.file.state.engines[id];
    if (!state) throw new Error(`no engine ${id}`);
    return state;
  };
  /** Something a consultant would order; what is refused because of what came before is no matter here. */
  const order = async (): Promise<void> => {
    const handle = pick(HANDLES);
    const enrolments = [`${handle}@${pick(ENGINES)}`];
    const { client } = service;
    const orders = [
      () => client.enrol({ body: { properties: [handle], engines: [...ENGINES] } }),
      () => client.enrol({ body: { properties: [handle], engines: [...ENGINES] } }),
      () => client.endEnrolment({ params: { enrolment: enrolments[0] ?? '' } }),
      () => client.getTokens({ body: { enrolments } }),
      () => client.check({ body: { enrolments } }),
      () => client.claim({ body: { enrolments, anyway: true } }),
      () => client.claim({ body: { enrolments, anyway: true } }),
      async () => {
        const { items } = await client.listSitemaps({ query: { property: handle } });
        return client.submitSitemap({ body: { sitemap: items[0]?.id ?? '' } });
      },
    ];
    await pick(orders)().catch(() => undefined);
  };

  /** Puts the tags of a property into its page, as its developer would. */
  const place = async (handle: string): Promise<void> => {
    const { items } = await service.client.listEnrolments({ query: { property: handle } });
    for (const placement of items.flatMap(({ placements }) => placements))
      if (placement.method === 'meta') await sendOrder(service.world.control.url, orderFor(placement));
  };

  beforeAll(async () => {
    service = await Killable.open();
    await service.start();
    await service.client.addClient({ body: { name: 'Quay', handle: 'quay' } });
    for (const handle of HANDLES) {
      const { job } = await service.client.addProperty({
        body: { client: 'quay', address: HOSTS[handle], handle },
      });
      await service.client.finished({ id: job });
      await service.client.addSitemap({ body: { property: handle, address: 'sitemap.xml' } });
      await service.client.finished(
        await service.client.enrol({ body: { properties: [handle], engines: [...ENGINES] } }),
      );
      await service.client.finished(await service.client.getTokens({ body: { enrolments: [handle] } }));
      await place(handle);
    }
  });
  afterAll(() => service.close());

  it(
    `${String(KILLS)} times: nothing is lost, and nothing was done twice at the engines`,
    async () => {
      const open = async () =>
        (await service.client.listJobs({ query: { limit: 500 } })).items.filter(
          ({ state }) => state !== 'done',
        ).length;
      for (let kill = 0; kill < KILLS; kill += 1) {
        const orders = Array.from({ length: 4 }, () => order());
        // What stands at the websites changes too, so that some claims succeed.
        await place(pick(HANDLES)).catch(() => undefined);
        await new Promise((done) => setTimeout(done, next() * 250));
        await service.kill();
        await Promise.all(orders);
        await service.start();
        // A piece that is cut off three times is given up: every other time all that is open is done before the next kill.
        if (kill % 2 === 1) await expect.poll(open, { timeout: 600_000, interval: 50 }).toBe(0);
      }
      await expect.poll(open, { timeout: 600_000, interval: 200 }).toBe(0);
      expect((await service.client.health()).faults).toBe(0);
      await service.kill();
      const store = await Store.open(service.data);
      try {
        expect(await JobItemRow.count({ where: { state: ['waiting', 'running'] } })).toBe(0);
        expect(await JobRow.count({ where: { state: ['waiting', 'running'] } })).toBe(0);
        const all = await EnrolmentRow.findAll();
        const enrolments = all.filter(({ endedAt }) => endedAt == null);
        const claims = await ClaimRow.findAll();
        for (const id of ENGINES) {
          const { enrolments: there, claimsJudged } = engine(id);
          const own = enrolments.filter((row) => row.engine === id);
          // What the engine has is what we have: no enrolment is lost between it and us, none is there twice.
          expect(there.map((one) => one.id).sort()).toEqual(own.map(({ ref }) => ref).sort());
          expect(new Set(there.map(({ target }) => target)).size).toBe(there.length);
          // Each claim was judged once, and each that was judged is one of ours with its verdict.
          const judged = claimsJudged.map((one) => (typeof one === 'string' ? one : JSON.stringify(one)));
          expect(new Set(judged).size).toBe(judged.length);
          const answered = claims.filter(
            ({ enrolmentId, answeredAt }) =>
              answeredAt != null && all.some((row) => row.id === enrolmentId && row.engine === id),
          );
          expect(judged).toHaveLength(answered.length);
          // What it was told of sitemaps is what we wrote down.
          const told = there.flatMap(({ sitemaps }) => sitemaps.map((one) => one.id));
          const written = await SubmissionRow.findAll({
            where: { enrolmentId: own.map((row) => row.id), withdrawnAt: null },
          });
          expect(told.sort()).toEqual(written.map(({ ref }) => ref).sort());
        }
        // No badge is held twice over by one claim.
        const confirmed = await OwnershipRow.count({ where: { kind: 'confirmed' } });
        expect(confirmed).toBeLessThanOrEqual(
          claims.filter(({ verdict }) => verdict === 'confirmed').length + all.length,
        );
        expect(claims.filter(({ verdict }) => verdict === 'confirmed').length).toBeGreaterThan(0);
      } finally {
        await store.close();
      }
    },
    // Far beyond what it takes: what is bounded is what was done, above, and not the time on a machine with other work.
    1_200_000 + KILLS * 60_000,
  );
});
