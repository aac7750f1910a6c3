import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Enrolment, Job, JobResult, Role } from '../../src/api/documents.js';
import { createClient, type Client } from '../../src/client/client.js';
import { keyByPassword } from '../../src/client/key-by-password.js';
import { sendOrder } from '../../src/rehearsal/command.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import type { EngineRules } from '../../src/rehearsal/engines/rules.js';
import { ANY_PORTS, startWorld, type World } from '../../src/rehearsal/world.js';
import { addPersonWithKeyHere } from '../../src/service/persons.js';
import { serve, type Running } from '../../src/service/serve.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { removed } from './removed.js';
import { STAGE_TIME } from './time.js';

export const PASSWORD = 'lantern-at-the-quay';

/** A rehearsal world and a service in it, in a folder of their own. */
export interface Stage {
  readonly folder: string;
  readonly world: World;
  readonly url: string;
  /** The client of a lead. */
  readonly marit: Client;
  readonly key: string;
  person(name: string, role: Role): Promise<{ client: Client; key: string }>;
  /** Waits for a job and gives what its pieces came to. */
  results(job: Promise<Job>): Promise<JobResult[]>;
  order(order: object): Promise<void>;
  close(): Promise<void>;
}

/**
 * @param flags settings in place of the world's, by key
 * @param guests engines that the product knows nothing of
 * @param inWorld more settings, by the file of those with which the service would run in the world
 */
export async function openStage(
  flags: Readonly<Record<string, string>> = {},
  guests: readonly EngineRules[] = [],
  inWorld: (config: string) => Readonly<Record<string, string>> = () => ({}),
): Promise<Stage> {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-'));
  const world = await startWorld(folder, ANY_PORTS, STAGE_TIME, guests);
  const { settings } = await loadSettings(
    world.config,
    {},
    { log: 'error', 'watch.on': 'false', ...flags, ...inWorld(readFileSync(world.config, 'utf8')) },
  );
  const key = await addPersonWithKeyHere(
    settings,
    { name: 'marit', role: 'lead', password: PASSWORD },
    'test',
  );
  const service: Running = await serve(
    settings,
    { ...process.env, ...world.env },
    {
      checkAnswers: true,
      // Nobody waits in tests: the pauses between tries are held against the link by themselves.
      pause: () => Promise.resolve(),
    },
  );
  const clientFor = (secret: string) => createClient({ url: service.url, key: secret, wait: 5 });
  const marit = clientFor(key);
  return {
    folder,
    world,
    url: service.url,
    marit,
    key,
    async person(name, role) {
      await marit.addPerson({ body: { name, role, password: PASSWORD } });
      const secret = await keyByPassword(service.url, name, PASSWORD, 'test');
      return { client: clientFor(secret), key: secret };
    },
    async results(started) {
      const job = await marit.finished(await started);
      return job.items.flatMap(({ result }) => (result ? [result] : []));
    },
    async order(order) {
      const { done, says } = await sendOrder(world.control.url, order);
      if (!done) throw new Error(says);
    },
    async close() {
      const { faults } = await marit.health();
      const { differing } = await marit.verifyRecords();
      await service.close();
      await world.close();
      await removed(folder);
      if (differing.length > 0)
        throw new Error(
          `what is kept ready is not what the facts say: ${JSON.stringify(differing.slice(0, 3))}`,
        );
      if (faults > 0) throw new Error(`${String(faults)} errors reached the process of the service`);
    },
  };
}

/** Takes the ferry line on, enrolled with everything, tokens known, nothing placed. */
export async function takeOnFerries(stage: Stage): Promise<Enrolment[]> {
  const { marit } = stage;
  await marit.addClient({ body: { name: 'Saltmarsh Ferry Line', handle: 'saltmarsh' } });
  const { job } = await marit.addProperty({
    body: { client: 'saltmarsh', address: 'Saltmarsh-Ferries.example', handle: 'ferries' },
  });
  await marit.finished({ id: job });
  await stage.results(marit.enrol({ body: { properties: ['ferries'], engines: ['house', 'veldrane'] } }));
  await stage.results(
    marit.enrol({ body: { properties: ['ferries'], engines: ['veldrane'], reach: 'name' } }),
  );
  await stage.results(marit.getTokens({ body: { enrolments: ['ferries'] } }));
  return (await marit.listEnrolments({ query: { property: 'ferries' } })).items;
}

/** Does what a person does at an engine that is worked by hand: registers on its pages, and pastes the tokens that they show. */
export async function registerByHand(stage: Stage, property: string, engine: string): Promise<void> {
  const { items } = await stage.marit.listEnrolments({ query: { property } });
  for (const { name, target } of items.filter((one) => one.engine.id === engine)) {
    const response = await fetch(`${stage.world.control.url}/orders`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ do: 'page', engine, visit: { target, ask: 'register' } }),
    });
    const { says } = (await response.json()) as { says: string };
    await stage.marit.pasteToken({ params: { enrolment: name }, body: { text: says } });
  }
}

/** Does what the client’s developer would: puts every token of the enrolments in place. */
export async function placeAll(stage: Stage, enrolments: readonly Enrolment[]): Promise<void> {
  for (const placement of enrolments.flatMap((one) => one.placements)) await stage.order(orderFor(placement));
}
