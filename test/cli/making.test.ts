import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cliAt } from '../support/built.js';
import { requireProtocol } from '../support/protocol.js';
import { openStage, type Stage } from '../support/stage.js';

const HOST = 'tidewell-clocks.example';

describe('making, carrying and the robots.txt from the command line', () => {
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
    rmSync(home, { recursive: true, force: true });
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

  it('shows what it would carry, carries it, and claims nothing that it did not', async () => {
    expect((await cli('carry', 'clocks')).err).toContain('No place of clocks is recorded');
    expect((await cli('carry', 'place', 'clocks')).err).toContain('Say where');
    expect((await cli('carry', 'place', 'clocks', '--sftp', 'files.example')).err).toContain(
      'expected such as',
    );
    expect((await cli('carry', 'place', 'clocks', '--folder', root)).out).toContain('for consultants');
    const planned = await cli('carry', 'clocks', '--plan');
    expect(planned.out).toContain('+ /sitemap.xml  the made sitemap; it is not there yet.');
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(false);
    expect((await cli('carry', 'clocks')).err).toContain('Say --yes to do it');
    const done = await cli('carry', 'clocks', '--yes');
    expect(done.out).toContain('✓ /sitemap.xml');
    expect(done.out).toContain('clocks@house:address by file: The file stands');
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(true);
    expect((await cli('carry', 'places', 'clocks')).out).toContain(root);
    expect((await cli('carry', 'forget', 'clocks')).out).toContain('is forgotten');
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
});
