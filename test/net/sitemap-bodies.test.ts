import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createGzip, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { NAMESPACE } from '../../src/core/sitemap/read/limits.js';
import { readEach } from '../../src/desk/sitemaps/read-file.js';
import { readWhole } from '../../src/desk/sitemaps/read-whole.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { startNameServer, type NameServer } from '../../src/rehearsal/names/server.js';
import { newWorld, site } from '../../src/rehearsal/scenario.js';
import { STAGE_TIME, stageClock } from '../support/time.js';

const NOW = new Date('2026-11-25T08:00:00Z');
const ORIGIN = 'http://quay.example';
const loc = (path: string) => `<url><loc>${ORIGIN}${path}</loc></url>\n`;
const set = (inner: string) => `<?xml version="1.0"?><urlset xmlns="${NAMESPACE}">${inner}</urlset>`;
const index = (...paths: string[]) =>
  `<sitemapindex xmlns="${NAMESPACE}">${paths.map((path) => `<sitemap><loc>${ORIGIN}${path}</loc></sitemap>`).join('')}</sitemapindex>`;

/** Writes for as long as somebody reads. */
function endless(response: ServerResponse, piece: string | Buffer): void {
  const more = () => {
    while (!response.destroyed && response.write(piece));
  };
  response.on('drain', more);
  more();
}

const ROUTES: Readonly<Record<string, (response: ServerResponse) => void>> = {
  '/abroad.xml': (response) =>
    response.end(
      `<sitemapindex xmlns="${NAMESPACE}"><sitemap><loc>http://elsewhere.example/s.xml</loc></sitemap><sitemap><loc>${ORIGIN}/good.xml</loc></sitemap></sitemapindex>`,
    ),
  '/strangers.xml': (response) =>
    response.end(set(`${loc('/a')}<url><loc>http://elsewhere.example/a</loc></url>`)),
  '/good.xml': (response) => response.end(set(loc('/a') + loc('/b'))),
  '/packed.xml': (response) => response.end(gzipSync(set(loc('/a')))),
  '/packed-twice.xml': (response) =>
    response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync(gzipSync(set(loc('/a'))))),
  '/packed-no-more.xml': (response) =>
    response.writeHead(200, { 'content-type': 'application/gzip' }).end(set(loc('/a'))),
  '/latin.xml': (response) =>
    response
      .writeHead(200, { 'content-type': 'text/xml; charset=iso-8859-1' })
      .end(Buffer.from(set(`<!-- möwe -->${loc('/a')}`), 'latin1')),
  '/bomb.xml': (response) => {
    const packer = createGzip();
    packer.pipe(response);
    packer.write(`<urlset xmlns="${NAMESPACE}"><!-- `);
    const zeros = Buffer.alloc(1 << 20, ' ');
    for (let times = 0; times < 80; times += 1) packer.write(zeros);
    packer.end();
  },
  '/broken.xml': (response) => response.end(gzipSync(set(loc('/a'))).subarray(0, 40)),
  '/endless.xml': (response) => {
    response.write(`<urlset xmlns="${NAMESPACE}">`);
    endless(response, ' '.repeat(1 << 16));
  },
  '/endless-entries.xml': (response) => {
    response.write(`<urlset xmlns="${NAMESPACE}">`);
    let at = 0;
    const more = () => {
      while (!response.destroyed && response.write(loc(`/${String((at += 1))}`)));
    };
    response.on('drain', more);
    more();
  },
  '/slow.xml': (response) => {
    response.write(set(loc('/a')).slice(0, 80));
  },
  '/cut.xml': (response) => {
    response.write(set(loc('/a')).slice(0, 80), () => response.destroy());
  },
  '/index.xml': (response) => response.end(index('/good.xml', '/broken.xml', '/packed.xml', '/gone.xml')),
  '/nested.xml': (response) => response.end(index('/good.xml', '/index.xml')),
  '/page.xml': (response) => response.end('<!doctype html><title>Sign in</title>'),
  '/feed': (response) =>
    response.end(`<rss version="2.0"><channel><item><link>${ORIGIN}/a</link></item></channel></rss>`),
};

const ORDER = { now: NOW, agents: [], sample: 0, seed: 0, keeps: -1 };

describe('sitemaps as they come over the wire', () => {
  const server = createServer((request, response) => {
    const answer = ROUTES[request.url ?? ''];
    if (answer) answer(response);
    else response.writeHead(404).end();
  });
  let names: NameServer;
  let net: Net;
  beforeAll(async () => {
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const state = newWorld(STAGE_TIME, [site('quay.example', '', '')]);
    names = await startNameServer({ state, ...stageClock }, 'resolver', 0);
    net = new Net({
      resolver: `127.0.0.1:${String(names.port)}`,
      allow: ['192.0.2.0/24'],
      connect: [{ from: '*:80', to: `127.0.0.1:${String((server.address() as AddressInfo).port)}` }],
      ca: null,
      agent: 'test',
      bounds: { ...DEFAULT_BOUNDS, hopMs: 4_000 },
    });
  });
  afterAll(async () => {
    await net.close();
    await names.close();
    server.closeAllConnections();
    await new Promise((done) => server.close(done));
  });

  test.each<[string, string | null, number, string[]]>([
    ['/good.xml', 'urlset', 2, []],
    ['/packed.xml', 'urlset', 1, []],
    ['/packed-twice.xml', 'urlset', 1, []],
    ['/packed-no-more.xml', 'urlset', 1, []],
    ['/latin.xml', 'urlset', 1, []],
    ['/feed', 'rss', 1, []],
    ['/page.xml', null, 0, ['sitemap.page-instead']],
    ['/gone.xml', null, 0, ['sitemap.not-reached']],
    ['/broken.xml', null, 0, ['sitemap.gzip-broken']],
    ['/bomb.xml', 'urlset', 0, ['sitemap.too-heavy']],
    ['/endless-entries.xml', 'urlset', 50_000, ['sitemap.too-many']],
    ['/slow.xml', null, 0, ['sitemap.not-reached']],
    ['/cut.xml', null, 0, ['sitemap.not-reached']],
  ])('%s', async (path, kind, entries, codes) => {
    const [reading] = await readEach(net, [ORIGIN + path], ORDER);
    expect(reading).toMatchObject({ kind, entries });
    expect(reading?.findings.map(({ code }) => code)).toEqual(codes);
  });
  it('an endless body ends at the bound of size or of time', async () => {
    const [reading] = await readEach(net, [`${ORIGIN}/endless.xml`], ORDER);
    const findings = reading?.findings ?? [];
    expect(findings).toHaveLength(1);
    expect(['sitemap.too-large', 'sitemap.too-heavy', 'sitemap.not-reached']).toContain(findings[0]?.code);
  });
  it('a broken child does not stop the others', async () => {
    const { reading: whole } = await readWhole(net, `${ORIGIN}/index.xml`, ORDER);
    expect(whole).toMatchObject({ kind: 'index', addresses: 3 });
    expect(whole.children.map(({ state }) => state)).toEqual(['clean', 'flawed', 'flawed', 'unreachable']);
    expect(whole.findings[0]).toMatchObject({
      code: 'sitemap.child-fails',
      evidence: { count: 2, children: 4 },
    });
    // One of the others lists again what the first has.
    expect(whole.findings.map(({ code }) => code)).toContain('sitemap.in-two');
  });
  it('goes to another domain only where that lets it', async () => {
    const { children, findings } = (await readWhole(net, `${ORIGIN}/abroad.xml`, ORDER)).reading;
    expect(children.map(({ state }) => state)).toEqual(['unreachable', 'clean']);
    expect(children[0]?.says).toContain('another domain, whose robots.txt does not name it');
    expect(findings.map(({ code }) => code)).toContain('sitemap.child-elsewhere');
  });
  it('tries no page of another domain', async () => {
    const { picked } = await readWhole(net, `${ORIGIN}/strangers.xml`, { ...ORDER, sample: 50, seed: 1 });
    expect(picked).toEqual([`${ORIGIN}/a`]);
  });
  it('an index inside an index is told', async () => {
    const { findings } = (await readWhole(net, `${ORIGIN}/nested.xml`, ORDER)).reading;
    expect(findings.map(({ code }) => code)).toContain('sitemap.nested-index');
  });
});
