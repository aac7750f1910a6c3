import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Killable } from '../support/killable.js';
import { until } from '../support/until.js';

let service: Killable;
beforeAll(async () => {
  service = await Killable.open();
  await service.startWithClocks();
});
afterAll(() => service.close());

/** No file of the service grows beyond so many bytes from now on, as on a disk that is full; null lifts it (getrlimit(2), RLIMIT_FSIZE). */
function bound(bytes: number | null): void {
  execFileSync('prlimit', [
    `--pid=${String(service.pid)}`,
    `--fsize=${bytes === null ? 'unlimited' : String(bytes)}:`,
  ]);
}

it('says that the disk is full, reads on, loses nothing, and goes on by itself once there is room', async () => {
  const { client } = service;
  const add = (name: string) => client.addClient({ body: { name, handle: name } });
  const handles = async () =>
    (await client.listClients({ query: { limit: 200 } })).items.map(({ handle }) => handle);
  const job = await client.lookAtVariants({ body: { all: true } });
  bound(statSync(`${service.data}-wal`).size);
  const taken: string[] = [];
  let refused: string | null = null;
  for (let nth = 0; refused === null; nth += 1)
    await add(`quay${String(nth)}`).then(
      ({ handle }) => taken.push(handle),
      (error: unknown) => {
        expect(error).toMatchObject({ problem: { status: 507, code: 'records-full' } });
        refused = `quay${String(nth)}`;
      },
    );
  expect(await handles()).toEqual(expect.arrayContaining(taken));
  expect(await handles()).not.toContain(refused);
  bound(null);
  await until(
    () => add('later').catch(() => null),
    (done) => done !== null,
  );
  expect((await client.finished(job)).state).toBe('done');
  expect(await handles()).toEqual(expect.arrayContaining([...taken, 'later']));
});
