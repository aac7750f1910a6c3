import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Sitemap } from '../../src/api/documents.js';
import { ENGINE_ANSWERS } from './engine-answers.js';
import { TOKEN_FILE, type EngineWork } from './engine.js';
import { HostileGround } from './ground.js';
import { HOST, type WebAnswer } from './site.js';
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

  /** The sitemap that is submitted, added where it is not there. */
  const knownSitemap = async (): Promise<Sitemap> => {
    const address = `http://${HOST}/sitemap.xml`;
    const query = { property: 'quay', limit: 500 };
    const known = (await ground.client.listSitemaps({ query })).items;
    const there = known.find(({ url }) => url === address);
    if (there) return there;
    await ground.client.addSitemap({ body: { property: 'quay', address } });
    return knownSitemap();
  };
  const site = (path: string): WebAnswer =>
    path === '/sitemap.xml' ? { body: `http://${HOST}/\n`, headers: { 'content-type': 'text/plain' } } : fine;

  /** What a consultant asks for that has an engine asked for this. */
  const asked: Readonly<Record<EngineWork, () => Promise<unknown>>> = {
    enrol: async () => {
      await ground
        .results(ground.client.endEnrolment({ params: { enrolment: 'quay@hollin' } }))
        .catch(() => []);
      return ground.results(ground.client.enrol({ body: { properties: ['quay'], engines: ['hollin'] } }));
    },
    drop: () => ground.results(ground.client.endEnrolment({ params: { enrolment: 'quay@hollin' } })),
    list: () => ground.results(ground.client.adopt({ body: { engine: 'hollin' } })),
    token: () => ground.results(ground.client.getTokens({ body: { enrolments: ['quay@hollin'] } })),
    claim: () => ground.results(ground.client.claim({ body: { enrolments: ['quay@hollin'], anyway: true } })),
    ownership: () => ground.results(ground.client.check({ body: { enrolments: ['quay@hollin'] } })),
    holders: () => ground.results(ground.client.askHolders({ params: { client: 'quay' } })),
    submit: async () => {
      const sitemap = await knownSitemap();
      for (const { id } of sitemap.submissions)
        await ground.results(ground.client.withdrawSitemap({ params: { id } }));
      return ground.results(
        ground.client.submitSitemap({
          body: { sitemap: sitemap.id, enrolments: ['quay@hollin'], anyway: true },
        }),
      );
    },
    sitemaps: () => ground.results(ground.client.readSitemaps({ body: { property: 'quay', sample: 0 } })),
    lookup: () =>
      ground.results(ground.client.lookUp({ body: { addresses: [`http://${HOST}/`], engine: 'hollin' } })),
  };
  /** Everything that may be read afterwards of what the engine said. */
  const readAfter = async (): Promise<unknown[]> => [
    await ground.client.listEnrolments({ query: { property: 'quay' } }),
    await ground.client.listSitemaps({ query: { property: 'quay' } }),
    await ground.client.showSheet({ query: { property: 'quay' } }),
    await ground.client.listEngines(),
    await ground.client.showHandover({ params: { client: 'quay' } }),
  ];

  /** An enrolment at the engine as it has to be before a case, whatever the case before has left. */
  const inOrder = async (work: EngineWork): Promise<void> => {
    ground.engine = () => undefined;
    if (work === 'enrol') return;
    const { items } = await ground.client.listEnrolments({ query: { property: 'quay' } });
    const there = items.find(({ engine }) => engine.id === 'hollin');
    if (there === undefined) await asked.enrol();
    if (there === undefined || there.placements.length === 0) await asked.token();
    if ((work === 'lookup' || work === 'holders') && there?.badge !== 'held') {
      ground.engine = (call) =>
        call.work === 'claim' ? { body: JSON.stringify({ id: call.last, verdict: 'confirmed' }) } : undefined;
      await asked.claim();
    }
    if (work === 'sitemaps') await asked.submit();
  };

  it.each(ENGINE_ANSWERS.map((one) => [one.what, one] as const))('an engine: %s', async (_, one) => {
    ground.web = site;
    await inOrder(one.work);
    let isAsked = false;
    ground.engine = (call) => {
      if (call.work !== one.work) return undefined;
      isAsked = true;
      return one.answer(call);
    };
    const results = await holds(() => asked[one.work]());
    ground.engine = () => undefined;
    expect([isAsked, results]).toEqual([true, expect.anything()]);
    const text = JSON.stringify([results, ...(await readAfter())]);
    expect(text).not.toMatch(/"code":"internal"/u);
    // Escapes of JSON for what moves a cursor or turns the direction of writing, and the key of the account.
    expect(text).not.toMatch(/\\u00[01]|\\r|\u202e|hollin-key-1/u);
    const { items } = await ground.client.listEnrolments({ query: { property: 'quay' } });
    const files = items.flatMap(({ engine, placements }) =>
      engine.id === 'hollin' ? placements.flatMap(({ put }) => (put.kind === 'file' ? [put.path] : [])) : [],
    );
    for (const path of files) expect(path).toMatch(TOKEN_FILE);
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

  it('makes four hundred and fifty cases and more, those of roles not counted', () => {
    const kinds = [PAGES, SITEMAPS, ROBOTS, NAMES, TLS, ENGINE_ANSWERS, REQUESTS];
    expect(kinds.reduce((sum, { length }) => sum + length, 0)).toBeGreaterThanOrEqual(450);
  });
});
