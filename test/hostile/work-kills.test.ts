import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sendOrder } from '../../src/rehearsal/command.js';
import { Killable } from '../support/killable.js';
import { selected } from '../support/statements.js';

/** How often the service is killed in the midst of what it does at websites and for people; by night more (`npm run hostile`). */
const KILLS = Number(process.env['KILLS'] ?? '5');
const HANDLES = ['clocks', 'ropes', 'tea'] as const;
const HOSTS: Readonly<Record<(typeof HANDLES)[number], string>> = {
  clocks: 'tidewell-clocks.example',
  ropes: 'www.bollard-ropes.example',
  tea: 'compass-tea.example',
};
/** Taken on, worked at and deleted again and again. */
const PASSING = 'www.button-museum.example';

/** The same numbers every time: where the kills fall is random, but not the orders between them. */
function* numbers(seed: number): Generator<number> {
  for (let at = seed; ; at = (Math.imul(at, 1_103_515_245) + 12_345) >>> 0) yield (at >>> 8) / 2 ** 24;
}

describe('killed while it carries, gathers, writes letters and deletes', () => {
  let service: Killable;
  let web: string;
  const random = numbers(20_261_201);
  const next = () => random.next().value as number;
  const pick = <T>(some: readonly T[]): T => some[Math.floor(next() * some.length)] as T;
  const rootOf = (handle: string) => join(web, handle);
  const files = (folder: string): string[] =>
    readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((one) =>
      one.isFile() ? [join(one.parentPath, one.name)] : [],
    );

  const order = async (): Promise<void> => {
    const { client } = service;
    const property = pick(HANDLES);
    const orders = [
      () => client.publish({ params: { property }, body: {} }),
      () => client.publish({ params: { property }, body: { takeAway: true } }),
      () => client.makeSitemap({ params: { property }, body: {} }),
      () => client.writeSitemap({ params: { property }, body: { anyway: true } }),
      () => client.readContents({ params: { sitemap: property } }),
      () => client.getTokens({ body: { enrolments: [property] } }),
      () => client.writeLetters({ body: { client: 'quay', way: 'mail' } }),
      () => client.addLink({ body: { property, word: 'Mika' } }),
      () => client.addProperty({ body: { client: 'quay', address: PASSING, handle: 'buttons' } }),
      () =>
        client.enrol({ body: { properties: ['buttons'], engines: ['house', 'veldrane'], reach: 'address' } }),
      () => client.makeSitemap({ params: { property: 'buttons' }, body: {} }),
      () => client.deleteProperty({ params: { property: 'buttons' }, body: { anyway: true } }),
    ];
    await pick(orders)().catch(() => undefined);
  };

  beforeAll(async () => {
    service = await Killable.open();
    web = join(dirname(service.data), 'web');
    await service.start();
    const { client } = service;
    await client.addClient({ body: { name: 'Quay', handle: 'quay' } });
    await client.addContact({
      body: { client: 'quay', name: 'Mika Reed', role: 'developer', email: 'mika@quay.example' },
    });
    for (const handle of HANDLES) {
      mkdirSync(rootOf(handle), { recursive: true });
      const { job } = await client.addProperty({ body: { client: 'quay', address: HOSTS[handle], handle } });
      await client.finished({ id: job });
      await sendOrder(service.world.control.url, { do: 'pages', host: HOSTS[handle], count: 60 });
      await sendOrder(service.world.control.url, {
        do: 'web-root',
        host: HOSTS[handle],
        folder: rootOf(handle),
      });
      await client.addTarget({
        params: { property: handle },
        body: { way: 'folder', root: rootOf(handle) },
      });
      await client.finished(
        await client.enrol({
          body: { properties: [handle], engines: ['house', 'veldrane'], reach: 'address' },
        }),
      );
      await client.finished(await client.getTokens({ body: { enrolments: [handle] } }));
    }
  });
  afterAll(() => service.close());

  it(
    `${String(KILLS)} times: nothing is left half-done, lost or there twice`,
    async () => {
      for (let kill = 0; kill < KILLS; kill += 1) {
        const orders = Array.from({ length: 4 }, () => order());
        await new Promise((done) => setTimeout(done, next() * 300));
        await service.kill();
        await Promise.all(orders);
        await service.start();
      }
      const open = async () =>
        (await service.client.listJobs({ query: { limit: 500 } })).items.filter(
          ({ state }) => state !== 'done',
        ).length;
      await expect.poll(open, { timeout: 600_000, interval: 200 }).toBe(0);
      // What was cut off is ended by the next time, and then each token stands as it was handed out.
      for (const property of HANDLES) {
        await service.client.finished(await service.client.publish({ params: { property }, body: {} }));
        expect(files(rootOf(property)).filter((name) => name.endsWith('.part'))).toEqual([]);
        const { items } = await service.client.listEnrolments({ query: { property } });
        for (const { path, content } of items.flatMap(({ placements }) =>
          placements.flatMap(({ put }) => (put.kind === 'file' ? [put] : [])),
        ))
          expect(readFileSync(join(rootOf(property), path), 'utf8')).toBe(content);
      }
      expect((await service.client.verifyRecords()).differing).toEqual([]);
      expect((await service.client.health()).faults).toBe(0);
      await service.kill();
      const rows = <Row>(sql: string) => selected<Row>(service.data, sql);
      expect(await rows('PRAGMA integrity_check')).toEqual([{ integrity_check: 'ok' }]);
      const sent = await rows<{ id: string }>(
        `SELECT id FROM messages WHERE way = 'mail' AND sentAt IS NOT NULL`,
      );
      expect(service.world.post.mails.length).toBe(new Set(sent.map(({ id }) => id)).size);
      // Of what was deleted there is nothing but its own empty row.
      const gone = await rows<{ id: string }>(`SELECT id FROM properties WHERE host = 'deleted.invalid'`);
      const ids = gone.map(({ id }) => `'${id}'`).join();
      for (const table of [
        'enrolments',
        'makings',
        'made_versions',
        'watched',
        'standings',
        'yard_rows',
        'cases',
      ])
        expect(await rows(`SELECT propertyId FROM ${table} WHERE propertyId IN (${ids})`)).toEqual([]);
      // Nothing is asked twice of anybody: one letter for one ask, one link for one word of it.
      const letters = await rows<{ count: number }>(
        'SELECT COUNT(*) AS count FROM messages GROUP BY sentTo, subject, createdAt HAVING COUNT(*) > 1',
      );
      expect(letters).toEqual([]);
    },
    1_200_000 + KILLS * 60_000,
  );
});
