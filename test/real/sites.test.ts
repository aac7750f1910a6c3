import { chmodSync, cpSync, existsSync, mkdtempSync, readdirSync } from 'node:fs';
import { Agent } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from 'yaml';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openStage, type Stage } from '../support/stage.js';
import { removed } from '../support/removed.js';
import { pagesReached, type Reached } from './independent-crawl.js';
import { generateLog, isGeneratorThere } from './generated-site.js';
import { freePort, Programs } from './programs.js';
import { serveByApache, serveByNginx, type PageFolder } from './site-servers.js';

/** Documentation as Debian's packages have it: websites that others made, in as many ways as there are. */
interface Site {
  readonly name: string;
  /** The package that has it. */
  readonly of: string;
  readonly folder: string;
  readonly by: 'nginx' | 'apache';
  /** Whether all of its pages name those of another website as theirs. */
  readonly isElsewhere?: true;
}

/** Where `scripts/docs.sh` unpacks them. */
const DOCS = fileURLToPath(new URL('../../.tmp/docs/usr/share/doc', import.meta.url));
/** The folder of a package whose name ends in its version. */
const ofVersion = (name: string): string =>
  (existsSync(DOCS) ? readdirSync(DOCS) : []).find((one) => one.startsWith(name)) ?? name;
const SITES: readonly Site[] = [
  {
    name: 'mailer',
    of: 'exim4-doc-html',
    folder: 'exim4-doc-html/spec_html',
    by: 'apache',
    isElsewhere: true,
  },
  { name: 'macros', of: 'm4-doc', folder: 'm4', by: 'apache' },
  { name: 'records', of: 'postgresql-doc', folder: `${ofVersion('postgresql-doc')}/html`, by: 'nginx' },
  { name: 'versions', of: 'git-doc', folder: 'git-doc', by: 'nginx' },
  { name: 'tables', of: 'sqlite3-doc', folder: 'sqlite3', by: 'nginx' },
  { name: 'plots', of: 'gnuplot-doc', folder: 'gnuplot/htmldocs', by: 'nginx' },
  { name: 'names', of: 'bind9-doc', folder: 'bind9-doc/arm', by: 'nginx' },
  { name: 'policy', of: 'debian-policy', folder: 'debian-policy/policy.html', by: 'apache' },
  { name: 'languages', of: 'apache2-doc', folder: 'apache2-doc/manual', by: 'apache' },
];
const hostOf = ({ name }: Pick<Site, 'name'>) => `${name}-docs.example`;
const ADDRESSES = { nginx: '198.51.100.40', apache: '198.51.100.41' } as const;

/** Logs that a plain generator of pages makes, each laid out in another way. */
const LOGS = isGeneratorThere()
  ? ([
      { name: 'log', posts: 800, layout: 'flat', by: 'apache' },
      { name: 'long-log', posts: 1_500, layout: 'folders', by: 'nginx' },
    ] as const)
  : [];

const home = mkdtempSync(join(tmpdir(), 'yardbadge-sites-'));
const generated = LOGS.map(({ name, posts, layout, by }): Site => ({
  name,
  of: `a log of ${String(posts)} posts`,
  folder: generateLog(join(home, name), `http://${hostOf({ name })}`, posts, layout),
  by,
}));
const present = SITES.filter(({ folder }) => existsSync(join(DOCS, folder)));
const missing = SITES.filter((site) => !present.includes(site));
/** Apache gives up being root, and may not be let in where this project stands. */
const folderOf = ({ name, folder, by }: Site): string => {
  const own = join(DOCS, folder);
  if (by === 'nginx') return own;
  const copy = join(home, name);
  cpSync(own, copy, { recursive: true });
  return copy;
};
const sites = [...present.map((site) => ({ ...site, folder: folderOf(site) })), ...generated];

describe('websites made by others, held against another crawl', () => {
  const programs = new Programs();
  const ports = { nginx: 0, apache: 0 };
  const agent = new Agent({ keepAlive: true, maxSockets: 8 });
  let stage: Stage;

  beforeAll(async () => {
    chmodSync(home, 0o755);
    for (const by of ['nginx', 'apache'] as const) ports[by] = await freePort();
    const of = (by: Site['by']): PageFolder[] =>
      sites.filter((site) => site.by === by).map((site) => ({ host: hostOf(site), folder: site.folder }));
    serveByNginx(programs, join(home, 'nginx'), ports.nginx, of('nginx'));
    serveByApache(programs, join(home, 'apache'), ports.apache, of('apache'));
    stage = await openStage({}, [], (config) => {
      const { net } = parse(config) as { net: { connect: { from: string; to: string }[] } };
      const own = (['nginx', 'apache'] as const).flatMap((by) => [
        { from: `${ADDRESSES[by]}:80`, to: `127.0.0.1:${String(ports[by])}` },
        // Nobody listens there: they are plain http.
        { from: `${ADDRESSES[by]}:443`, to: '127.0.0.1:9' },
      ]);
      return { 'net.connect': JSON.stringify([...own, ...net.connect]) };
    });
    await stage.marit.addClient({ body: { name: 'Docs', handle: 'docs' } });
    for (const site of sites) {
      await stage.order({ do: 'new-site', host: hostOf(site), title: site.name });
      stage.world.file.state.names.hosts.push({ host: hostOf(site), address: ADDRESSES[site.by] });
      await vi.waitFor(() => fetch(`http://127.0.0.1:${String(ports[site.by])}/`), { timeout: 20_000 });
    }
  });
  afterAll(async () => {
    agent.destroy();
    await stage.close();
    await programs.stop();
    await removed(home);
  });

  /** Every page that goes in. */
  async function gathered(site: Site): Promise<{ urls: string[]; codes: string[] }> {
    const { job } = await stage.marit.addProperty({
      body: { client: 'docs', address: `http://${hostOf(site)}/`, handle: site.name },
    });
    await stage.marit.finished({ id: job });
    const params = { property: site.name };
    await stage.results(stage.marit.makeSitemap({ params, body: {} }));
    const urls: string[] = [];
    for (let after: string | undefined; ;) {
      const query = { limit: 500, state: 'in' as const, ...(after === undefined ? {} : { after }) };
      const { items, next } = await stage.marit.listMadePages({ params, query });
      urls.push(...items.filter(({ kind }) => kind !== 'document').map(({ url }) => url));
      if (next === null) break;
      after = next;
    }
    const { preview, gathering } = await stage.marit.showMaking({ params });
    expect(gathering?.ended).toBe('all');
    return { urls, codes: preview?.findings.map(({ code }) => code) ?? [] };
  }

  it.each(sites.map((site) => [site.of, site.by, site] as const))(
    '%s over %s: no page is missing that a person could reach, and none is there besides',
    async (_of, by, site) => {
      const origin = `http://${hostOf(site)}`;
      const reached = await pagesReached({ origin, port: ports[by], agent });
      const { urls, codes } = await gathered(site);
      const made = new Set(urls);
      const own = ({ canonical }: Reached) =>
        canonical === null || (canonical.startsWith(`${origin}/`) && !reached.has(canonical));
      const sums = new Set([...reached.values()].filter(({ url }) => made.has(url)).map(({ sum }) => sum));
      // What is the same byte for byte is there once.
      const lost = [...reached.values()].filter(
        (one) => own(one) && !made.has(one.url) && !sums.has(one.sum),
      );
      expect(lost.map(({ url }) => url)).toEqual([]);
      expect(urls.filter((url) => !reached.has(url))).toEqual([]);
      if (site.isElsewhere === true) expect(codes).toContain('making.all-elsewhere');
      else expect(made.size).toBeGreaterThan(10);
    },
    900_000,
  );

  it.skipIf(missing.length === 0)(
    `is without ${missing.map(({ of }) => of).join(', ')}, which are not installed`,
    () => {
      expect(present.length + missing.length).toBe(SITES.length);
    },
  );
});
