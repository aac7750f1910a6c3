import { textOf } from '../../src/core/html/body-text.js';
import { createSocket, type Socket } from 'node:dgram';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import { brotliCompressSync, deflateRawSync, deflateSync, gzipSync } from 'node:zlib';
import { decode, encode, type Packet } from 'dns-packet';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { ask } from '../../src/net/dns/query.js';
import { byTurns } from '../../src/net/dns/records.js';
import { Resolver } from '../../src/net/dns/resolver.js';
import { AddressGuard } from '../../src/net/guard.js';
import { readBody } from '../../src/net/http/body.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { firstConnected } from '../../src/net/http/first-connected.js';

describe('an answer to a question', () => {
  let udp: Socket;
  let port = 0;
  let odd: (query: Packet) => Packet[] = () => [];
  const say = (query: Packet, more: Partial<Packet> = {}): Packet => ({
    type: 'response',
    id: query.id ?? 0,
    questions: query.questions ?? [],
    ...more,
  });
  const right = (query: Packet) =>
    say(query, { answers: [{ type: 'TXT', name: 'quay.example', ttl: 1, data: 'right' }] });
  const asked = () => ask({ host: '127.0.0.1', port }, 'quay.example', 'TXT', 400);
  beforeAll(async () => {
    udp = createSocket('udp4');
    udp.on('message', (message, from) => {
      for (const one of odd(decode(message))) udp.send(encode(one), from.port, from.address);
    });
    await new Promise<void>((done) => udp.bind(0, '127.0.0.1', done));
    port = udp.address().port;
  });
  afterAll(() => udp.close());

  test.each<[string, (query: Packet) => Packet]>([
    ['another identifier', (query) => say(query, { id: ((query.id ?? 0) + 1) & 0xffff })],
    ['another name', (query) => say(query, { questions: [{ type: 'TXT', name: 'other.example' }] })],
    ['another type', (query) => say(query, { questions: [{ type: 'A', name: 'quay.example' }] })],
    ['a question', (query) => ({ ...say(query), type: 'query' })],
    [
      'two questions',
      (query) => say(query, { questions: [...(query.questions ?? []), ...(query.questions ?? [])] }),
    ],
  ])('is taken only where it is one: %s is passed over', async (_, wrong) => {
    odd = (query) => [wrong(query)];
    await expect(asked()).rejects.toMatchObject({ kind: 'timed-out' });
    odd = (query) => [wrong(query), right(query)];
    expect((await asked()).packet.answers).toHaveLength(1);
  });

  it('counts without what nobody asked for, and with what its aliases lead to', async () => {
    odd = (query) => [
      say(query, {
        answers: [
          { type: 'TXT', name: 'other.example', ttl: 1, data: 'planted' },
          { type: 'CNAME', name: 'QUAY.example', ttl: 1, data: 'a.example' },
          { type: 'TXT', name: 'a.example', ttl: 1, data: 'right' },
        ],
      }),
    ];
    const { packet } = await asked();
    expect(packet.answers?.map(({ name }) => name)).toEqual(['QUAY.example', 'a.example']);
  });

  const ipv4 = (ttl: number) => (query: Packet) => {
    const type = query.questions?.[0]?.type;
    const address = { type: 'A', name: 'quay.example', ttl, data: '192.0.2.7' } as const;
    return [say(query, { answers: type === 'A' ? [address] : [] })];
  };
  const nothing = (query: Packet) => [say(query)];
  test.each<[string, typeof odd, number]>([
    ['with a time to live, once', ipv4(300), 1],
    ['without one, anew each time', ipv4(0), 2],
    ['that there are none, anew each time', nothing, 2],
  ])('of addresses is asked for: %s', async (_, answer, times) => {
    let questions = 0;
    odd = (query) => {
      if (query.questions?.[0]?.type === 'A') questions += 1;
      return answer(query);
    };
    const bounds = { ...DEFAULT_BOUNDS, dnsMs: 400 };
    const resolver = new Resolver({
      resolver: `127.0.0.1:${String(port)}`,
      allow: [],
      connect: [],
      ca: null,
      agent: 'test',
      bounds,
    });
    const both = await Promise.all([resolver.addresses('quay.example'), resolver.addresses('quay.example')]);
    expect(both[0]).toEqual(both[1]);
    expect(questions, 'two at once ask together').toBe(1);
    expect(await resolver.addresses('quay.example')).toEqual(both[0]);
    expect(questions).toBe(times);
  });

  // Both are refused by the system before anything is sent: a broadcast, and an address of a link that is not named.
  test.each(['255.255.255.255', 'fe80::1'])(
    'that no way leads to is a failure like any other: %s',
    async (host) => {
      await expect(ask({ host, port: 53 }, 'quay.example', 'TXT', 300)).rejects.toMatchObject({
        name: 'Error',
        kind: expect.stringMatching(/unreachable|timed-out/) as string,
      });
    },
  );
});

test.each([
  ['8.8.8.8', true],
  ['2a00:1450::1', true],
  ['2001:db8::1', false],
  ['2001::1', false],
  ['3fff::1', false],
  ['::127.0.0.1', false],
  ['::8.8.8.8', false],
  ['::ffff:8.8.8.8', false],
  ['1::1', false],
  ['4000::1', false],
  ['100:0:0:1::1', false],
  ['5f00::1', false],
  ['fec0::1', false],
  ['64:ff9b:1::1', false],
  ['fe80::1%eth0', false],
  ['192.88.99.1', false],
  ['198.18.0.1', false],
  ['0x7f.1', false],
])('only what is globally reachable is dialled: %s, %s', (address, permitted) => {
  expect(new AddressGuard([]).permits(address)).toBe(permitted);
});

test('addresses are tried with the families by turns', () => {
  expect(byTurns(['a', 'b', 'c', '::1', '::2'])).toEqual(['a', '::1', 'b', '::2', 'c']);
});

describe('several addresses', () => {
  let server: Server;
  beforeAll(async () => {
    server = createServer();
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  });
  afterAll(() => new Promise((done) => server.close(done)));
  const open = (address: string) => connect({ host: address, port: (server.address() as AddressInfo).port });

  it('the first that answers is taken, whatever the others do', async () => {
    const { signal } = new AbortController();
    const { address, socket } = await firstConnected(['127.0.0.9', '127.0.0.1'], open, signal);
    expect(address).toBe('127.0.0.1');
    socket.destroy();
  });
  it('where none answers, the first says why', async () => {
    const { signal } = new AbortController();
    await expect(firstConnected(['127.0.0.8', '127.0.0.9'], open, signal)).rejects.toMatchObject({
      address: '127.0.0.8',
    });
  });
  it('patience that is over ends all of them', async () => {
    const patience = new AbortController();
    patience.abort(new Error('over'));
    const given = firstConnected(['127.0.0.1'], open, patience.signal);
    patience.abort();
    await given.then(({ socket }) => socket.destroy()).catch(() => undefined);
  });
});

describe('how a body is packed', () => {
  const text = 'Welcome to the quay. '.repeat(200);
  test.each<[string, string, Buffer]>([
    ['deflate as the standard has it', 'deflate', deflateSync(text)],
    ['deflate as some send it', 'deflate', deflateRawSync(text)],
    ['two codings', 'gzip, br', brotliCompressSync(gzipSync(text))],
    ['two codings, oddly written', 'GZIP ,identity,  deflate', deflateRawSync(gzipSync(text))],
    ['one that is named and not there', 'identity', Buffer.from(text)],
  ])('%s', async (_, encoding, packed) => {
    const headers = { 'content-encoding': encoding, 'content-type': 'text/plain' };
    expect(textOf(await readBody(Readable.from([packed]), headers, 1e6))).toBe(text);
  });
});
