import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MadeVersion } from '../../src/api/documents.js';
import type { InputOf } from '../../src/api/routes.js';
import { requireProtocol } from '../support/protocol.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const DOOR = `https://${HOST}/`;
const params = { property: 'ferries' };

let stage: Stage;

beforeAll(async () => {
  stage = await openStage();
  await takeOnFerries(stage);
});

afterAll(() => stage.close());

async function gather(body: InputOf<'makeSitemap'>['body']) {
  await stage.results(stage.marit.makeSitemap({ params, body }));
  return stage.marit.showMaking({ params });
}

async function textOf(version: MadeVersion, name: string): Promise<string> {
  const bytes = Buffer.from(await stage.marit.madeFile(version.id, name));
  return (name.endsWith('.gz') ? gunzipSync(bytes) : bytes).toString();
}

async function locsOf(version: MadeVersion): Promise<string[]> {
  return requireProtocol(await textOf(version, version.files[0]?.name ?? '')).entries.map(({ loc }) => loc);
}

describe('a sitemap that is made of a website', () => {
  it('has nothing before anything was gathered', async () => {
    expect(await stage.marit.showMaking({ params })).toMatchObject({
      gathering: null,
      preview: null,
      versions: [],
    });
    await expect(stage.marit.writeSitemap({ params, body: {} })).rejects.toMatchObject({
      problem: { code: 'nothing-gathered' },
    });
    await expect(stage.marit.listMadePages({ params })).rejects.toMatchObject({
      problem: { code: 'nothing-gathered' },
    });
  });

  it('follows the links, and shows what was found before anything is written', async () => {
    await stage.order({ do: 'pages', host: HOST, count: 260 });
    const making = await gather({});
    expect(making.gathering).toMatchObject({ state: 'ended', ended: 'all', waiting: 0 });
    const { preview } = making;
    expect(preview?.kinds.map(({ kind }) => kind)).toEqual(
      ['page', 'article', 'front', 'listing'].filter((kind) =>
        preview?.kinds.some((one) => one.kind === kind),
      ),
    );
    expect(preview?.chosen).toBeGreaterThan(260);
    expect(preview?.leftOut.map(({ why }) => why).sort()).toEqual(['canonical', 'gone', 'stays-away']);
    expect(preview?.findings.map(({ code }) => code)).toEqual(['making.dead-ends']);
    expect(making.versions).toEqual([]);
  });

  it('is written in the order of the addresses, by the protocol, and read without a finding', async () => {
    const version = await stage.marit.writeSitemap({ params, body: {} });
    expect(version).toMatchObject({
      came: null,
      heldBack: null,
      findings: [],
      files: [{ name: 'sitemap.xml' }],
    });
    const { entries } = requireProtocol(await textOf(version, 'sitemap.xml'));
    const locs = entries.map(({ loc }) => loc);
    expect(locs).toEqual([...locs].sort());
    expect(entries.length).toBe(version.addresses);
    expect(locs).toContain(DOOR);
    expect(entries.filter(({ lastmod }) => lastmod === null)).toEqual([]);
    expect(entries.every(({ priority, changefreq }) => priority === null && changefreq === null)).toBe(true);
    const { items } = await stage.marit.listSitemaps({ query: params });
    expect(items.map(({ url }) => url)).toContain(`${DOOR}sitemap.xml`);
  });

  it('is chosen anew without being gathered anew, and tells what came and went', async () => {
    const body = {
      without: ['listing' as const],
      exclude: ['/shop/*'],
      most: 100,
      weighing: [{ depth: 0, priority: 1 }],
      gzip: true,
      feed: 'atom' as const,
    };
    const { preview } = await stage.marit.editRecipe({ params, body: { ...body, mostFall: 90 } });
    expect(preview?.chosen).toBe(100);
    expect(preview?.leftOut.map(({ why }) => why)).toEqual(expect.arrayContaining(['excluded', 'too-many']));
    const version = await stage.marit.writeSitemap({ params, body: {} });
    expect(version).toMatchObject({ addresses: 100, came: 0 });
    expect(version.files.map(({ name }) => name)).toEqual(['sitemap.xml.gz', 'recent.atom']);
    const { entries } = requireProtocol(await textOf(version, 'sitemap.xml.gz'));
    expect(entries.filter(({ priority }) => priority === '1.0').map(({ loc }) => loc)).toEqual(
      entries.some(({ loc }) => loc === DOOR) ? [DOOR] : [],
    );
    expect((await textOf(version, 'recent.atom')).match(/<entry>/gu)).toHaveLength(50);
    await stage.marit.editRecipe({
      params,
      body: { exclude: [], most: null, gzip: false, feed: null, mostFall: 20, without: [] },
    });
  });

  it('is held back where it fell, until somebody says yes', async () => {
    await stage.marit.writeSitemap({ params, body: {} });
    await stage.marit.editRecipe({ params, body: { include: ['/news/*'] } });
    const held = await stage.marit.writeSitemap({ params, body: {} });
    expect(held.heldBack).toContain('It fell from');
    expect(await stage.marit.allowVersion({ params: { version: held.id } })).toMatchObject({
      heldBack: null,
    });
    await stage.marit.editRecipe({ params, body: { include: [] } });
    await expect(stage.marit.allowVersion({ params: { version: 'none' } })).rejects.toMatchObject({
      problem: { code: 'no-such-version' },
    });
  });

  it('shows the addresses a page at a time, with why they are left out', async () => {
    const first = await stage.marit.listMadePages({ params, query: { limit: 10, state: 'in' } });
    expect(first.items).toHaveLength(10);
    const second = await stage.marit.listMadePages({
      params,
      query: { limit: 10, state: 'in', after: first.next ?? '' },
    });
    expect(second.items[0]?.url.localeCompare(first.items.at(-1)?.url ?? '')).toBeGreaterThan(0);
    const gone = await stage.marit.listMadePages({ params, query: { why: 'gone' } });
    expect(gone.items.map(({ detail }) => detail)).toEqual(['404']);
    expect(
      (await stage.marit.listMadePages({ params, query: { match: 'NEWS', limit: 500 } })).items.every(
        ({ url }) => url.includes('/news/'),
      ),
    ).toBe(true);
  });

  it('keeps to what the robots.txt, tags and headers ask for', async () => {
    await stage.order({
      do: 'file',
      host: HOST,
      path: '/robots.txt',
      content: 'User-agent: *\nDisallow: /shop/\n',
      type: 'text/plain',
    });
    const { preview } = await gather({});
    expect(preview?.folders.map(({ folder }) => folder)).not.toContain('/shop/');
    expect(preview?.leftOut.find(({ why }) => why === 'forbidden')?.examples[0]?.detail).toContain(
      'Disallow: /shop/ (line 2',
    );
    await stage.order({ do: 'clear', host: HOST, what: 'files' });
  });

  it('goes nowhere where the robots.txt names us, or cannot be reached, and says so', async () => {
    const headers = { 'content-type': 'text/plain' };
    for (const [status, body, says] of [
      [200, 'User-agent: YardBadge\nDisallow: /', 'the rules for us, or for everyone'],
      [503, '', 'the robots.txt answers 503, which forbids everything until it does'],
    ] as const) {
      await stage.order({ do: 'odd', host: HOST, answer: { path: '/robots.txt', status, body, headers } });
      const { preview } = await gather({});
      expect(preview?.chosen).toBe(0);
      expect(preview?.findings[0]).toMatchObject({ code: 'making.kept-out', grade: 'stops' });
      expect(preview?.findings[0]?.says).toContain(says);
    }
    await stage.order({ do: 'odd', host: HOST, none: true });
  });

  it('is made of menus alone, of a list, of an old sitemap, and names what nothing links to', async () => {
    expect((await gather({ sources: ['menus'] })).gathering?.read).toBe(9);
    const listed = await gather({ sources: ['list'], list: ['/tides/', `${DOOR}boats/`, '/nowhere'] });
    expect(listed.preview).toMatchObject({ chosen: 2 });
    expect(listed.preview?.leftOut.map(({ why }) => why)).toEqual(['gone']);
    await stage.order({
      do: 'file',
      host: HOST,
      path: '/old.xml',
      type: 'application/xml',
      content: `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>${DOOR}hidden.html</loc></url><url><loc>${DOOR}tides/</loc></url></urlset>`,
    });
    await stage.order({
      do: 'file',
      host: HOST,
      path: '/hidden.html',
      content: '<!doctype html><title>Hidden</title><p>Nobody links here.',
      type: 'text/html',
    });
    const cleaned = await gather({ sources: ['site', 'sitemap'], sitemaps: ['/old.xml'] });
    expect(cleaned.preview?.findings.find(({ code }) => code === 'making.unlinked')?.says).toContain(
      'hidden.html',
    );
    await expect(
      stage.marit.editRecipe({ params, body: { add: ['https://elsewhere.example/'] } }),
    ).rejects.toMatchObject({ problem: { code: 'bad-page-elsewhere' } });
    await expect(stage.marit.editRecipe({ params, body: { every: 'PT1M' } })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
    await stage.order({ do: 'clear', host: HOST, what: 'files' });
  });

  it('says that a page changed only where it saw it otherwise before', async () => {
    const file = (words: string) =>
      stage.order({
        do: 'file',
        host: HOST,
        path: '/plain.html',
        content: `<!doctype html><title>Plain</title><p>${words}`,
        type: 'text/html',
      });
    const dates = async () => {
      await gather({ sources: ['list'], list: ['/plain.html'], dates: ['seen'] });
      return (await stage.marit.listMadePages({ params, query: { match: 'plain' } })).items.map(
        ({ lastmod }) => lastmod,
      );
    };
    await file('the ferry leaves at nine on every day but Sunday, from the old pier in the harbour');
    expect(await dates()).toEqual([null]);
    expect(await dates()).toEqual([null]);
    await file('no ferry runs this winter, since the pier is being mended until the end of March');
    expect(await dates()).toEqual([expect.stringMatching(/^2033-/u)]);
    await stage.order({ do: 'clear', host: HOST, what: 'files' });
    await stage.marit.editRecipe({ params, body: { dates: ['page', 'header', 'seen'] } });
  });

  it('is made sooner once a feed or a sitemap of the website has changed, and not before its least age', async () => {
    const next = async () => (await stage.marit.showMaking({ params })).nextAt;
    const { id } = await stage.marit.addSitemap({
      body: { property: 'ferries', address: '/sitemaps/crossings.xml' },
    });
    const read = async (addresses: number) => {
      await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/crossings.xml', addresses });
      await stage.results(stage.marit.readSitemaps({ body: { sitemap: id, sample: 0 } }));
    };
    await expect(stage.marit.editRecipe({ params, body: { afterChange: 'PT1M' } })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
    await stage.marit.editRecipe({ params, body: { every: null, afterChange: 'P1D' } });
    await read(124);
    expect(await next()).toBeNull();
    await read(124);
    expect(await next()).toBeNull();
    await read(126);
    const { now } = await stage.marit.whoAmI();
    const at = Date.parse((await next()) ?? '') - Date.parse(now);
    expect(at).toBeGreaterThan(12 * 3_600_000);
    expect(at).toBeLessThanOrEqual(24 * 3_600_000);
    await stage.marit.editRecipe({ params, body: { afterChange: null } });
  });

  it('is handed out under a word of its own, and to nobody without it', async () => {
    await gather({ sources: ['site'], list: [] });
    const version = await stage.marit.writeSitemap({ params, body: { anyway: true } });
    await expect(stage.marit.showHandOut({ params })).rejects.toMatchObject({
      problem: { code: 'not-handed-out' },
    });
    const { handedOutAt } = await stage.marit.editRecipe({ params, body: { handOut: true } });
    const answer = await fetch(stage.url + String(handedOutAt));
    expect(answer.status).toBe(200);
    expect(answer.headers.get('content-type')).toBe('application/xml; charset=utf-8');
    expect(requireProtocol(await answer.text()).entries).toHaveLength(version.addresses);
    const again = await fetch(stage.url + String(handedOutAt), {
      headers: { 'if-none-match': String(answer.headers.get('etag')) },
    });
    expect(again.status).toBe(304);
    const { rules, engines, to } = await stage.marit.showHandOut({ params });
    expect(to).toBe(stage.url + String(handedOutAt));
    expect(rules[0]?.text).toContain('proxy_pass');
    expect(engines.map(({ engine }) => engine)).toEqual(['veldrane']);
    for (const path of [
      '/made/none/sitemap.xml',
      String(handedOutAt).replace('sitemap.xml', 'addresses.txt'),
      String(handedOutAt).replace('sitemap.xml', '..%2f..%2fx'),
    ])
      expect((await fetch(stage.url + path)).status).toBe(404);
    expect((await fetch(`${stage.url}/api/v1/versions/${version.id}/files/sitemap.xml`)).status).toBe(401);
    await stage.marit.editRecipe({ params, body: { handOut: false } });
    expect((await fetch(stage.url + String(handedOutAt))).status).toBe(404);
  });
});

describe('the robots.txt of a property', () => {
  it('is told line by line, as it stands and as it is drafted', async () => {
    const judge = async (body: InputOf<'judgeRobots'>['body']) =>
      (await stage.results(stage.marit.judgeRobots({ params, body })))[0];
    const stands = await judge({ addresses: ['/tides/', `${DOOR}shop/`] });
    expect(stands).toMatchObject({ stops: false, robots: { status: 200, draft: false, faults: [] } });
    expect(stands?.robots?.verdicts.map(({ agents }) => agents.at(-1))).toEqual(
      [1, 2].map(() => expect.objectContaining({ title: 'everyone else', allowed: true, line: 2 }) as object),
    );
    const drafted = await judge({ draft: 'User-agent: *\nDisallow: /\n' });
    expect(drafted).toMatchObject({ stops: true, robots: { draft: true } });
    expect(drafted?.robots?.proposal).toContain(`Sitemap: ${DOOR}sitemap.xml`);
    // A path, an address without its scheme, and one with a place on its page are pages; what lies elsewhere is none.
    const named = await judge({ addresses: ['tides', `${new URL(DOOR).host}/tides`, `${DOOR}tides#top`] });
    expect(named?.robots?.verdicts.map(({ address }) => address)).toEqual([`${DOOR}tides`]);
    for (const elsewhere of [
      'https://elsewhere.example/',
      '//elsewhere.example/',
      `${DOOR.slice(0, -1)}:8443/`,
      DOOR.replace('//', '//someone@'),
      'javascript:tides',
    ])
      await expect(judge({ addresses: [elsewhere] }), elsewhere).rejects.toMatchObject({
        problem: { code: 'bad-page-elsewhere' },
      });
  });
});

describe('a website that is full of traps', () => {
  it('ends in findings', async () => {
    await stage.order({ do: 'pages', host: HOST, count: 40, traps: true });
    const making = await gather({ sources: ['site'], pages: 3000, minutes: 5 });
    expect(making.gathering?.state).toBe('ended');
    const codes = making.preview?.findings.map(({ code }) => code) ?? [];
    expect(codes).toEqual(
      expect.arrayContaining(['making.idle', 'making.repeating', 'making.redirects', 'making.endless']),
    );
    expect(making.preview?.findings.find(({ code }) => code === 'making.idle')?.says).toContain(
      '“/session?visit” makes no difference to what is shown there',
    );
    expect(making.preview?.leftOut.map(({ why }) => why)).toEqual(
      expect.arrayContaining(['endless', 'redirect', 'repeating']),
    );
    const written = await stage.marit.writeSitemap({ params, body: { anyway: true } });
    expect((await locsOf(written)).filter((url) => url.includes('visit=')).length).toBeLessThanOrEqual(1);
  });
});
