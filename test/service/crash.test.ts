import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createClient, type Client } from '../../src/client/client.js';
import { sendOrder } from '../../src/rehearsal/command.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { ANY_PORTS, startWorld, type World } from '../../src/rehearsal/world.js';
import { startBuiltService } from '../support/built.js';
import { addPersonWithKeyHere } from '../../src/service/persons.js';
import { loadSettings } from '../../src/service/settings/load.js';

/** The service is killed without warning while the engine is at work, and started again. */
describe('kill -9', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-crash-'));
  let world: World;
  let key: string;
  let child: ChildProcess;
  let client: Client;

  const start = async () => {
    const started = await startBuiltService(world);
    child = started.child;
    client = createClient({ url: started.url, key });
  };
  /** Waits until the engine has something to do of ours, then kills the service at once. */
  const killWhile = async (isAtWork: () => boolean) => {
    await expect.poll(isAtWork, { timeout: 10_000, interval: 5 }).toBe(true);
    child.kill('SIGKILL');
    await new Promise((done) => child.once('exit', done));
  };
  const engine = () => {
    const state = world.file.state.engines['veldrane'];
    if (!state) throw new Error('no engine');
    return state;
  };
  const order = (body: object) => sendOrder(world.control.url, body);

  beforeAll(async () => {
    world = await startWorld(folder, ANY_PORTS);
    const { settings } = await loadSettings(world.config, {}, {});
    key = await addPersonWithKeyHere(
      settings,
      { name: 'marit', role: 'lead', password: 'lantern-at-the-quay' },
      'test',
    );
    await start();
    await client.addClient({ body: { name: 'Tidewell', handle: 'tidewell' } });
    const { job } = await client.addProperty({
      body: { client: 'tidewell', address: 'tidewell-clocks.example', handle: 'clocks' },
    });
    await client.finished({ id: job });
  });
  afterAll(async () => {
    child.kill('SIGTERM');
    await world.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('in the midst of an enrolment: nothing lost, nothing done twice', async () => {
    await order({ do: 'engine', engine: 'veldrane', slowAfterMs: 2000 });
    const { id } = await client.enrol({ body: { properties: ['clocks'], engines: ['veldrane'] } });
    await killWhile(() => engine().enrolments.length > 0);
    await order({ do: 'engine', engine: 'veldrane' });
    await start();
    const job = await client.finished({ id });
    expect(job.items.map(({ state }) => state)).toEqual(['done']);
    expect(engine().enrolments).toHaveLength(1);
    const { items } = await client.listEnrolments({ query: { property: 'clocks' } });
    expect(items.map(({ ref }) => ref)).toEqual(engine().enrolments.map((one) => one.id));
  });

  it('in the midst of a claim: the engine judges it once, and its verdict is not lost', async () => {
    await client.finished(await client.getTokens({ body: { enrolments: ['clocks'] } }));
    const [enrolment] = (await client.listEnrolments({ query: { property: 'clocks' } })).items;
    const placement = enrolment?.placements.find(({ method }) => method === 'meta');
    if (!placement) throw new Error('no placement');
    await order(orderFor(placement));
    await order({ do: 'engine', engine: 'veldrane', slowAfterMs: 2000 });
    const { id } = await client.claim({ body: { enrolments: ['clocks@veldrane'], method: 'meta' } });
    await killWhile(() => engine().claimsJudged.length > 0);
    await order({ do: 'engine', engine: 'veldrane' });
    await start();
    const job = await client.finished({ id });
    expect(job.items[0]?.result?.claim?.verdict).toBe('confirmed');
    expect(engine().claimsJudged).toHaveLength(1);
    const { items } = await client.journal({ query: { property: 'clocks' } });
    expect(items.filter(({ kind }) => kind === 'claim.sent')).toHaveLength(1);
    expect((await client.showEnrolment({ params: { enrolment: 'clocks@veldrane' } })).badge).toBe('held');
  });

  it('before the claim reached the engine: it is sent once afterwards', async () => {
    await client.finished(
      await client.enrol({ body: { properties: ['clocks'], engines: ['veldrane'], reach: 'name' } }),
    );
    await client.finished(await client.getTokens({ body: { enrolments: ['clocks@veldrane:name'] } }));
    const [placement] = (await client.showEnrolment({ params: { enrolment: 'clocks@veldrane:name' } }))
      .placements;
    if (!placement) throw new Error('no placement');
    await order(orderFor(placement));
    await order({ do: 'engine', engine: 'veldrane', slowMs: 2000 });
    const { id } = await client.claim({ body: { enrolments: ['clocks@veldrane:name'] } });
    const sent = async () =>
      (await client.journal({ query: { property: 'clocks' } })).items.filter(
        ({ kind }) => kind === 'claim.sent',
      ).length;
    await expect.poll(sent, { timeout: 10_000, interval: 10 }).toBe(2);
    child.kill('SIGKILL');
    await new Promise((done) => child.once('exit', done));
    await order({ do: 'engine', engine: 'veldrane' });
    await start();
    const job = await client.finished({ id });
    expect(job.items[0]?.result?.claim?.verdict).toBe('confirmed');
    expect(engine().claimsJudged).toHaveLength(2);
  });
});
