import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { parseTarget } from '../../src/core/address/reach.js';
import { lookAt } from '../../src/desk/look.js';
import { placementOf, zoneStrings, type Placement } from '../../src/core/badge/placement.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { veldrane } from '../support/profiles.js';

const TOKEN = '84da61f31aa466b6b1022a45';

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => {
        done(port);
      });
    });
  });
}

function program(name: string): string {
  const found = ['/usr/sbin', '/usr/bin', '/sbin'].map((folder) => join(folder, name)).find(existsSync);
  if (found === undefined) throw new Error(`${name} is not installed: scripts/need.sh installs it`);
  return found;
}

/** Our own look, against servers that others wrote: an authoritative name server and a web server from Debian. */
describe('against real servers', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-real-'));
  const children: ChildProcess[] = [];
  let net: Net;
  let dnsPort: number;

  const zone = (records: string) =>
    `$ORIGIN quay.example.\n$TTL 300\n@ SOA ns1 hostmaster 1 3600 600 86400 90\n@ NS ns1\nns1 A 192.0.2.53\n@ A 192.0.2.80\nwww A 192.0.2.80\n${records}`;
  const place = (method: 'meta' | 'file' | 'dns', reach: 'name' | 'address' = 'address'): Placement => {
    const target = parseTarget(reach, reach === 'name' ? 'quay.example' : 'http://www.quay.example/');
    const found = placementOf(veldrane, target, method, TOKEN);
    if (!found) throw new Error('no placement');
    return found;
  };
  const look = async (placement: Placement) => {
    return (await lookAt(net, { now: () => new Date() }, placement)).judgement;
  };

  beforeAll(async () => {
    dnsPort = await freePort();
    const httpPort = await freePort();
    mkdirSync(join(folder, 'dns'));
    const many = Array.from(
      { length: 80 },
      (_, at) => `many TXT "filler ${String(at)} ${'x'.repeat(60)}"`,
    ).join('\n');
    const own = place('dns', 'name');
    const long = `veldrane-long=${'y'.repeat(400)}`;
    writeFileSync(
      join(folder, 'dns/quay.example.zone'),
      zone(
        `@ TXT ${zoneStrings(own.method === 'dns' ? own.value : '')}\nlong TXT ${zoneStrings(long)}\n${many}\nalias CNAME www\n`,
      ),
    );
    const config = join(folder, 'knot.conf');
    writeFileSync(
      config,
      `server:\n    rundir: ${folder}/dns\n    listen: 127.0.0.1@${String(dnsPort)}\ndatabase:\n    storage: ${folder}/dns\ntemplate:\n  - id: default\n    storage: ${folder}/dns\n    file: "%s.zone"\nzone:\n  - domain: quay.example\n`,
    );
    children.push(spawn(program('knotd'), ['-c', config], { stdio: 'ignore' }));

    mkdirSync(join(folder, 'web'));
    const meta = place('meta');
    writeFileSync(
      join(folder, 'web/index.html'),
      `<!doctype html><html><head>${meta.method === 'meta' ? meta.tag : ''}</head><body>${'<p>Quay</p>'.repeat(500)}</body></html>`,
    );
    writeFileSync(join(folder, 'web/404.html'), '<!doctype html><html><body>Not here</body></html>');
    const nginx = join(folder, 'nginx.conf');
    writeFileSync(
      nginx,
      `daemon off; pid ${folder}/nginx.pid; error_log ${folder}/error.log;
events {}
http {
  access_log off; gzip on; gzip_min_length 100; types { text/html html; text/plain txt; }
  client_body_temp_path ${folder}/t1; proxy_temp_path ${folder}/t2; fastcgi_temp_path ${folder}/t3; uwsgi_temp_path ${folder}/t4; scgi_temp_path ${folder}/t5;
  server { listen 127.0.0.1:${String(httpPort)}; server_name quay.example; return 301 http://www.quay.example$request_uri; }
  server { listen 127.0.0.1:${String(httpPort)}; server_name www.quay.example; root ${folder}/web; error_page 404 =200 /404.html; }
}
`,
    );
    children.push(
      spawn(program('nginx'), ['-e', join(folder, 'error.log'), '-c', nginx], { stdio: 'ignore' }),
    );
    net = new Net({
      resolver: `127.0.0.1:${String(dnsPort)}`,
      allow: ['192.0.2.0/24'],
      connect: [{ from: '*:80', to: `127.0.0.1:${String(httpPort)}` }],
      ca: null,
      agent: 'test',
      bounds: { ...DEFAULT_BOUNDS, dnsMs: 1_000 },
    });
    execFileSync('chmod', ['-R', 'a+rX', folder]);
    await vi.waitFor(
      async () => {
        expect((await net.page('http://www.quay.example/')).end).toBe('answered');
      },
      { timeout: 20_000, interval: 100 },
    );
  });
  afterAll(async () => {
    for (const child of children) child.kill('SIGTERM');
    await Promise.all(
      children.map((child) =>
        child.exitCode === null ? new Promise((done) => child.once('exit', done)) : null,
      ),
    );
    await net.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('reads our zone-file line back from a real name server', async () => {
    expect((await look(place('dns', 'name'))).findings.map(({ code }) => code)).toEqual(['dns.stands']);
  });

  it('joins the strings of a long value, and asks over TCP for a large set', async () => {
    expect((await net.txt('long.quay.example')).records[0]?.value).toBe(`veldrane-long=${'y'.repeat(400)}`);
    expect(await net.txt('many.quay.example')).toMatchObject({ via: 'tcp', rcode: 'NOERROR' });
    expect((await net.txt('many.quay.example')).records).toHaveLength(80);
  });

  it('tells a missing name from one without TXT, with the negative TTL, and sees an alias', async () => {
    expect(await net.txt('nothing.quay.example')).toMatchObject({ rcode: 'NXDOMAIN', negativeTtl: 90 });
    expect(await net.txt('www.quay.example')).toMatchObject({ rcode: 'NOERROR', records: [] });
    expect(await net.txt('alias.quay.example')).toMatchObject({ aliases: ['www.quay.example'] });
    expect(await net.txt('another.example')).toMatchObject({ rcode: 'REFUSED' });
  });

  it('reads a compressed page through a redirect of a real web server', async () => {
    const evidence = await net.page('http://quay.example/');
    expect(evidence.hops.map(({ status }) => status)).toEqual([301, 200]);
    expect(evidence.hops[1]?.headers['content-encoding']).toBe('gzip');
    expect((await look(place('meta'))).forecast).toBe('accept');
  });

  it('is not taken in by a themed page that says 200', async () => {
    expect((await look(place('file'))).findings.map(({ code }) => code)).toEqual(['file.themed-missing']);
    writeFileSync(join(folder, `web/veldrane-${TOKEN}.txt`), `veldrane-mooring: ${TOKEN}\n`);
    expect((await look(place('file'))).forecast).toBe('accept');
  });
});
