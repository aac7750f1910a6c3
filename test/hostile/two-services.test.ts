import { once } from 'node:events';
import type { ChildProcess } from 'node:child_process';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createClient } from '../../src/client/client.js';
import { startBuiltService } from '../support/built.js';
import { Killable } from '../support/killable.js';
import { fingerprint, statements } from '../support/statements.js';

/** Times that a service is stopped in the midst of its work and woken beside its successor; by night a hundred (`npm run hostile`). */
const STOPS = Number(process.env['STOPS'] ?? '3');
/** So long ago was the last beat of one that is taken for gone, in milliseconds. */
const LONG = 60_000;
const SITES = 12;

let place: Killable;
beforeAll(async () => {
  place = await Killable.open();
});
afterAll(() => place.close());

/** Stops a process, but not in the midst of a transaction: there it lets nobody take over. */
async function stopped(child: ChildProcess, afterMs: number): Promise<void> {
  const isFree = () =>
    statements(place.data, ['BEGIN IMMEDIATE', 'ROLLBACK'], 50).then(
      () => true,
      () => false,
    );
  await sleep(afterMs);
  child.kill('SIGSTOP');
  while (!(await isFree())) {
    child.kill('SIGCONT');
    await sleep(25);
    child.kill('SIGSTOP');
  }
}

it(
  `writes nothing once it was stopped and another has taken over, ${String(STOPS)} times`,
  async () => {
    let first = await startBuiltService(place.world);
    let client = createClient({ url: first.url, key: place.key });
    await client.addClient({ body: { name: 'Quay', handle: 'quay' } });
    for (let site = 0; site < SITES; site += 1)
      await client.addProperty({
        body: { client: 'quay', address: `berth${String(site)}.example`, handle: `berth${String(site)}` },
      });
    for (let stop = 0; stop < STOPS; stop += 1) {
      await client.lookAtVariants({ body: { all: true } }).catch(() => undefined);
      await stopped(first.child, 10 + ((stop * 37) % 400));
      await statements(place.data, [`UPDATE lease SET beatAt = beatAt - ${String(LONG)}`]);
      const second = await startBuiltService(place.world);
      await stopped(second.child, 50);
      const then = await fingerprint(place.data);
      const gone = once(first.child, 'exit');
      first.child.kill('SIGCONT');
      // One that does not know when to end is told by what it wrote meanwhile.
      await Promise.race([gone, sleep(20_000)]);
      expect(await fingerprint(place.data)).toBe(then);
      await gone;
      second.child.kill('SIGCONT');
      first = second;
      client = createClient({ url: first.url, key: place.key });
      expect((await client.listProperties({})).items).toHaveLength(SITES);
    }
    first.child.kill('SIGTERM');
    await once(first.child, 'exit');
  },
  120_000 + STOPS * 90_000,
);
