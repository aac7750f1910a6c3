import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MISHAPS } from '../../src/rehearsal/mishaps.js';
import { openStage, type Stage } from '../support/stage.js';

/** What went wrong with each client of the demo, by the finding that has to come first. */
const FIRST: Readonly<Record<string, string>> = {
  lamps: 'file.wrapped',
  nets: 'dns.doubled-name',
  kippers: 'meta.stale-copy',
  pilots: 'reach.tls-expired',
  sails: 'dns.remembered',
  chandlers: 'dns.wrong-host',
  dredgers: 'dns.servers-disagree',
  oysters: 'reach.bot-wall',
  gulls: 'meta.quotes',
  light: 'reach.keeps-out-tag',
  tides: 'meta.behind-frame',
};

describe('the mishaps of the demo', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    await marit.addClient({ body: { name: 'Harbour', handle: 'harbour' } });
    for (const { handle, site, engine, reach, method } of MISHAPS) {
      const { job } = await marit.addProperty({ body: { client: 'harbour', address: site.host, handle } });
      await marit.finished({ id: job });
      await stage.results(marit.enrol({ body: { properties: [handle], engines: [engine], reach } }));
      await stage.results(marit.getTokens({ body: { enrolments: [handle], method } }));
      const { items } = await marit.listEnrolments({ query: { property: handle } });
      const put = items[0]?.placements.find((one) => one.method === method)?.put;
      if (!put) throw new Error(`${handle} has no token`);
      for (const order of MISHAPS.find((one) => one.handle === handle)?.orders(put) ?? [])
        await stage.order(order);
    }
    await stage.results(marit.check({ body: { all: true } }));
  });
  afterAll(() => stage.close());

  it('are all told', () => {
    expect(MISHAPS.map(({ handle }) => handle).sort()).toEqual(Object.keys(FIRST).sort());
  });

  it.each(Object.entries(FIRST))('%s: %s', async (property, code) => {
    const { items } = await stage.marit.listEnrolments({ query: { property } });
    const [check] = items.flatMap(({ placements }) => placements.flatMap((one) => one.check ?? []));
    expect(check?.findings[0]?.code).toBe(code);
    expect(check?.findings[0]?.remedy).toMatch(/^Please /);
  });
});
