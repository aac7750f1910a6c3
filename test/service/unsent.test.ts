import { writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { HOUR, MINUTE } from '../../src/core/time/duration.js';
import { HOOKS_ADDRESS } from '../../src/rehearsal/scenario.js';
import { Vault } from '../../src/engines/vault.js';
import { requireKeyFile } from '../../src/service/key-file.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { selected, statements } from '../support/statements.js';
import { until } from '../support/until.js';

/** What cannot be sent to one keeps nothing from another, and is told where it can be read. */
describe('messages of which one cannot be sent', () => {
  let stage: Stage;
  const records = () => join(stage.folder, 'yardbadge.sqlite');
  const mailsTo = (address: string) => stage.world.post.mails.filter(({ to }) => to === address);

  beforeAll(async () => {
    stage = await openStage({ 'watch.on': 'true' });
    const { marit } = stage;
    await marit.editRecipient({
      params: { person: 'me' },
      body: { email: 'marit@harbour-lights.example', digest: false, zone: 'UTC' },
    });
    await placeAll(stage, await takeOnFerries(stage));
    await stage.results(marit.claim({ body: { enrolments: ['ferries@veldrane:address'], method: 'meta' } }));
    await marit.addWebhook({ body: { url: `http://${HOOKS_ADDRESS}/told` } });
    // As with the key file of another machine: nothing here opens it.
    await statements(records(), [
      `UPDATE hooks SET secret = substr(secret, 1, length(secret) - 8) || 'AAAAAAAA'`,
    ]);
  });
  afterAll(() => stage.close());

  it('lets every other go, tries that one again, and says so on record', async () => {
    const { marit } = stage;
    await marit.handSteps({ body: { property: 'ferries', person: 'marit' } }).catch(() => undefined);
    const { url } = await marit.addLink({ body: { property: 'ferries', word: 'Ole' } });
    await statements(records(), [
      `INSERT INTO messages (id, way, hookId, sentTo, subject, body, createdAt, nextAt, tries)
         SELECT 'first-of-all', 'hook', id, url, 'ferries slipping', '{"type":"alert.opened","time":"2033-01-01T00:00:00Z","data":{}}',
                '2033-05-18T09:00:00.000Z', '2033-05-18T09:00:00.000Z', 0 FROM hooks`,
    ]);
    await fetch(`${url}/word`, {
      method: 'POST',
      body: new URLSearchParams({ kind: 'cannot', says: 'No key to the shed.' }),
      redirect: 'manual',
    });
    await stage.world.advance(4 * MINUTE);
    await until(
      () => Promise.resolve(mailsTo('marit@harbour-lights.example')),
      (all) => all.some(({ text }) => text.includes('No key to the shed.')),
    );
    const { items } = await marit.listNotifications({ query: {} });
    const stuck = items.find(({ id }) => id === 'first-of-all');
    expect(stuck).toMatchObject({
      state: 'waiting',
      fault: expect.stringContaining('cannot be opened') as string,
    });
    await stage.world.advance(1.5 * HOUR);
    const [open] = await until(
      async () => (await marit.listAlerts({ query: { kind: 'unsent' } })).items,
      (all) => all.length === 1,
    );
    expect(open?.says).toMatch(/^1 message to http:\/\/\S+ could not be sent for an hour: /u);
  });

  it('has the service refuse to start where the key is gone, unless somebody says that it is', async () => {
    const sealed = { accounts: 0, hooks: 1, places: 2 };
    const store = { select: <Row extends object>() => Promise.resolve([sealed] as unknown as Row[]) };
    const file = join(stage.folder, 'another.key');
    await expect(requireKeyFile(store, file)).rejects.toThrow(
      /is not there, and 1 webhook’s secret, 2 targets’ secrets on record can be opened with it alone\. Put it back/u,
    );
    writeFileSync(file, '', { mode: 0o600 });
    await expect(requireKeyFile(store, file)).resolves.toBeUndefined();
    const vault = new Vault(file);
    expect(vault.open(vault.seal('secret', 'a', 'b'), 'a', 'b')).toBe('secret');
  });
});

/** What never answers holds up nothing but itself. */
describe('twelve programs that never answer', () => {
  let stage: Stage;
  const PORT = 8077;
  const held = new Set<Socket>();
  const silent = createServer((socket) => held.add(socket.on('error', () => undefined)));

  beforeAll(async () => {
    await new Promise<void>((done) => silent.listen(0, '127.0.0.1', done));
    const to = `127.0.0.1:${String((silent.address() as AddressInfo).port)}`;
    stage = await openStage({}, [], (config) => {
      const { net } = parse(config) as { net: { connect: object[] } };
      return { 'net.connect': JSON.stringify([{ from: `*:${String(PORT)}`, to }, ...net.connect]) };
    });
    await takeOnFerries(stage);
    await stage.marit.editRecipient({
      params: { person: 'me' },
      body: { email: 'marit@harbour-lights.example', digest: false, zone: 'UTC' },
    });
    for (let nth = 0; nth < 12; nth += 1)
      await stage.marit.addWebhook({
        body: { url: `http://198.51.100.${String(60 + nth)}:${String(PORT)}/` },
      });
  });
  afterAll(async () => {
    for (const socket of held) socket.destroy();
    await stage.close();
    silent.close();
  });

  it('keep no mail waiting', async () => {
    const records = join(stage.folder, 'yardbadge.sqlite');
    await statements(records, [
      `INSERT INTO messages (id, way, hookId, sentTo, subject, body, createdAt, nextAt, tries)
         SELECT 'to-' || id, 'hook', id, url, 'ferries slipping', '{"type":"alert.opened","time":"2033-01-01T00:00:00Z","data":{}}',
                '2033-05-18T09:00:00.000Z', '2033-05-18T09:00:00.000Z', 0 FROM hooks`,
    ]);
    await until(
      () => Promise.resolve(held.size),
      (open) => open === 12,
    );
    const { url } = await stage.marit.addLink({ body: { property: 'ferries', word: 'Ole' } });
    await fetch(`${url}/word`, {
      method: 'POST',
      body: new URLSearchParams({ kind: 'cannot', says: 'No key to the shed.' }),
      redirect: 'manual',
    });
    await stage.world.advance(4 * MINUTE);
    await until(
      () => Promise.resolve(stage.world.post.mails),
      (all) => all.some(({ text }) => text.includes('No key to the shed.')),
    );
    // None of them has been given up meanwhile: the mail waited for nobody.
    const tried = await selected<{ tries: number }>(records, `SELECT tries FROM messages WHERE way = 'hook'`);
    expect(tried).toEqual(Array.from({ length: 12 }, () => ({ tries: 0 })));
  });
});
