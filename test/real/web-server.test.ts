import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { placementOf, type FilePlacement, type MetaPlacement } from '../../src/core/badge/placement.js';
import { probe } from '../../src/desk/engine-book/probe.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { startNameServer, type NameServer } from '../../src/rehearsal/names/server.js';
import { newWorld, site } from '../../src/rehearsal/scenario.js';
import { sundrel, veldrane } from '../support/profiles.js';
import { removed } from '../support/removed.js';
import { freePort, Programs } from './programs.js';
import { STAGE_TIME, stageClock } from '../support/time.js';

const TOKEN = '84da61f31aa466b6b1022a45';

/** Our own look at pages and files, against a web server that others wrote, in the rôles that websites have them in. */
describe('a page at a real web server', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-web-'));
  const programs = new Programs();
  let net: Net;
  let names: NameServer;

  const meta = (host: string): MetaPlacement => {
    const found = placementOf(veldrane, parseScope('address', `https://${host}/`), 'meta', TOKEN);
    if (found?.method !== 'meta') throw new Error('no placement');
    return found;
  };
  const file = (host: string, profile = veldrane): FilePlacement => {
    const found = placementOf(profile, parseScope('address', `https://${host}/`), 'file', TOKEN);
    if (found?.method !== 'file') throw new Error('no placement');
    return found;
  };
  const html = (head: string) =>
    `<!doctype html><html><head><title>Quay</title>${head}</head><body>${'<p>Quay</p>'.repeat(500)}</body></html>`;
  const write = (path: string, text: string | Buffer) => {
    writeFileSync(join(folder, path), text);
    execFileSync('chmod', ['-R', 'a+rX', folder]);
  };
  const look = (placement: MetaPlacement | FilePlacement) => probe(net, stageClock, placement);
  const codes = async (placement: MetaPlacement | FilePlacement) =>
    (await look(placement)).judgement.findings.map(({ code }) => code);

  beforeAll(async () => {
    const [port, plain, behind] = await Promise.all([freePort(), freePort(), freePort()]);
    const authority = await Authority.open(folder, stageClock);
    const certificate = async (name: string, ...issued: Parameters<Authority['issue']>) => {
      const { cert, key } = await authority.issue(...issued);
      writeFileSync(join(folder, `${name}.pem`), cert);
      writeFileSync(join(folder, `${name}.key`), key);
    };
    await certificate('quay', ['quay.example', 'www.quay.example']);
    await certificate('old', ['old.example'], 'expired');
    await certificate('theme', ['theme.example']);
    await certificate('cached', ['cached.example']);
    for (const name of ['www', 'theme', 'origin']) mkdirSync(join(folder, name));
    write('www/index.html', html(meta('www.quay.example').tag));
    write('theme/index.html', html(''));
    write('theme/404.html', '<!doctype html><html><body>Not at this mooring</body></html>');
    write('origin/index.html', html(''));
    mkdirSync(join(folder, 'cache'));
    const conf = join(folder, 'nginx.conf');
    const secure = (name: string, host: string, rest: string) =>
      `server { listen 127.0.0.1:${String(port)} ssl; server_name ${host}; ssl_certificate ${folder}/${name}.pem; ssl_certificate_key ${folder}/${name}.key; ${rest} }`;
    writeFileSync(
      conf,
      `daemon off; pid ${folder}/nginx.pid; error_log ${folder}/error.log;
events {}
http {
  access_log off; gzip on; gzip_min_length 100; types { text/html html; text/plain txt; }
  client_body_temp_path ${folder}/t1; proxy_temp_path ${folder}/t2; fastcgi_temp_path ${folder}/t3; uwsgi_temp_path ${folder}/t4; scgi_temp_path ${folder}/t5;
  proxy_cache_path ${folder}/cache keys_zone=copies:1m;
  server { listen 127.0.0.1:${String(plain)}; return 301 https://$host$request_uri; }
  ${secure('quay', 'quay.example', 'return 301 https://www.quay.example$request_uri;')}
  ${secure('quay', 'www.quay.example', `root ${folder}/www; gzip_types text/plain;`)}
  ${secure('old', 'old.example', `root ${folder}/www;`)}
  ${secure('theme', 'theme.example', `root ${folder}/theme; error_page 404 =200 /404.html;`)}
  server { listen 127.0.0.1:${String(behind)}; root ${folder}/origin; add_header cache-control "public, max-age=600"; }
  ${secure('cached', 'cached.example', `location / { proxy_pass http://127.0.0.1:${String(behind)}; proxy_cache copies; proxy_cache_valid 200 10m; proxy_cache_bypass $http_cache_control; add_header x-cache $upstream_cache_status; add_header age 30; }`)}
}
`,
    );
    execFileSync('chmod', ['-R', 'a+rX', folder]);
    execFileSync('chmod', ['-R', 'a+rwX', join(folder, 'cache')]);
    programs.start('nginx', '-e', join(folder, 'error.log'), '-c', conf);
    const state = newWorld(STAGE_TIME, [
      site('www.quay.example', '', '', { aliases: ['quay.example'] }),
      ...['old.example', 'theme.example', 'cached.example'].map((host) => site(host, '', '')),
    ]);
    names = await startNameServer({ state, ...stageClock }, 'resolver', 0);
    net = new Net({
      resolver: `127.0.0.1:${String(names.port)}`,
      allow: ['192.0.2.0/24'],
      connect: [
        { from: '*:80', to: `127.0.0.1:${String(plain)}` },
        { from: '*:443', to: `127.0.0.1:${String(port)}` },
      ],
      ca: authority.certificate.toString('pem'),
      agent: 'test',
      bounds: { ...DEFAULT_BOUNDS, dnsMs: 1_000 },
    });
    await vi.waitFor(
      async () => {
        expect((await net.page('https://www.quay.example/')).end).toBe('answered');
      },
      { timeout: 20_000, interval: 100 },
    );
  });
  afterAll(async () => {
    await net.close();
    await programs.stop();
    await names.close();
    await removed(folder);
  });

  it('is read compressed, through redirects, at the host that its certificate names', async () => {
    const seen = await net.page('http://quay.example/');
    expect(seen.hops.map(({ status }) => status)).toEqual([301, 301, 200]);
    expect(seen.hops[2]?.headers['content-encoding']).toBe('gzip');
    expect(seen.hops[2]?.certificate).toMatchObject({
      names: ['quay.example', 'www.quay.example'],
      issuer: 'Rehearsal Authority, Harbour Rehearsal',
    });
    expect((await look(meta('quay.example'))).judgement.forecast).toBe('accept');
  });

  it('shows the certificate that is out of date, by the name that was asked for (TLS SNI)', async () => {
    const { judgement, evidence } = await look(meta('old.example'));
    expect(judgement.findings[0]).toMatchObject({
      code: 'reach.tls-expired',
      evidence: { names: 'old.example' },
    });
    expect(evidence.kind === 'page' && evidence.hops[0]?.certificate?.names).toEqual(['old.example']);
  });

  it('is not taken in by a themed page that says 200, for any file', async () => {
    expect((await codes(file('theme.example')))[0]).toBe('file.themed-missing');
    write(`theme/veldrane-${TOKEN}.txt`, `veldrane-mooring: ${TOKEN}\n`);
    expect(await codes(file('theme.example'))).toEqual(['file.stands']);
  });

  it('compares every byte of a file, sent compressed or not', async () => {
    const wanted = file('www.quay.example', sundrel);
    mkdirSync(join(folder, 'www/.well-known'), { recursive: true });
    write(`www${wanted.path}`, `${wanted.content}\n`);
    expect(await codes(wanted)).toEqual(['file.line-end']);
    write(`www${wanted.path}`, Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), Buffer.from(wanted.content)]));
    expect(await codes(wanted)).toEqual(['file.byte-order-mark']);
    write(`www${wanted.path}`, wanted.content);
    expect(await codes(wanted)).toEqual(['file.stands']);
  });

  it('is told apart from the copy that a caching proxy keeps of it', async () => {
    const wanted = meta('cached.example');
    expect((await codes(wanted))[0]).toBe('meta.absent');
    write('origin/index.html', html(wanted.tag));
    const { judgement, checkedAt } = await look(wanted);
    expect(judgement.findings.map(({ code, follows }) => [code, follows])).toEqual([
      ['meta.stale-copy', null],
      ['meta.absent', 'meta.stale-copy'],
    ]);
    // Kept for ten minutes, and thirty seconds old by its own account.
    expect((judgement.visibleAt?.getTime() ?? 0) - checkedAt.getTime()).toBe(570_000);
  });
});
