import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, afterEach, describe, expect, it } from 'vitest';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { openBrowser, openPage, seriousFaultsOf, signInTo } from './ground.js';

const HOST = 'www.saltmarsh-ferries.example';
const DAY = 86_400_000;

describe('the pages of sitemaps', () => {
  let stage: Stage;
  let browser: Browser;
  let page: Page;
  const crossings = (addresses: number) =>
    stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/crossings.xml', addresses });
  const read = () => stage.results(stage.marit.readSitemaps({ body: { property: 'ferries', sample: 3 } }));

  beforeAll(async () => {
    stage = await openStage();
    browser = await openBrowser();
    const { marit } = stage;
    await placeAll(stage, await takeOnFerries(stage));
    await stage.results(marit.claim({ body: { enrolments: ['ferries'] } }));
    const to = ['ferries@veldrane:address'];
    for (const address of ['/sitemaps/crossings.xml', '/sitemap.xml']) {
      const { id } = await marit.addSitemap({ body: { property: 'ferries', address } });
      await stage.results(marit.submitSitemap({ body: { sitemap: id, enrolments: to } }));
    }
    // The first reading has the same addresses as the second, and something to say besides.
    const robots = (content: string) =>
      stage.order({ do: 'file', host: HOST, path: '/robots.txt', content: `User-agent: *\n${content}\n` });
    await robots('Disallow: /sitemaps/crossings/');
    await read();
    await robots('Allow: /');
    await stage.world.advance(DAY);
    await read();
    await crossings(60);
    await stage.world.advance(DAY);
    await read();
  });
  afterAll(async () => {
    await browser.close();
    await stage.close();
  });
  beforeEach(async () => {
    page = await openPage(browser, stage.url);
  });
  afterEach(() => page.close());

  const paths = () => page.locator('tbody th a.font-mono').allTextContents();

  it('list every sitemap, in the order that is asked for, and only what needs work', async () => {
    await page.getByRole('link', { name: 'Sitemaps', exact: true }).click();
    await page.getByRole('heading', { name: 'Sitemaps' }).waitFor();
    await page.getByText('· duplicate').waitFor();
    expect((await paths()).sort()).toEqual(['/sitemap.xml', '/sitemaps/crossings.xml']);
    await page.getByLabel('Sort by').selectOption('fall');
    // 124 became 60: a larger part of the one than of the index.
    await expect.poll(paths).toEqual(['/sitemaps/crossings.xml', '/sitemap.xml']);
    await page.getByLabel('Sort by').selectOption('property');
    await expect.poll(paths).toEqual(['/sitemap.xml', '/sitemaps/crossings.xml']);
    expect(new URL(page.url()).search).toBe('?order=property');
    // It is checked once the address says so.
    const needsWork = page.getByLabel('Only what needs work');
    await needsWork.click();
    await expect.poll(() => needsWork.isChecked()).toBe(true);
    await expect.poll(async () => (await paths()).length).toBe(2);
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.setViewportSize({ width: 390, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });

  it('show one with its counts side by side, what is in it, its plot, and what came and went', async () => {
    await page.goto(`${stage.url}/sitemaps`);
    await page.getByRole('link', { name: '/sitemap.xml' }).click();
    const counts = page.getByRole('region', { name: 'Counts at Veldrane' });
    await counts.waitFor();
    expect((await counts.textContent())?.replace(/\s+/g, ' ')).toMatch(/Ours98Found162Listed155/);
    await counts.getByText('right when it looked; ours changed').waitFor();
    const inside = page.getByRole('region', { name: 'The sitemaps in it' });
    expect(await inside.getByRole('row').count()).toBe(3);
    await inside.getByText('−64').waitFor();
    await page.getByRole('img', { name: 'Addresses over time: ours from 162 to 98, at most 162.' }).waitFor();
    await page.getByText('98, after 162 at the reading of').first().waitFor();
    await page.getByRole('heading', { name: '64 went' }).waitFor();
    expect(await page.getByText('/sitemaps/crossings/page-61', { exact: false }).count()).toBe(1);
    // Between the first two nothing changed.
    const choices = await page.getByLabel('to that of').locator('option').allTextContents();
    expect(choices).toHaveLength(4);
    await page.getByLabel('to that of').selectOption({ index: 1 });
    await page.getByText('The same addresses in both.').waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.setViewportSize({ width: 390, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });

  it('withdraw duplicates in one step, after asking', async () => {
    await page.goto(`${stage.url}/properties/ferries?tab=sitemaps`);
    const opener = page.getByRole('button', { name: 'Withdraw duplicates (1)' });
    await opener.click();
    const asking = page.getByRole('alertdialog');
    await asking.getByText('/sitemaps/crossings.xml').waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await asking.getByRole('button', { name: 'Leave them' }).click();
    const submissions = async () =>
      (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items.flatMap(
        (one) => one.submissions,
      );
    expect(await submissions()).toHaveLength(2);
    await opener.click();
    await asking.getByRole('button', { name: 'Withdraw' }).click();
    await expect
      .poll(async () => (await submissions()).map(({ sentAs }) => sentAs))
      .toEqual(['/sitemap.xml']);
  });

  it('ask before one is submitted in which something is wrong', async () => {
    const pages = [`https://${HOST}/`, 'https://elsewhere.example/'];
    const content = `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${pages.map((loc) => `<url><loc>${loc}</loc></url>`).join('')}</urlset>`;
    await stage.order({ do: 'file', host: HOST, path: '/lone.xml', content });
    const { id } = await stage.marit.addSitemap({ body: { property: 'ferries', address: '/lone.xml' } });
    const submitted = async () => (await stage.marit.showSitemap({ params: { sitemap: id } })).submissions;
    await page.goto(`${stage.url}/sitemaps/${id}`);
    const submit = page.getByRole('button', { name: 'Submit' });
    await submit.click();
    const asking = page.getByRole('alertdialog');
    await asking.getByText('elsewhere.example').waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await asking.getByRole('button', { name: 'Leave it' }).click();
    expect(await submitted()).toEqual([]);
    await submit.click();
    await asking.getByRole('button', { name: 'Submit it' }).click();
    await expect.poll(async () => (await submitted()).length).toBeGreaterThan(0);
  });

  it('let an onlooker see all of it and do nothing', async () => {
    await stage.person('odile', 'onlooker');
    await page.context().clearCookies();
    await signInTo(page, stage.url, 'odile');
    await page.goto(`${stage.url}/sitemaps`);
    await page.getByRole('link', { name: '/sitemap.xml' }).click();
    await page.getByRole('region', { name: 'Counts at Veldrane' }).waitFor();
    for (const name of ['Read now', 'Submit', 'Withdraw'])
      expect(await page.getByRole('button', { name }).count()).toBe(0);
  });
});
