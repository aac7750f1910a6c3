import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import type { InputOf } from '../../src/api/routes.js';
import { openStage, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

const ADDRESS = '198.51.100.30';
/** What surrounds what a page has of its own: more than most pages have. */
const FRAME = Array.from({ length: 450 }, (_, at) => `frame${String(at)}`).join(' ');

type Answer = { html?: string; status?: number; headers?: Record<string, string> } | null;
type Site = (path: string, query: URLSearchParams) => Answer;

function page(title: string, body: string, more = ''): Answer {
  return {
    html: `<!doctype html><html><head><title>${title}</title>${more}</head><body><div>${FRAME}</div><h1>${title}</h1>${body}</body></html>`,
  };
}
const link = (to: string) => `<a href="${to}">${to}</a> `;
const many = <T>(count: number, made: (at: number) => T): T[] =>
  Array.from({ length: count }, (_, at) => made(at + 1));

/** Websites as they are laid out in the world, each at a host of its own behind one server. */
class Sites {
  readonly sites = new Map<string, Site>();
  /** Files by host, for those that have one. */
  readonly robots = new Map<string, string>();
  /** When pages were asked for, by host; in milliseconds. */
  readonly askedAt = new Map<string, number[]>();
  private constructor(private readonly server: Server) {}

  static async open(): Promise<Sites> {
    const server = createServer();
    const own = new Sites(server);
    server.on('request', (request, response) => {
      own.answer(request, response);
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    return own;
  }

  get endpoint(): string {
    return `127.0.0.1:${String((this.server.address() as AddressInfo).port)}`;
  }

  private answer(request: IncomingMessage, response: ServerResponse): void {
    const url = new URL(request.url ?? '/', `http://${request.headers.host ?? ''}`);
    const host = url.hostname.replace(/^www\./u, '');
    const site = this.sites.get(host);
    const robots = url.pathname === '/robots.txt' ? this.robots.get(host) : undefined;
    if (robots !== undefined) {
      response.writeHead(200, { 'content-type': 'text/plain' }).end(robots);
      return;
    }
    this.askedAt.set(host, [...(this.askedAt.get(host) ?? []), performance.now()]);
    const found = url.pathname === '/robots.txt' ? null : (site?.(url.pathname, url.searchParams) ?? null);
    const type = { 'content-type': 'text/html; charset=utf-8' };
    response.writeHead(found?.status ?? (found ? 200 : 404), { ...type, ...found?.headers });
    response.end(found?.html ?? '<title>None</title>There is none.');
  }

  async close(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((done) => this.server.close(done));
  }
}

let stage: Stage;
let web: Sites;

beforeAll(async () => {
  web = await Sites.open();
  stage = await openStage({}, [], (config) => {
    const { net } = parse(config) as { net: { connect: { from: string; to: string }[] } };
    const own = [
      { from: `${ADDRESS}:80`, to: web.endpoint },
      // Nobody listens there: it is plain http.
      { from: `${ADDRESS}:443`, to: '127.0.0.1:9' },
    ];
    return { 'net.connect': JSON.stringify([...own, ...net.connect]) };
  });
  await stage.marit.addClient({ body: { name: 'Quay', handle: 'quay' } });
});
afterAll(async () => {
  await stage.close();
  await web.close();
});

/** Gathers a website. @returns the paths that go in, and what was found */
async function gathered(handle: string, site: Site, body: InputOf<'makeSitemap'>['body'] = {}) {
  const host = `${handle}.example`;
  const params = { property: handle };
  if (!web.sites.has(host)) {
    await stage.order({ do: 'new-site', host, title: handle });
    stage.world.file.state.names.hosts.push(
      { host, address: ADDRESS },
      { host: `www.${host}`, address: null },
    );
    web.sites.set(host, site);
    const { job } = await stage.marit.addProperty({
      body: { client: 'quay', address: `http://${host}/`, handle },
    });
    await stage.marit.finished({ id: job });
  }
  web.sites.set(host, site);
  await stage.results(stage.marit.makeSitemap({ params, body }));
  const { preview, gathering } = await stage.marit.showMaking({ params });
  const paths: string[] = [];
  for (let after: string | undefined; ;) {
    const query = { limit: 500, state: 'in' as const, ...(after === undefined ? {} : { after }) };
    const { items, next } = await stage.marit.listMadePages({ params, query });
    paths.push(...items.map(({ url }) => url.slice(`http://${host}`.length)));
    if (next === null) break;
    after = next;
  }
  const findings = preview?.findings ?? [];
  return { paths, gathering, findings, codes: findings.map(({ code }) => code) };
}

describe('a website is gathered to its last page', () => {
  it('whose pages differ by their query alone, within a frame of hundreds of words', async () => {
    const { paths, codes } = await gathered('lamps', (path, query) => {
      if (path === '/') return page('Lamps', many(100, (at) => link(`/lamp?id=${String(at)}`)).join(''));
      const id = Number(query.get('id'));
      return path === '/lamp' ? page(`Lamp ${String(id)}`, `<p>${String(id * 7)} crowns</p>`) : null;
    });
    expect(paths).toHaveLength(101);
    expect(codes).toEqual([]);
  });

  it('that shows the same for a parameter at one path, and not at another', async () => {
    const { paths, codes } = await gathered('wishes', (path, query) => {
      const id = query.get('id') ?? '';
      if (path === '/')
        return page(
          'Wishes',
          many(12, (at) => link(`/wish?id=${String(at)}`)).join('') +
            many(200, (at) => link(`/thing?id=${String(at)}`)).join(''),
        );
      if (path === '/wish') return page('Sign in', 'Please sign in.');
      return path === '/thing' ? page(`Thing ${id}`, `This is thing ${id}.`) : null;
    });
    expect(paths.filter((one) => one.startsWith('/thing'))).toHaveLength(200);
    expect(paths.filter((one) => one.startsWith('/wish'))).toHaveLength(1);
    expect(codes).toContain('making.doubles');
  });

  it('a blog of 1,500 posts, each list of ten leading to the next', async () => {
    const lists = 150;
    const { paths, codes } = await gathered('blog', (path) => {
      const post = /^\/post-(\d+)\/$/u.exec(path)?.[1];
      if (post !== undefined) return page(`Post ${post}`, `<p>About ${post}, at length.</p>`);
      // As ordinary servers have it: a folder without its slash leads on to the one with it.
      if (/^\/page\d+$/u.test(path)) return { status: 301, headers: { location: `${path}/` }, html: '' };
      const nth = path === '/' ? 1 : Number(/^\/page(\d+)\/$/u.exec(path)?.[1] ?? 0);
      if (nth < 1 || nth > lists) return null;
      const posts = many(10, (at) => link(`/post-${String((nth - 1) * 10 + at)}/`)).join('');
      return page(`Posts, ${String(nth)}`, posts + (nth < lists ? link(`/page${String(nth + 1)}`) : ''));
    });
    expect(paths.filter((one) => one.startsWith('/post-'))).toHaveLength(1_500);
    expect(paths).toHaveLength(1_500 + lists);
    expect(codes).toEqual(['making.redirects']);
  });

  it('but for the months of a calendar in which nothing is, which it tells with the way to lift the bound', async () => {
    const site: Site = (path) => {
      if (path === '/') return page('Dates', link('/dates/2026-11/'));
      const found = /^\/dates\/(\d+)-(\d+)\/$/u.exec(path);
      if (!found) return null;
      const month = Number(found[1]) * 12 + Number(found[2]) - 1;
      const to = (at: number) => `/dates/${String(Math.floor(at / 12))}-${String((at % 12) + 1)}/`;
      const name = new Intl.DateTimeFormat('en', { month: 'long' }).format(new Date(2026, month % 12, 1));
      const days = many(31, (at) => `<td>${String(at)}</td>`).join('');
      return page(`${name} ${found[1] ?? ''}`, days + link(to(month - 1)) + link(to(month + 1)));
    };
    const { paths, findings } = await gathered('dates', site);
    expect(paths.length).toBeGreaterThan(60);
    expect(paths.length).toBeLessThan(140);
    const endless = findings.find(({ code }) => code === 'making.endless');
    expect(endless?.says).toContain('“--row” reads more of them');
    expect(endless?.remedy).toBe('');
    expect((await gathered('dates', site, { row: 100 })).paths.length).toBeGreaterThan(paths.length + 50);
  });

  it('whatever its addresses end in, for the type of the answer says what it is', async () => {
    const pages = ['/tree/package.json', '/about/Node.js', '/wiki/File:Photo.jpg', '/notes.txt'];
    const { paths } = await gathered('endings', (path) => {
      if (path === '/') return page('Endings', [...pages, '/photo.png'].map(link).join(''));
      if (path === '/photo.png') return { html: 'PNG', headers: { 'content-type': 'image/png' } };
      return pages.includes(path) ? page(path, `<p>${path}</p>`) : null;
    });
    expect(paths.sort()).toEqual(['/', ...pages].sort());
  });

  it('whose pages are led through by rel=prev and rel=next, and are none the less pages', async () => {
    const { paths } = await gathered('manual', (path) => {
      const nth = path === '/' ? 0 : Number(/^\/chapter-(\d+)\.html$/u.exec(path)?.[1] ?? -1);
      if (nth < 0 || nth > 80) return null;
      const next = `/chapter-${String(nth + 1)}.html`;
      const rel = nth < 80 ? `<link rel="next" href="${next}">` : '';
      return page(
        `Chapter ${String(nth)}`,
        `<p>Of ${String(nth)} knots.</p>${nth < 80 ? link(next) : ''}`,
        rel,
      );
    });
    expect(paths).toHaveLength(81);
    const { items } = await stage.marit.listMadePages({
      params: { property: 'manual' },
      query: { limit: 500, state: 'in' },
    });
    expect(items.filter(({ kind }) => kind === 'listing')).toEqual([]);
  });

  it('that shows its pages in frames', async () => {
    const { paths, codes } = await gathered('frames', (path) => {
      if (path === '/')
        return { html: '<title>Frames</title><frameset><frame src="/left"><frame src="/right"></frameset>' };
      if (path === '/left') return page('Left', link('/deep'));
      return ['/right', '/deep'].includes(path) ? page(path, `<p>${path}</p>`) : null;
    });
    expect(paths.sort()).toEqual(['/', '/deep', '/left', '/right']);
    expect(codes).toContain('making.frames');
  });
});

describe('why little or nothing goes in is told', () => {
  it('where the front page asks that no link be followed', async () => {
    const { findings } = await gathered('closed', (path) =>
      path === '/' ? page('Closed', link('/a'), '<meta name="robots" content="nofollow">') : page(path, path),
    );
    expect(findings[0]?.code).toBe('making.nofollow');
  });

  it('where all pages name another address as their own', async () => {
    const { findings } = await gathered('copies', (path) =>
      page(
        path,
        many(9, (at) => link(`/${String(at)}`)).join(''),
        '<link rel="canonical" href="http://old-quay.example/">',
      ),
    );
    expect(findings[0]?.code).toBe('making.all-elsewhere');
  });

  it('where every address answers, whether it has a page or not', async () => {
    const { codes, paths } = await gathered('always', (path) =>
      path === '/'
        ? page('Home', link('/a') + link('/b') + link('/lost'))
        : ['/a', '/b'].includes(path)
          ? page(path, `<p>All of ${path}.</p>`)
          : page('Sorry', 'There is no such page.'),
    );
    expect(codes).toEqual(['making.missing']);
    expect(paths).toContain('/lost');
  });
});

describe('pages that stood before', () => {
  const site =
    (fails: (path: string) => Answer | undefined): Site =>
    (path) => {
      const failed = fails(path);
      if (failed !== undefined) return failed;
      if (path === '/') return page('Shelf', many(4, (at) => link(`/list-${'abcd'[at - 1] ?? ''}`)).join(''));
      const list = /^\/list-([a-d])$/u.exec(path)?.[1];
      if (list !== undefined)
        return page(`List ${list}`, many(10, (at) => link(`/${list}/${String(at)}`)).join(''));
      return /^\/[a-d]\/\d+$/u.test(path) ? page(path, `<p>All about ${path}.</p>`) : null;
    };
  const all = 1 + 4 + 40;

  it('stay while they do not answer, and those to which only such a page leads', async () => {
    expect(
      (
        await gathered(
          'shelf',
          site(() => undefined),
        )
      ).paths,
    ).toHaveLength(all);
    const { paths, codes } = await gathered(
      'shelf',
      site((path) => (path.startsWith('/b/') || path === '/list-c' ? { status: 500 } : undefined)),
    );
    expect(paths).toHaveLength(all);
    expect(codes).toContain('making.kept');
  });

  it('go once they were seen to be gone twice', async () => {
    const isGone = site((path) => (path.startsWith('/d/') ? null : undefined));
    expect((await gathered('shelf', isGone)).paths).toHaveLength(all);
    expect((await gathered('shelf', isGone)).paths).toHaveLength(all - 10);
    expect(
      (
        await gathered(
          'shelf',
          site(() => undefined),
        )
      ).paths,
    ).toHaveLength(all);
  });

  it('stay where a bound ended the gathering before it came to them', async () => {
    const { paths } = await gathered(
      'shelf',
      site(() => undefined),
      { pages: 20 },
    );
    expect(paths).toHaveLength(all);
  });
});

it('takes a list of fifty thousand addresses, as is promised', async () => {
  const list = many(50_000, (at) => `/berth/${String(at)}`);
  const made = await stage.marit.editRecipe({ params: { property: 'lamps' }, body: { list } });
  expect([made.listed, made.recipe.list.length]).toEqual([50_000, 100]);
  await expect(
    stage.marit.editRecipe({ params: { property: 'lamps' }, body: { list: [...list, '/one-more'] } }),
  ).rejects.toThrow('50');
});

describe('a website whose robots.txt asks for a wait between two requests', () => {
  const host = 'sluice.example';
  const params = { property: 'sluice' };

  it('gets it, and both the wait and how far it is are told meanwhile', async () => {
    const site: Site = (path) =>
      page(
        `Sluice ${path}`,
        `<p>Water of ${path}</p>${many(8, (at) => link(`/gate-${String(at)}`)).join('')}`,
      );
    web.robots.set(host, 'User-agent: *\nCrawl-delay: 0.3\nAllow: /\n');
    await gathered('sluice', site);
    web.askedAt.delete(host);
    // It is answered once it is done, where that is soon.
    const making = stage.marit.makeSitemap({ params, body: {} });
    const told: string[] = [];
    await until(
      async () => {
        const [newest] = (await stage.marit.listJobs({ query: { limit: 1 } })).items;
        const { items } = await stage.marit.showJob({ params: { id: newest?.id ?? '' } });
        told.push(...items.flatMap(({ progress }) => progress ?? []));
        return told;
      },
      (all) => all.some((says) => says.includes('Crawl-delay')),
    );
    await stage.marit.finished(await making);
    expect(told.at(-1)).toMatch(
      /^found \d+, read \d+, .* Pace: one page every 0\.3 s, as the robots\.txt asks \(Crawl-delay\)\.$/u,
    );
    const { gathering } = await stage.marit.showMaking({ params });
    expect(gathering).toMatchObject({ delay: 0.3, atOnce: 1, found: 9 });
    // The first is for what it shows where nothing is; the clock of timers may be a little early.
    const asked = (web.askedAt.get(host) ?? []).slice(-9);
    const waits = asked.slice(1).map((at, index) => at - (asked[index] ?? 0));
    expect(Math.min(...waits)).toBeGreaterThan(200);
  });

  it('is asked for several pages at once where it asks for no wait and answers quickly, up to what is allowed', async () => {
    const site: Site = (path) =>
      page(
        `Weir ${path}`,
        `<p>Water of ${path}</p>${many(80, (at) => link(`/weir-${String(at)}`)).join('')}`,
      );
    expect((await gathered('weir', site, { atOnce: 3 })).gathering).toMatchObject({ delay: null, atOnce: 3 });
  });
});
