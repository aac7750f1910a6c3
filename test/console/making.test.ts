import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { openBrowser, openPage, seriousFaultsOf } from './ground.js';

const HOST = 'www.saltmarsh-ferries.example';

describe('the pages of what is made and published', () => {
  let stage: Stage;
  let browser: Browser;
  let page: Page;
  let root: string;

  beforeAll(async () => {
    stage = await openStage();
    browser = await openBrowser();
    await placeAll(stage, await takeOnFerries(stage));
    await stage.marit.addSitemap({ body: { property: 'ferries', address: '/sitemap.xml' } });
    await stage.order({ do: 'pages', host: HOST, count: 60 });
    root = join(stage.folder, 'web/ferries');
    mkdirSync(root, { recursive: true });
    await stage.order({ do: 'web-root', host: HOST, folder: root });
  });
  afterAll(async () => {
    await browser.close();
    await stage.close();
  });
  beforeEach(async () => {
    page = await openPage(browser, stage.url);
  });
  afterEach(() => page.close());

  /** What holds of every page: nothing serious for axe, nothing beside the edge of a phone. */
  const isSound = async () => {
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.setViewportSize({ width: 390, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.setViewportSize({ width: 1280, height: 800 });
  };

  it('show the contents of a sitemap: folders, addresses, what is sought, all of it as a table or to print', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=sitemaps`);
    await page.getByRole('link', { name: '/sitemap.xml' }).click();
    await page.getByRole('link', { name: 'Contents, address by address' }).click();
    await page.getByRole('button', { name: 'Fetch its contents' }).click();
    await page.getByText('162 of 162 addresses in 2 files').waitFor();
    const rows = () => page.getByRole('region', { name: 'Addresses' }).locator('tbody tr').count();
    expect(await rows()).toBe(100);
    await page.getByRole('button', { name: 'Further' }).click();
    await expect.poll(rows).toBe(62);
    await page.getByRole('button', { name: 'harbours/', exact: true }).click();
    await page.getByText('38 of 162 addresses in 2 files').waitFor();
    await page.getByLabel('Find').fill('page-3');
    await page.getByText('10 of 162 addresses in 2 files').waitFor();
    await page.getByLabel('Sort by').selectOption('newest');
    await expect.poll(() => new URL(page.url()).searchParams.get('order')).toBe('newest');
    await isSound();
    const href = await page.getByRole('link', { name: 'As a table (CSV)' }).getAttribute('href');
    const table = await page.evaluate(async (url) => (await fetch(url)).text(), href ?? '');
    expect(table.trim().split('\r\n')).toHaveLength(11);
    await page.getByRole('link', { name: 'Plain page, to print' }).click();
    await page.getByText('It lists 162 pages').waitFor();
    await page.getByText('and 28 more in this part').waitFor();
    await isSound();
    const paper = await page.pdf({ format: 'A4' });
    expect(paper.subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('have letters and links beside the sheet, and the page behind a link is sound and live', async () => {
    await stage.marit.addContact({
      body: { client: 'saltmarsh', name: 'Mika Reed', role: 'developer', email: 'mika@reed.example' },
    });
    await stage.order({ do: 'clear', host: HOST, what: 'meta' });
    await stage.order({ do: 'clear', host: HOST, what: 'files' });
    await stage.order({ do: 'clear', host: HOST, what: 'txt' });
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    await page.goto(`${stage.url}/next?acts=client`);
    await page.getByRole('link', { name: 'Write about it' }).first().click();
    await page.getByText(/^Only about ferries@/u).waitFor();
    await isSound();
    await page.getByRole('button', { name: 'About all of it' }).click();
    await page.getByLabel('Subject').waitFor();
    // A double click is one letter and one link.
    await page.getByRole('button', { name: 'Send it', exact: true }).dblclick();
    await page.getByText('No answer noted.').waitFor();
    expect((await stage.marit.listLetters({ query: { property: 'ferries' } })).items).toHaveLength(1);
    // The letter as a program for mail shows it.
    const sent = () => stage.world.post.mails.find(({ to }) => to === 'mika@reed.example')?.html ?? '';
    await expect.poll(sent, { timeout: 20_000 }).toContain('/shared/');
    const mail = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await mail.setContent(sent());
    expect(await seriousFaultsOf(mail)).toEqual([]);
    await mail.setViewportSize({ width: 390, height: 800 });
    expect(await mail.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await mail.close();
    await page.getByLabel('For whom').fill('Ole');
    const links = async () => (await stage.marit.listLinks({ query: { property: 'ferries' } })).items.length;
    const before = await links();
    await page.getByRole('button', { name: 'Make a link' }).dblclick();
    const url = await page
      .getByText(/\/shared\//u)
      .first()
      .textContent();
    expect(await links()).toBe(before + 1);
    await isSound();
    const reader = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await reader.goto(url ?? '');
    await reader.getByRole('heading', { name: /What to place for/u }).waitFor();
    expect(await seriousFaultsOf(reader)).toEqual([]);
    await reader.setViewportSize({ width: 390, height: 800 });
    expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    // What its reader is writing stays, while the sheet above it is shown anew.
    await reader.getByLabel('In your own words').fill('On Monday');
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    await placeAll(stage, items);
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    await reader.getByText('Everything stands where it must.').waitFor({ timeout: 20_000 });
    expect(await reader.getByLabel('In your own words').inputValue()).toBe('On Monday');
    await reader.getByLabel('I cannot do it, because …').check();
    await reader.getByRole('button', { name: 'Send', exact: true }).click();
    await reader.getByText('Thank you. Your word was sent.').waitFor();
    await reader.close();
    await page.getByText('cannot do it: On Monday').waitFor();
  });

  it('have what is for the owner: a report, and what she would take along', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=about`);
    await page.getByRole('button', { name: 'Keep it as it is' }).click();
    await page.getByRole('list', { name: 'Reports that were kept' }).getByRole('button').waitFor();
    await page.getByRole('button', { name: 'Begin the hand-over' }).click();
    await page.getByText('Under way since').waitFor();
    const tokens = page.getByLabel(/which tokens have to stay/u);
    await tokens.click();
    await expect.poll(() => tokens.isChecked()).toBe(true);
    const [archive] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Archive for the client (ZIP)' }).click(),
    ]);
    expect(archive.suggestedFilename()).toBe('saltmarsh.zip');
    await isSound();
  });

  it('have a sheet of what is to be placed, in two languages, to copy and to keep', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=sheet`);
    await page.getByText('What to place for').waitFor();
    await isSound();
    await page.getByLabel('Language').selectOption('de');
    await page.getByText('zu hinterlegen ist').waitFor();
    const [kept] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'ZIP with the files' }).click(),
    ]);
    expect(kept.suggestedFilename()).toBe('sheet-ferries.zip');
    expect(
      readFileSync(await kept.path())
        .subarray(0, 2)
        .toString(),
    ).toBe('PK');
  });

  it('gather the pages of a website, switch kinds and folders off, and write', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=making`);
    await page.getByRole('button', { name: 'Gather its pages' }).click();
    await page.getByText('there was no more to look at').waitFor();
    const before = (await stage.marit.showMaking({ params: { property: 'ferries' } })).preview;
    await page.getByText(`${String(before?.chosen)} addresses would be written`).waitFor();
    await page.getByRole('checkbox', { name: 'articles' }).click();
    const articles = before?.kinds.find(({ kind }) => kind === 'article')?.chosen ?? 0;
    expect(articles).toBeGreaterThan(0);
    await page.getByText(`${String((before?.chosen ?? 0) - articles)} addresses would be written`).waitFor();
    await page.getByRole('checkbox', { name: '/tides/' }).click();
    await expect
      .poll(async () => (await stage.marit.showMaking({ params: { property: 'ferries' } })).recipe.selection)
      .toMatchObject({ without: ['article'], exclude: ['/tides/*'] });
    await page.getByRole('button', { name: 'Write it' }).click();
    await page.getByText('our own reader finds nothing wrong').waitFor();
    await isSound();
    await page.getByText('How it is made').click();
    await page.getByLabel('By itself').selectOption('P1D');
    await page.getByRole('button', { name: 'Keep it so' }).click();
    await page.getByText('Made next by itself').waitFor();
    await isSound();
  });

  it('judge a robots.txt as it is written, ask before one keeps engines out, and keep it', async () => {
    writeFileSync(join(root, 'robots.txt'), 'User-agent: *\nDisallow: /staff\n');
    await page.goto(`${stage.url}/properties/ferries?tab=robots`);
    const rules = page.getByLabel('Rules of the robots.txt');
    await rules.waitFor();
    expect(await rules.inputValue()).toContain('Disallow: /staff');
    await page.getByLabel('For these addresses').fill('/\n/staff/rota');
    await page.getByRole('button', { name: 'line 2: Disallow: /staff' }).click();
    expect(
      await rules.evaluate((area: HTMLTextAreaElement) =>
        area.value.slice(area.selectionStart, area.selectionEnd),
      ),
    ).toBe('Disallow: /staff');
    await isSound();
    await rules.fill('User-agent: *\nDisallow: /\n');
    await page.getByRole('button', { name: 'Keep it, to be published' }).click();
    await page.getByText('keeps Veldrane').waitFor();
    await rules.fill('User-agent: *\nDisallow: /staff\nDissalow: /rota\n');
    await page.getByText('Nobody knows the directive').waitFor();
    await rules.fill('User-agent: *\nDisallow: /staff\n');
    await page.getByRole('button', { name: 'Put the sitemap’s line in' }).click();
    await expect.poll(() => rules.inputValue()).toContain(`Sitemap: https://${HOST}/sitemap.xml`);
    await page.getByRole('button', { name: /^Keep it/u }).click();
    await page.getByText('One is kept since').waitFor();
    expect((await stage.marit.showRobots({ params: { property: 'ferries' } })).kept?.text).toContain(
      'Sitemap:',
    );
  });

  it('add a target, show what would be published, and publish it after that', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=publish`);
    await page.getByText('Add a target').click();
    await page.getByLabel('What it is').selectOption('folder');
    await page.getByLabel('Folder that is the web root').fill('/etc');
    await page.getByRole('button', { name: 'Add it' }).click();
    await page.getByText('is no folder that the service may write to').waitFor();
    await page.getByLabel('Folder that is the web root').fill(root);
    await page.getByRole('button', { name: 'Add it' }).click();
    await page.getByRole('button', { name: 'See what would be published' }).click();
    await page.getByText('it replaces the one that it was made from').waitFor();
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(false);
    await isSound();
    await page.getByRole('button', { name: /^Publish \d+$/u }).click();
    await page.getByText('Published:').waitFor();
    expect(existsSync(join(root, 'sitemap.xml'))).toBe(true);
    expect(readFileSync(join(root, 'robots.txt'), 'utf8')).toContain('Sitemap:');
    await isSound();
  });

  it('end a hand-over, which asks where something is open, and says on which day the records go', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=about`);
    await page.getByRole('button', { name: 'End the hand-over' }).click();
    await page.getByLabel('Its records are due to be deleted on').fill('2034-01-01');
    await isSound();
    await page.getByRole('button', { name: 'End it', exact: true }).click();
    await page.getByRole('button', { name: 'All the same' }).click();
    await expect
      .poll(async () => (await stage.marit.showHandover({ params: { client: 'saltmarsh' } })).begun)
      .toMatchObject({ deleteOn: '2034-01-01T00:00:00.000Z', endedAt: expect.any(String) as string });
  });
});
