import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sendOrder } from '../../src/rehearsal/command.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { Killable } from '../support/killable.js';

/** The service is killed without warning while the engine is at work, and started again. */
describe('kill -9', () => {
  let service: Killable;
  /** Waits until the engine has something to do of ours, then kills the service at once. */
  const killWhile = async (isAtWork: () => boolean) => {
    await expect.poll(isAtWork, { timeout: 60_000, interval: 5 }).toBe(true);
    await service.kill();
  };
  const engine = () => {
    const state = service.world.file.state.engines['veldrane'];
    if (!state) throw new Error('no engine');
    return state;
  };
  const order = (body: object) => sendOrder(service.world.control.url, body);

  beforeAll(async () => {
    service = await Killable.open();
    await service.startWithClocks();
  });
  afterAll(() => service.close());

  it('in the midst of an enrolment: nothing lost, nothing done twice', async () => {
    await order({ do: 'engine', engine: 'veldrane', slowAfterMs: 2000 });
    const { id } = await service.client.enrol({ body: { properties: ['clocks'], engines: ['veldrane'] } });
    await killWhile(() => engine().enrolments.length > 0);
    await order({ do: 'engine', engine: 'veldrane' });
    await service.start();
    const job = await service.client.finished({ id });
    expect(job.items.map(({ state }) => state)).toEqual(['done']);
    expect(engine().enrolments).toHaveLength(1);
    const { items } = await service.client.listEnrolments({ query: { property: 'clocks' } });
    expect(items.map(({ ref }) => ref)).toEqual(engine().enrolments.map((one) => one.id));
  });

  it('in the midst of a claim: the engine judges it once, and its verdict is not lost', async () => {
    await service.client.finished(await service.client.getTokens({ body: { enrolments: ['clocks'] } }));
    const [enrolment] = (await service.client.listEnrolments({ query: { property: 'clocks' } })).items;
    const placement = enrolment?.placements.find(({ method }) => method === 'meta');
    if (!placement) throw new Error('no placement');
    await order(orderFor(placement));
    await order({ do: 'engine', engine: 'veldrane', slowAfterMs: 2000 });
    const { id } = await service.client.claim({ body: { enrolments: ['clocks@veldrane'], method: 'meta' } });
    await killWhile(() => engine().claimsJudged.length > 0);
    await order({ do: 'engine', engine: 'veldrane' });
    await service.start();
    const job = await service.client.finished({ id });
    expect(job.items[0]?.result?.claim?.verdict).toBe('confirmed');
    expect(engine().claimsJudged).toHaveLength(1);
    const { items } = await service.client.journal({ query: { property: 'clocks' } });
    expect(items.filter(({ kind }) => kind === 'claim.sent')).toHaveLength(1);
    expect((await service.client.showEnrolment({ params: { enrolment: 'clocks@veldrane' } })).badge).toBe(
      'held',
    );
  });

  it('before the claim reached the engine: it is sent once afterwards', async () => {
    await service.client.finished(
      await service.client.enrol({ body: { properties: ['clocks'], engines: ['veldrane'], reach: 'name' } }),
    );
    await service.client.finished(
      await service.client.getTokens({ body: { enrolments: ['clocks@veldrane:name'] } }),
    );
    const [placement] = (
      await service.client.showEnrolment({ params: { enrolment: 'clocks@veldrane:name' } })
    ).placements;
    if (!placement) throw new Error('no placement');
    await order(orderFor(placement));
    await order({ do: 'engine', engine: 'veldrane', slowMs: 2000 });
    const { id } = await service.client.claim({ body: { enrolments: ['clocks@veldrane:name'] } });
    const sent = async () =>
      (await service.client.journal({ query: { property: 'clocks' } })).items.filter(
        ({ kind }) => kind === 'claim.sent',
      ).length;
    await expect.poll(sent, { timeout: 60_000, interval: 10 }).toBe(2);
    await service.kill();
    await order({ do: 'engine', engine: 'veldrane' });
    await service.start();
    const job = await service.client.finished({ id });
    expect(job.items[0]?.result?.claim?.verdict).toBe('confirmed');
    expect(engine().claimsJudged).toHaveLength(2);
  });
});
