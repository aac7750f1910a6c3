import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { networkOf } from '../../src/service/plugins/network.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

/** How much one who asks may ask for, however they go about it. */
describe('bounds of what one may ask for', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
  });
  afterAll(() => stage.close());

  it.each([
    ['192.0.2.7', '192.0.2.7'],
    ['::ffff:192.0.2.7', '192.0.2.7'],
    ['::FFFF:C000:0207', '192.0.2.7'],
    ['0:0:0:0:0:ffff:c000:207', '192.0.2.7'],
    ['2001:DB8:0001:2::5', '2001:db8:1:2'],
    ['2001:0db8:1:0002:ffff:ffff:ffff:ffff', '2001:db8:1:2'],
    ['2001:db8::', '2001:db8:0:0'],
    ['fe80::1%eth0', 'fe80:0:0:0'],
    ['no address', 'no address'],
  ])('%s is counted as %s', (ip, network) => {
    expect(networkOf(ip)).toBe(network);
  });

  it('sixty words at once by one link are twenty', async () => {
    const { url, id } = await stage.marit.addLink({ body: { property: 'ferries', word: 'Mika' } });
    const word = () =>
      fetch(`${url}/word`, {
        method: 'POST',
        body: new URLSearchParams({ kind: 'cannot', says: 'No.' }),
        redirect: 'manual',
      });
    const answers = await Promise.all(Array.from({ length: 60 }, word));
    const thanked = answers.filter((one) => one.headers.get('location')?.includes('said=thanks'));
    expect(thanked).toHaveLength(20);
    const { items } = await stage.marit.listLinks({ query: { all: true } });
    expect(items.find((one) => one.id === id)?.uses).toHaveLength(20);
  });

  it.each(['application/json', 'text/plain', 'multipart/form-data; boundary=x'])(
    'what is no form of ours is none: %s',
    async (type) => {
      const { url } = await stage.marit.addLink({ body: { property: 'ferries', word: 'Mika' } });
      const headers = { 'content-type': type };
      const answer = await fetch(`${url}/word`, { method: 'POST', headers, body: '{"kind":"done"}' });
      expect(answer.status).toBe(415);
    },
  );

  it('a request with two hosts is one of nobody', async () => {
    const { port } = new URL(stage.url);
    const answer = await new Promise<string>((done) => {
      const socket = connect(Number(port), '127.0.0.1', () => {
        socket.write(
          'GET /api/v1/health HTTP/1.1\r\nHost: 127.0.0.1\r\nHost: elsewhere.example\r\nConnection: close\r\n\r\n',
        );
      });
      let said = '';
      socket.on('data', (piece: Buffer) => (said += piece.toString()));
      socket.on('close', () => {
        done(said);
      });
    });
    expect(answer).toMatch(/^HTTP\/1\.1 400 /u);
  });

  it('streams of events are bounded for each person, and free again when they are closed', async () => {
    const { key } = await stage.person('odile', 'onlooker');
    const stop = new AbortController();
    const listen = (signal: AbortSignal) =>
      fetch(`${stage.url}/api/v1/events`, { headers: { authorization: `Bearer ${key}` }, signal });
    const streams = await Promise.all(Array.from({ length: 60 }, () => listen(stop.signal)));
    expect(new Set(streams.map(({ status }) => status))).toEqual(new Set([200]));
    expect((await listen(stop.signal)).status).toBe(429);
    stop.abort();
    const again = new AbortController();
    await expect.poll(async () => (await listen(again.signal)).status).toBe(200);
    again.abort();
  });

  it('a proxy is trusted only where the address is said by which people come', async () => {
    const flags = { trustProxy: '["127.0.0.1"]' };
    await expect(loadSettings(stage.world.config, {}, flags)).rejects.toThrow(
      'trustProxy names a proxy, so publicUrl must say',
    );
    await loadSettings(stage.world.config, {}, { ...flags, publicUrl: 'https://yard.harbour.example' });
  });
});
