import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cliAt } from '../support/built.js';
import { requireProtocol } from '../support/protocol.js';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';

const HOST = 'tidewell-clocks.example';

describe('making, publishing and the robots.txt from the command line', () => {
  let stage: Stage;
  let root: string;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);

  beforeAll(async () => {
    stage = await openStage();
    root = join(stage.folder, 'web/clocks');
    mkdirSync(root, { recursive: true });
    await stage.order({ do: 'pages', host: HOST, count: 40 });
    await stage.order({ do: 'web-root', host: HOST, folder: root });
    await cli('client', 'add', 'Tidewell', '--handle', 'tidewell');
    await cli('property', 'add', HOST, '--client', 'tidewell', '--handle', 'clocks');
    await cli('enrol', 'clocks', '--engine', 'house');
    await cli('token', 'clocks');
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it('shows what was gathered before anything is written', async () => {
    const { out, status } = await cli('sitemap', 'make', 'clocks');
    expect(status).toBe(0);
    expect(out).toContain('there was no more to look at');
    expect(out).toMatch(/\d+ addresses would be written/u);
    expect(out).toContain('Next: sitemap choose clocks');
    expect((await cli('sitemap', 'made', 'clocks')).status).toBe(2);
  });

  it('chooses by the options, and says what it does not understand', async () => {
    const { out } = await cli(
      'sitemap',
      'choose',
      'clocks',
      '--exclude',
      '/shop/*',
      '--priority',
      'depth:0=1.0',
      '/news/*=0.8',
      '--recent',
      'rss',
    );
    expect(out).toMatch(/\d+ excluded/u);
    expect((await cli('sitemap', 'choose', 'clocks', '--priority', 'high')).err).toContain(
      'is no rule; expected such as',
    );
    expect((await cli('sitemap', 'choose', 'clocks', '--exclude', 'shop')).err).toContain(
      'a path pattern that begins with / or *',
    );
    expect((await cli('sitemap', 'choose', 'clocks', '--most', 'few')).err).toContain('is no number');
    expect((await cli('sitemap', 'choose', 'clocks', '--every', 'daily')).err).toContain('ISO 8601 duration');
    const left = await cli('sitemap', 'gathered', 'clocks', '--state', 'out', '--limit', '2');
    expect(left.out).toContain('There are more: --after');
  });

  it('writes files that are what the protocol says', async () => {
    const folder = join(home, 'files');
    const { out, status } = await cli('sitemap', 'write', 'clocks', '--out', folder);
    expect(status).toBe(0);
    expect(out).toContain('Our own reader finds nothing wrong');
    expect(readdirSync(folder).sort()).toEqual(['recent.rss', 'sitemap.xml']);
    const { entries } = requireProtocol(readFileSync(join(folder, 'sitemap.xml'), 'utf8'));
    expect(entries.find(({ loc }) => loc === `https://${HOST}/`)?.priority).toBe('1.0');
    expect(entries.every(({ loc }) => !loc.includes('/shop/'))).toBe(true);
  });

  it('takes addresses from a file', async () => {
    const file = join(home, 'list.txt');
    writeFileSync(file, '/tides/\n\n/boats/\n');
    expect((await cli('sitemap', 'make', 'clocks', '--list', file)).out).toContain(
      '2 addresses would be written',
    );
  });

  it('shows what it would publish, publishes it, and claims nothing that it did not', async () => {
    expect((await cli('publish', 'clocks')).err).toContain('clocks has no target yet');
    expect((await cli('target', 'add', 'clocks')).err).toContain('Say where');
    expect((await cli('target', 'add', 'clocks', '--sftp', 'files.example')).err).toContain(
      'expected USER@HOST/PATH',
    );
    expect((await cli('target', 'add', 'clocks', '--folder', root)).out).toContain('for consultants');
    const planned = await cli('publish', 'clocks', '--plan');
    expect(planned.out).toContain('+ /sitemap.xml  the made sitemap; it is not there yet.');
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(false);
    expect((await cli('publish', 'clocks')).err).toContain('Say --yes to do it');
    const done = await cli('publish', 'clocks', '--yes');
    expect(done.out).toContain('✓ /sitemap.xml');
    expect(done.out).toContain('clocks@house:address by file: The file stands');
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(true);
    expect((await cli('target', 'list', 'clocks')).out).toContain(root);
    expect((await cli('target', 'forget', 'clocks')).out).toContain('is forgotten');
  });

  it('says which line of the robots.txt decides, and what it should say', async () => {
    writeFileSync(join(root, 'robots.txt'), 'User-agent: ostrime-reader\nDisallow: /tides/\n');
    const { out, status } = await cli('robots', 'clocks', '/tides/', '/');
    expect(status).toBe(1);
    expect(out).toMatch(/no +Ostrime +ostrime-reader +2 +Disallow: \/tides\//u);
    const proposal = await cli('robots', 'clocks', '--proposal');
    expect(proposal.out).toContain(`Disallow: /tides/\n\nSitemap: https://${HOST}/sitemap.xml\n`);
    expect((await cli('robots', 'clocks', 'https://elsewhere.example/')).status).toBe(2);
  });

  it('hands out, with the rule for the website’s own server', async () => {
    const { out } = await cli('sitemap', 'hand-out', 'clocks');
    expect(out).toContain('location ~ ^/(sitemap');
    expect((await cli('sitemap', 'hand-out', 'clocks', '--stop')).out).toContain('not handed out any more');
  });

  it('shows the contents of a sitemap: addresses, folders, all as a table; and fetches them anew when it is told', async () => {
    await cli('sitemap', 'note', 'clocks', '/sitemap.xml');
    const { out, status } = await cli('sitemap', 'contents', 'clocks', '--limit', '3', '--match', 'page');
    expect(status).toBe(0);
    expect(out).toMatch(/^\d+ addresses in 1 file, as they stood/u);
    const all = Number(/^(\d+) addresses/u.exec(out)?.[1]);
    const tree = await cli('sitemap', 'contents', 'clocks', '--tree');
    expect(tree.out).toContain(`https://${HOST}/`);
    const file = join(home, 'entries.csv');
    await cli('sitemap', 'contents', 'clocks', '--export', file, '--order', 'address');
    const lines = readFileSync(file, 'utf8').trim().split('\r\n');
    expect(lines[0]).toBe('address,lastmod,file,line,findings,asked');
    expect(lines).toHaveLength(all + 1);
    const json = JSON.parse((await cli('sitemap', 'contents', 'clocks', '--json', '--limit', '2')).out) as {
      items: unknown[];
    };
    expect(json.items).toHaveLength(2);
    expect((await cli('sitemap', 'contents', 'clocks', '--folder', '/nowhere/')).status).not.toBe(0);
    expect((await cli('sitemap', 'contents', 'clocks', '--limit', 'many')).status).toBe(2);
    expect((await cli('sitemap', 'contents', 'clocks', '--again', '--limit', '1')).status).toBe(0);
  });

  it('keeps a robots.txt to be published, and asks before one keeps engines out', async () => {
    const file = join(home, 'robots.txt');
    writeFileSync(file, 'User-agent: *\nDisallow: /\n');
    const refused = await cli('robots', 'clocks', '--draft', file, '--keep');
    expect(refused.err).toContain('from the front door, by line 2');
    writeFileSync(file, 'User-agent: *\nDisallow: /staff\n');
    const kept = await cli('robots', 'clocks', '--draft', file, '--keep');
    expect(kept.out).toContain('Next: publish clocks --plan');
    const { kept: text } = await stage.marit.showRobots({ params: { property: 'clocks' } });
    expect(text?.text).toBe('User-agent: *\nDisallow: /staff\n');
    expect((await cli('robots', 'clocks', '--drop')).out).toContain('Nothing is kept');
  });

  it('reads targets at other servers, and says what it does not understand', async () => {
    const secret = join(home, 'secret');
    writeFileSync(secret, 'lantern\n');
    for (const [way, place, says] of [
      ['--ftps', 'jonas@agency@files.example:2121/~/www', 'ftps://jonas@agency@files.example:2121/~/www'],
      ['--webdav', 'jonas@files.example/dav', 'webdav://jonas@files.example/dav'],
    ] as const) {
      const { out } = await cli('target', 'add', 'clocks', way, place, '--secret-from', secret);
      expect(out).toContain(says);
    }
    const wrong = await cli('target', 'add', 'clocks', '--webdav', 'files.example', '--secret-from', secret);
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain('for example jonas@files.example');
  });
});
