import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Job, SitemapDetail } from '../../src/api/documents.js';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const CROSSINGS = `https://${HOST}/sitemaps/crossings`;
const DAY = 86_400_000;

describe('sitemaps from the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);
  const columns = (line: string) => line.trim().split(/ {2,}/u);

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, await takeOnFerries(stage));
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries'] } }));
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it('are read with a sample of their pages, and shown with what is in them', async () => {
    expect((await cli('sitemap', 'show', 'ferries')).err).toContain(
      '“sitemap find ferries --note” looks for one',
    );
    await cli('sitemap', 'note', 'ferries', 'crossings.xml');
    await cli('sitemap', 'note', 'ferries', 'sitemap.xml');
    const { out, status } = await cli('sitemap', 'read', 'ferries', '--sample', '4', '--seed', '9');
    expect(status).toBe(1);
    expect(out).toContain('crossings.xml could not be fetched');
    const shown = await cli('sitemap', 'show', 'ferries', '/sitemap.xml');
    expect(shown.out).toContain('clean, index, addresses: 162');
    expect(shown.out).toContain('4 pages tried');
    const child = shown.out.split('\n').find((line) => line.startsWith('/sitemaps/crossings.xml'));
    expect(columns(child ?? '').slice(0, 4)).toEqual(['/sitemaps/crossings.xml', 'clean', '124', '–']);
    expect((await cli('sitemap', 'show', 'ferries')).err).toContain('Name one of the sitemaps of ferries: ');
    expect((await cli('sitemap', 'read', 'ferries', '--sample', 'many')).err).toContain(
      'expected such as 50',
    );
  });

  it('are compared from one reading to another', async () => {
    expect((await cli('sitemap', 'compare', 'ferries', 'sitemap.xml')).err).toContain('one reading only');
    await cli('rehearsal', 'sitemap', HOST, '/sitemaps/crossings.xml', '150');
    await stage.world.advance(DAY);
    await cli('sitemap', 'read', 'ferries', '--sample', '0');
    const { out, status } = await cli('sitemap', 'compare', 'ferries', 'sitemap.xml', '--limit', '2');
    expect(status).toBe(0);
    const lines = out.split('\n');
    expect(lines[1]).toMatch(/: 162 addresses; .*: 188$/);
    expect(lines.slice(2, 6)).toEqual([
      '26 came, 0 went.',
      `+ ${CROSSINGS}/page-125`,
      `+ ${CROSSINGS}/page-126`,
      '  … and 24 more; --limit shows them.',
    ]);
    const wrong = await cli('sitemap', 'compare', 'ferries', 'sitemap.xml', '--from', '1999-01-01');
    expect(wrong).toMatchObject({ status: 2 });
    expect(wrong.err).toMatch(/no reading “1999-01-01”. Expected one of: \d{4}/);
  });

  it('are withdrawn after asking, those that are duplicates in one step', async () => {
    const to = ['--to', 'ferries@veldrane:address'];
    await cli('sitemap', 'submit', 'ferries', '/sitemaps/crossings.xml', ...to);
    const { out } = await cli('sitemap', 'submit', 'ferries', 'sitemap.xml', ...to);
    expect(out).toContain('“sitemap withdraw ferries --spare” takes it off');
    const asked = await cli('sitemap', 'withdraw', 'ferries', '--spare');
    expect(asked).toMatchObject({ status: 2, out: '' });
    expect(asked.err).toContain('This withdraws /sitemaps/crossings.xml from Veldrane. Say --yes to do it.');
    expect((await cli('sitemap', 'withdraw', 'ferries')).err).toContain('give --spare');
    expect((await cli('sitemap', 'withdraw', 'ferries', '--spare', '--yes')).out).toContain(
      'Withdrawn from Veldrane.',
    );
    expect((await cli('sitemap', 'withdraw', 'ferries', '--spare')).err).toContain('duplicate');
    const again = await cli('sitemap', 'submit', 'ferries', '/sitemaps/crossings.xml', ...to);
    expect(again).toMatchObject({ status: 1 });
    expect(again.out).toContain('that is enough');
  });

  it('say how the engine’s count stands to ours', async () => {
    expect((await cli('sitemap', 'list', 'ferries')).out).toMatch(/waiting, due by\s+\d{4}-\d\d-\d\d/);
    await stage.world.advance(DAY);
    await cli('sitemap', 'read', 'ferries', '--sample', '0');
    expect((await cli('sitemap', 'list', 'ferries')).out).toMatch(/veldrane:address +188 +180 +.* equal/);
    const document = JSON.parse(
      (await cli('sitemap', 'show', 'ferries', '/sitemap.xml', '--json')).out,
    ) as SitemapDetail;
    expect(document.engineReadings.at(-1)).toMatchObject({ found: 188, engine: { id: 'veldrane' } });
    expect(document.readings.length).toBeGreaterThanOrEqual(2);
  });

  it('many single pages go out of a file, spread over the days', async () => {
    const file = join(home, 'pages.txt');
    const pages = Array.from({ length: 13 }, (_, at) => `${CROSSINGS}/page-${String(at + 1)}`);
    writeFileSync(file, `\n${pages.join('\n')}\n`);
    const { out, status } = await cli('visit', '--from', file, '--engine', 'veldrane');
    expect(status).toBe(0);
    expect(out).toContain('10 of 13 are done; 3 wait for the rations of the days to come');
    const id = /“job (\w+)”/.exec(out)?.[1] ?? '';
    expect((await cli('job')).out).toContain(id);
    await stage.world.advance(DAY);
    await expect
      .poll(async () => (JSON.parse((await cli('job', id, '--json')).out) as Job).state, { timeout: 90_000 })
      .toBe('done');
    expect((await cli('job', id)).out.split('\n').filter((line) => line.startsWith('✓'))).toHaveLength(13);
    expect((await cli('job', 'nothing')).err).toContain('There is no job “nothing”.');
  });
});
