import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { HostileGround, HOST, type WebAnswer } from './ground.js';
import { NAMES } from './names.js';
import { PAGES, ROBOTS, SITEMAPS } from './pages.js';
import { REQUESTS } from './requests.js';
import { rolesOf, type Asked } from './roles.js';
import { TLS } from './tls.js';

/** Health is asked for all the while: in the middle of a case more work may lie before it than after the case. */
const SLOWEST_MS = 1_000;

const ASKED: readonly Asked[] = rolesOf();

/**
 * What strangers could answer and send, case by case. Whatever comes, the service is there, answers for its health at once,
 * stays small, and says in words what it found; no error reaches its process.
 */
describe('whatever comes', () => {
  let ground: HostileGround;
  const fine: WebAnswer = { body: '<!doctype html><title>Quay</title><p>Welcome.' };
  beforeAll(async () => {
    ground = await HostileGround.open();
  });
  afterAll(() => ground.close());

  /** Does the work of a case and holds what must hold after it. */
  async function holds<T>(work: () => Promise<T>): Promise<T> {
    const { value, slowest } = await ground.during(work);
    expect(slowest).toBeLessThan(SLOWEST_MS);
    await expect.poll(() => ground.wrong(), { timeout: 10_000, interval: 100 }).toEqual([]);
    return value;
  }

  it.each(PAGES)('a page: %s', async (_, answer) => {
    ground.web = (path) => (path === '/robots.txt' ? { status: 404 } : answer);
    const results = await holds(async () => [
      ...(await ground.results(ground.client.check({ body: { enrolments: ['quay@house'] } }))),
      ...(await ground.results(ground.client.lookAtVariants({ body: { properties: ['quay'] } }))),
    ]);
    expect(results).toHaveLength(4);
    for (const { says, problem } of results) {
      expect(says).not.toBe('');
      expect(problem?.code).not.toBe('internal');
    }
  });

  it.each(SITEMAPS)('a sitemap: %s', async (_, answer) => {
    const { id } = await ground.client.addSitemap({
      body: { property: 'quay', address: `http://${HOST}/sitemap.xml` },
    });
    ground.web = (path) => (path === '/sitemap.xml' ? answer : path === '/' ? fine : { status: 404 });
    const [result] = await holds(() => ground.results(ground.client.readSitemaps({ body: { sitemap: id } })));
    expect(result?.says).not.toBe('');
    expect(result?.problem).toBeUndefined();
  });

  it.each(ROBOTS)('a robots.txt: %s', async (_, body) => {
    const { id } = await ground.client.addSitemap({
      body: { property: 'quay', address: `http://${HOST}/sitemap.xml` },
    });
    const entries = Array.from(
      { length: 1_000 },
      (_, at) => `http://${HOST}/pages/${String(at)}/${'a'.repeat(300)}`,
    );
    ground.web = (path) => {
      if (path === '/robots.txt') return { body, headers: { 'content-type': 'text/plain' } };
      return path === '/sitemap.xml'
        ? { body: entries.join('\n'), headers: { 'content-type': 'text/plain' } }
        : fine;
    };
    const results = await holds(async () => [
      ...(await ground.results(ground.client.readSitemaps({ body: { sitemap: id, sample: 3 } }))),
      ...(await ground.results(ground.client.lookAtVariants({ body: { properties: ['quay'] } }))),
      ...(await ground.results(ground.client.findSitemaps({ params: { property: 'quay' }, body: {} }))),
    ]);
    for (const { problem } of results) expect(problem).toBeUndefined();
  });

  it.each(NAMES)('a name server: %s', async (_, names) => {
    ground.web = () => fine;
    ground.dns = names;
    const results = await holds(() =>
      ground.results(ground.client.check({ body: { enrolments: ['quay@house'] } })),
    );
    ground.dns = () => undefined;
    expect(results).toHaveLength(3);
    for (const { check, problem } of results) {
      expect(problem).toBeUndefined();
      expect(check?.findings[0]?.says).not.toBe('');
      expect(check?.forecast).not.toBe('accept');
    }
  });

  it.each(TLS)('at the port for HTTPS: %s', async (_, behave) => {
    ground.web = (path) =>
      path === '/robots.txt'
        ? { status: 404 }
        : { status: 302, headers: { location: `https://${HOST}${path}` } };
    ground.tls = await behave();
    const results = await holds(async () => [
      ...(await ground.results(ground.client.check({ body: { enrolments: ['quay@house'] } }))),
      ...(await ground.results(ground.client.lookAtVariants({ body: { properties: ['quay'] } }))),
    ]);
    expect(results).toHaveLength(4);
    for (const { says, check, problem } of results) {
      expect(says).not.toBe('');
      // Nobody's certificate holds here, and what a server says of itself reaches no terminal as it came.
      expect(check?.forecast).not.toBe('accept');
      for (const found of check?.findings ?? [])
        for (const text of [found.says, ...Object.values(found.evidence).map(String)])
          expect(text).not.toMatch(/\p{Cc}/u);
      expect(problem?.code).not.toBe('internal');
    }
  });

  it.each(ASKED.map((one) => [one.what, one] as const))('%s', async (_, { caller, method, path, status }) => {
    const response = await fetch(`${ground.url}/api/v1${path}`, {
      method,
      headers: { authorization: `Bearer ${ground.keys[caller]}`, 'content-type': 'application/json' },
      ...(method === 'GET' ? {} : { body: '{}' }),
    });
    expect(response.status).toBe(status);
    expect(await response.json()).toMatchObject({ detail: expect.any(String) as string });
  });

  // Each of them is turned away before anything is done: what they leave behind is looked at once for all.
  it('is well after all who may not', () => holds(() => Promise.resolve()));

  it.each(REQUESTS.map((one) => [one.what, one] as const))('a request: %s', async (_, sent) => {
    ground.web = () => fine;
    const response = await holds(() =>
      fetch(`${ground.url}/api/v1${sent.path}`, {
        method: sent.method,
        headers: {
          ...(sent.body === undefined ? {} : sent.headers),
          ...(sent.body === undefined
            ? Object.fromEntries(
                Object.entries(sent.headers ?? {}).filter(([name]) => name !== 'content-type'),
              )
            : {}),
          ...(sent.signedIn ? { authorization: `Bearer ${ground.keys.lead}` } : {}),
        },
        ...(sent.body === undefined ? {} : { body: sent.body }),
        redirect: 'manual',
      }),
    );
    const text = await response.text();
    expect([
      sent.what,
      response.status,
      sent.status.includes(response.status) ? '' : text.slice(0, 300),
    ]).toEqual([sent.what, response.status, '']);
    if (response.status >= 400)
      expect(JSON.parse(text)).toMatchObject({ detail: expect.any(String) as string });
  });

  it('makes three hundred cases and more', () => {
    const kinds = [PAGES, SITEMAPS, ROBOTS, NAMES, TLS, ASKED, REQUESTS];
    expect(kinds.reduce((sum, { length }) => sum + length, 0)).toBeGreaterThan(300);
  });
});
