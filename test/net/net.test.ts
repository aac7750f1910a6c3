import { textOf } from '../../src/core/html/body-text.js';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { AddressGuard } from '../../src/net/guard.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS, parseEndpoint, reroute, type NetSettings } from '../../src/net/settings.js';
import { parseScope } from '../../src/core/address/reach.js';
import { placementOf } from '../../src/core/badge/placement.js';
import { probe } from '../../src/desk/engine-book/probe.js';
import { Asker } from '../../src/net/dns/asker.js';
import { ask } from '../../src/net/dns/query.js';
import { startNameServer, type NameServer } from '../../src/rehearsal/names/server.js';
import { newWorld } from '../../src/rehearsal/scenario.js';
import { veldrane } from '../support/profiles.js';
import { STAGE_TIME, stageClock } from '../support/time.js';

setFlagsFromString('--expose-gc');
/** Tidies memory now, as the engine does when it likes. */
const tidyMemory = runInNewContext('gc') as () => void;

describe('the address guard', () => {
  const guard = new AddressGuard(['192.0.2.0/24', '2001:db8::/32']);
  test.each([
    ['93.184.216.34', true],
    ['192.0.2.7', true],
    ['2001:db8::7', true],
    ['2606:4700::1', true],
    ['127.0.0.1', false],
    ['10.0.0.1', false],
    ['172.16.0.1', false],
    ['192.168.1.1', false],
    ['169.254.169.254', false],
    ['0.0.0.0', false],
    ['100.64.0.1', false],
    ['224.0.0.1', false],
    ['255.255.255.255', false],
    ['198.51.100.1', false],
    ['::1', false],
    ['::', false],
    ['fe80::1', false],
    ['fc00::1', false],
    ['::ffff:127.0.0.1', false],
    ['::ffff:10.0.0.1', false],
    ['64:ff9b::7f00:1', false],
    ['2002:7f00:1::', false],
    ['nonsense', false],
  ])('%s may be dialled: %s', (address, permitted) => {
    expect(guard.permits(address)).toBe(permitted);
  });
});

test.each([
  ['192.0.2.1', 80, '127.0.0.1:7480'],
  ['192.0.2.61', 80, '127.0.0.1:7461'],
  ['192.0.2.1', 8080, '192.0.2.1:8080'],
])('%s port %i is rerouted to %s', (address, port, expected) => {
  const to = reroute(
    [
      { from: '192.0.2.61:80', to: '127.0.0.1:7461' },
      { from: '*:80', to: '127.0.0.1:7480' },
    ],
    address,
    port,
  );
  expect(`${to.host}:${String(to.port)}`).toBe(expected);
});

it('reads endpoints, IPv6 in brackets', () => {
  expect(parseEndpoint('[::1]:53')).toEqual({ host: '::1', port: 53 });
  expect(() => parseEndpoint('nowhere')).toThrow(RangeError);
});

describe('going out', () => {
  const state = newWorld(STAGE_TIME);
  let names: NameServer;
  let net: Net;
  let port: number;
  const requests: string[] = [];
  const pages: Record<string, RequestListener> = {
    '/ok': (_, response) => {
      response
        .setHeader('content-type', 'text/html; charset=iso-8859-1')
        .end(Buffer.from('caf\xe9', 'latin1'));
    },
    '/loop': (_, response) => {
      response.writeHead(302, { location: '/loop' }).end();
    },
    '/chain': (request, response) => {
      response.writeHead(301, { location: `${request.url ?? ''}x` }).end('x'.repeat(100_000));
    },
    '/inside': (_, response) => {
      response.writeHead(302, { location: 'http://10.0.0.1/' }).end();
    },
    '/home': (_, response) => {
      response.writeHead(302, { location: 'http://127.0.0.1/' }).end();
    },
    '/script': (_, response) => {
      response.writeHead(302, { location: 'javascript:alert(1)' }).end();
    },
    '/bomb': (_, response) => {
      response.setHeader('content-encoding', 'gzip').end(gzipSync(Buffer.alloc(50_000_000)));
    },
    '/endless': (_, response) => {
      const more = setInterval(() => response.write('x'.repeat(64_000)), 1);
      response.on('close', () => {
        clearInterval(more);
      });
    },
    '/slow': (_, response) => {
      const more = setInterval(() => response.write('x'), 50);
      response.on('close', () => {
        clearInterval(more);
      });
    },
    '/headers': (_, response) => {
      response.setHeader('x-big', 'x'.repeat(60_000)).end();
    },
    '/broken-gzip': (_, response) => {
      response.setHeader('content-encoding', 'gzip').end('this is not gzip');
    },
    '/packed-by-a-name': (_, response) => {
      response.setHeader('content-encoding', 'constructor').end('plain');
    },
    '/cut': (request) => {
      request.socket.destroy();
    },
  };
  const server = createServer({ maxHeaderSize: 128_000 }, (request, response) => {
    requests.push(request.headers['user-agent'] ?? '');
    const page = Object.entries(pages).find(([path]) => request.url?.startsWith(path));
    if (page) page[1](request, response);
    else response.writeHead(404).end();
  });

  beforeAll(async () => {
    names = await startNameServer({ state, ...stageClock }, 'resolver', 0);
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    port = (server.address() as AddressInfo).port;
    const settings: NetSettings = {
      resolver: `127.0.0.1:${String(names.port)}`,
      allow: ['192.0.2.0/24'],
      connect: [
        { from: '192.0.2.10:80', to: `127.0.0.1:${String(port)}` },
        { from: '*:8081', to: '127.0.0.1:9' },
      ],
      ca: null,
      agent: 'YardBadge/1.0 (+https://agency.example/bot)',
      // Long enough that a busy machine does not look like a website that keeps silent.
      bounds: { ...DEFAULT_BOUNDS, hopMs: 5_000, bodyBytes: 1_000_000 },
    };
    net = new Net(settings);
  });
  afterAll(async () => {
    await net.close();
    await names.close();
    server.closeAllConnections();
    server.close();
  });

  const look = (path: string) => net.page(`http://www.saltmarsh-ferries.example${path}`);

  it('says who it is, and decodes by the declared charset', async () => {
    const seen = await look('/ok');
    expect(seen).toMatchObject({
      end: 'answered',
      body: { mediaType: 'text/html' },
      hops: [{ status: 200, address: '192.0.2.10' }],
    });
    expect(seen.body && textOf(seen.body)).toBe('café');
    expect(requests.at(-1)).toContain('YardBadge/1.0');
  });

  test.each([
    ['/loop', 'loop', null],
    ['/chain', 'too-many-hops', null],
    ['/inside', 'failed', 'guarded'],
    ['/home', 'failed', 'guarded'],
    ['/slow', 'failed', 'timed-out'],
    ['/headers', 'failed', 'headers-too-large'],
    ['/cut', 'failed', 'cut'],
    ['/broken-gzip', 'failed', 'cut'],
  ])('%s ends as %s %s, and throws nothing', async (path, end, failure) => {
    const seen = await look(path);
    expect([seen.end, seen.hops.at(-1)?.failure]).toEqual([end, failure]);
  });

  it('ends a page that trickles in, though memory is tidied meanwhile', async () => {
    const tidied = setInterval(tidyMemory, 50);
    const seen = await look('/slow').finally(() => {
      clearInterval(tidied);
    });
    expect([seen.end, seen.hops.at(-1)?.failure]).toEqual(['failed', 'timed-out']);
  });

  it('follows no redirect to what is no web address', async () => {
    expect(await look('/script')).toMatchObject({ end: 'answered', hops: [{ status: 302, location: null }] });
  });

  it('hands on what is packed in no way that is known', async () => {
    const { body } = await look('/packed-by-a-name');
    expect(body && textOf(body)).toBe('plain');
  });

  test.each(['/bomb', '/endless'])('%s is read up to the bound and no further', async (path) => {
    const seen = await look(path);
    expect(seen.body).toMatchObject({ bytes: 1_000_000, cut: true });
  });

  test.each([
    ['http://nowhere.nothing.example/', 'name-missing'],
    ['http://127.0.0.1/', 'guarded'],
    ['http://[::1]/', 'guarded'],
    ['http://169.254.169.254/latest/', 'guarded'],
    ['http://www.saltmarsh-ferries.example:8081/', 'refused'],
  ])('%s fails as %s', async (url, failure) => {
    expect((await net.page(url)).hops.at(-1)?.failure).toBe(failure);
  });

  it('asks again over TCP when an answer is too long for a datagram', async () => {
    for (let at = 0; at < 60; at += 1)
      state.txt.push({
        name: 'many.saltmarsh-ferries.example',
        value: `filler-${String(at)}-${'x'.repeat(80)}`,
      });
    const seen = await net.txt('many.saltmarsh-ferries.example');
    expect([seen.via, seen.records.length]).toEqual(['tcp', 60]);
    const plain = await ask(
      { host: '127.0.0.1', port: names.port },
      'www.saltmarsh-ferries.example',
      'A',
      500,
    );
    expect(plain.via).toBe('udp');
  });

  it('tells a missing name from a name without TXT, and a dead resolver from both', async () => {
    expect(await net.txt('nothing.saltmarsh-ferries.example')).toMatchObject({
      rcode: 'NXDOMAIN',
      negativeTtl: 60,
    });
    expect(await net.txt('www.saltmarsh-ferries.example')).toMatchObject({ rcode: 'NOERROR', records: [] });
    const dead = new Net({
      ...net.settings,
      resolver: '127.0.0.1:9',
      bounds: { ...DEFAULT_BOUNDS, dnsMs: 200 },
    });
    expect(await dead.txt('www.saltmarsh-ferries.example')).toMatchObject({
      rcode: null,
      failure: expect.stringMatching(/unreachable|timed-out/) as string,
    });
  });

  test.each([
    ['/bomb', 'meta.beyond-bound', 'unsure'],
    ['/endless', 'meta.beyond-bound', 'unsure'],
    ['/slow', 'reach.timed-out', 'refuse'],
    ['/headers', 'reach.headers-too-large', 'refuse'],
    ['/loop', 'reach.loop', 'refuse'],
    ['/chain', 'reach.too-many-hops', 'refuse'],
    ['/inside', 'reach.off-domain', 'refuse'],
    ['/broken-gzip', 'reach.cut', 'refuse'],
    ['/cut', 'reach.cut', 'refuse'],
  ])('%s ends in the finding %s, not in an exception', async (path, code, forecast) => {
    const address = 'http://www.saltmarsh-ferries.example/';
    const own = placementOf(veldrane, parseScope('address', address), 'meta', 'ab'.repeat(12));
    if (!own) throw new Error('no placement');
    const placement = { ...own, place: `http://www.saltmarsh-ferries.example${path}` };
    const { judgement } = await probe(net, stageClock, placement);
    expect([judgement.findings[0]?.code, judgement.forecast]).toEqual([code, forecast]);
  });

  it('asks no name server inside for a zone that claims it', async () => {
    const inside: NameServer = await startNameServer({ state, ...stageClock }, 'ns1', 0);
    const asked = await new Asker(net.settings, net.resolver.server, new AddressGuard([])).direct(
      '127.0.0.1',
      'saltmarsh-ferries.example',
      'TXT',
    );
    await inside.close();
    expect(asked).toEqual({ kind: 'failed', failure: 'guarded' });
  });

  it('says that there are no servers to ask where the walk finds none', async () => {
    expect(await net.zone('nothing.at-all.example')).toMatchObject({ servers: [] });
  });
});
