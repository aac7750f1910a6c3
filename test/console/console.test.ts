import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, beforeEach, afterEach, describe, expect, it, test } from 'vitest';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, PASSWORD, type Stage } from '../support/stage.js';
import { openBrowser, seriousFaultsOf, signInTo } from './ground.js';

let stage: Stage;
let browser: Browser;
let context: BrowserContext;
let page: Page;
let refused: string[] = [];

beforeAll(async () => {
  stage = await openStage();
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
  await stage.close();
});
beforeEach(async () => {
  refused = [];
  context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  page = await context.newPage();
  page.on('console', (message) => {
    if (message.text().includes('Content Security Policy')) refused.push(message.text());
  });
  page.setDefaultTimeout(60_000);
});
afterEach(async () => {
  await context.close();
  // The console keeps its own content policy, whatever was opened.
  expect(refused).toEqual([]);
});

const signIn = (name = 'marit') => signInTo(page, stage.url, name);
const seriousFaults = () => seriousFaultsOf(page);

describe('the console', () => {
  it('refuses a wrong password in words, and loads in under 200 kB', async () => {
    let bytes = 0;
    const session = await context.newCDPSession(page);
    await session.send('Network.enable');
    session.on('Network.loadingFinished', ({ encodedDataLength }) => {
      bytes += encodedDataLength;
    });
    await page.goto(stage.url);
    await page.getByLabel('Name').fill('marit');
    await page.getByLabel('Password').fill('wrong');
    await page.keyboard.press('Enter');
    await page.getByRole('alert').waitFor();
    expect(await page.getByRole('alert').textContent()).toContain('The name or the password is wrong.');
    await page.getByLabel('Password').fill(PASSWORD);
    await page.keyboard.press('Enter');
    await page.getByText('Nothing slipped, nothing was lost').waitFor();
    await page.getByRole('link', { name: 'Yard', exact: true }).click();
    await page.getByText('The yard is empty.').waitFor();
    await page.evaluate(() => document.fonts.ready);
    expect(bytes).toBeGreaterThan(50_000);
    expect(bytes).toBeLessThan(200_000);
  });

  it('goes the whole way of one property', async () => {
    await signIn();
    await page.getByRole('button', { name: 'Add client' }).click();
    await page.getByLabel('Name').fill('Tidewell Clock Menders');
    await page.getByRole('dialog').getByRole('button', { name: 'Add client' }).click();
    await page.getByRole('dialog').waitFor({ state: 'hidden' });
    await page.getByRole('button', { name: 'Take on property' }).click();
    await page.getByRole('option', { name: 'Tidewell Clock Menders' }).waitFor({ state: 'attached' });
    await page.getByLabel('Address').fill('ftp://tidewell-clocks.example');
    await page.getByRole('button', { name: 'Take on' }).click();
    expect(await page.getByRole('dialog').getByRole('alert').textContent()).toContain(
      'Expected a web address',
    );
    await page.getByLabel('Address').fill('www.Tidewell-Clocks.example/index.html');
    await page.getByLabel('Handle').fill('clocks');
    await page.getByRole('button', { name: 'Take on' }).click();
    await page.getByRole('heading', { name: 'clocks' }).waitFor();
    await page.getByText('Visitors end up at https://tidewell-clocks.example/.').waitFor();

    const others = page.getByRole('region', { name: 'Other engines' });
    await others.getByText('Matters to everyone (about 88 %).').waitFor();
    await others.getByText('Shows Ostrime’s results').waitFor();
    await others.getByRole('button', { name: 'Enrol at Veldrane', exact: true }).click();
    const veldrane = page.getByRole('region', { name: 'clocks@veldrane:address' });
    await veldrane.getByRole('button', { name: 'Get tokens' }).click();
    await veldrane.getByText('<meta name="veldrane-mooring"').waitFor();
    await veldrane.getByRole('button', { name: 'Claim' }).click();
    await veldrane.getByText('A claim would be refused.').first().waitFor();
    await veldrane.getByText('Please put <meta').first().waitFor();
    await veldrane.getByText('Which method?').click();
    await veldrane.getByText('It stays through redesigns and changes of host.').waitFor();
    await veldrane.getByRole('button', { name: 'Say what they can change' }).click();
    await page.getByLabel('Can they change the DNS zone?').selectOption('no');
    await page.getByRole('dialog').getByRole('button', { name: 'Keep it' }).click();
    await veldrane.getByText('Nobody at the client can get at the DNS zone.').waitFor();

    const { placements } = await stage.marit.showEnrolment({ params: { enrolment: 'clocks@veldrane' } });
    if (placements[0]) await stage.order(orderFor(placements[0]));
    await veldrane.getByRole('button', { name: 'Check', exact: true }).click();
    await veldrane.getByText('in-place').waitFor();
    await veldrane.getByRole('button', { name: 'Claim' }).click();
    await veldrane.getByText('held', { exact: true }).waitFor();

    await page.getByRole('tab', { name: 'Sitemaps' }).click();
    await page.getByLabel('Another sitemap').fill('sitemap.xml');
    await page.getByRole('button', { name: 'Note it' }).click();
    const sitemap = page.getByRole('region', { name: 'https://tidewell-clocks.example/sitemap.xml' });
    await sitemap.getByRole('button', { name: 'Submit' }).click();
    await sitemap.getByText('waiting, due by').waitFor();
    await stage.world.advance(86_400_000);
    await sitemap.getByRole('button', { name: 'Read now' }).click();
    await sitemap.getByText('equal to ours').waitFor();
    await page.getByRole('tab', { name: 'Journal' }).click();
    await page.getByText('clocks was taken on').waitFor();
  });

  it('carries across what an engine worked by hand shows', async () => {
    await stage.marit.addClient({
      body: { name: 'The Compass Tearooms', handle: 'compass', audience: ['CH'] },
    });
    const address = 'compass-tea.example';
    const { job } = await stage.marit.addProperty({ body: { client: 'compass', address, handle: 'tea' } });
    await stage.marit.finished({ id: job });
    await signIn();
    await page.goto(`${stage.url}/properties/tea`);
    await page.getByText('Matters in CH, where its audience is').waitFor();
    await page.getByRole('button', { name: 'Enrol at Brindle', exact: true }).click();
    const brindle = page.getByRole('region', { name: 'tea@brindle:address' });
    await brindle.getByText('Register the site on Brindle’s own pages').waitFor();
    await brindle.getByRole('button', { name: 'Paste token' }).click();
    const sheet = page.getByRole('dialog');
    await sheet
      .getByLabel('Pasted')
      .fill('<meta name="veldrane-mooring" content="aa00bb11cc22dd33ee44ff55">');
    await sheet.getByRole('button', { name: 'Read it' }).click();
    await sheet.getByText('It looks like Veldrane’s token.').waitFor();
    const tag = '<meta name="brindle-plank" content="abcdefghij0123456789">';
    await sheet.getByLabel('Pasted').fill(tag);
    await sheet.getByRole('button', { name: 'Read it' }).click();
    await sheet.waitFor({ state: 'hidden' });
    await brindle.getByText(tag).waitFor();
    await stage.order({ do: 'meta', host: 'compass-tea.example', tag });
    await brindle.getByRole('button', { name: 'Check', exact: true }).click();
    await brindle.getByText('claim on Brindle’s own pages').waitFor();
    await brindle.getByRole('button', { name: 'Record verdict' }).click();
    await sheet.getByRole('button', { name: 'Record' }).click();
    await brindle.getByText('recorded by marit').waitFor();
    await brindle.getByText('held', { exact: true }).waitFor();
    await brindle.getByRole('button', { name: 'Take verdict back' }).click();
    await sheet.getByRole('button', { name: 'Take it back' }).click();
    await sheet.waitFor({ state: 'hidden' });
    await brindle.getByText('in-place', { exact: true }).waitFor();
    expect(await brindle.getByText('recorded by marit').count()).toBe(0);
    await brindle.getByRole('button', { name: 'Record verdict' }).click();
    await sheet.getByRole('button', { name: 'Record' }).click();
    await brindle.getByText('held', { exact: true }).waitFor();
  });

  it('shows what should stand beside what stands, the way there, and asks before a claim for nothing', async () => {
    await stage.results(
      stage.marit.enrol({ body: { properties: ['tea'], engines: ['veldrane'], reach: 'name' } }),
    );
    await stage.results(stage.marit.getTokens({ body: { enrolments: ['tea@veldrane:name'] } }));
    const { placements } = await stage.marit.showEnrolment({ params: { enrolment: 'tea@veldrane:name' } });
    const put = placements[0]?.put;
    if (put?.kind !== 'dns') throw new Error('no record');
    await stage.order({ do: 'txt', name: put.zone, value: `"${put.value}"` });
    await signIn();
    await page.goto(`${stage.url}/properties/tea`);
    const named = page.getByRole('region', { name: 'tea@veldrane:name' });
    await named.getByRole('button', { name: 'Check', exact: true }).click();
    await named.getByText('A claim would be refused.').waitFor();
    expect(await named.locator('del').allTextContents()).toEqual(['"', '"']);
    expect(await named.getByRole('rowheader', { name: 'ns2.harbour-names.example' }).count()).toBe(1);
    await named.getByRole('button', { name: 'Claim' }).click();
    await page.getByRole('dialog').getByText('quotation marks became part of it').waitFor();
    await page.getByRole('dialog').getByRole('button', { name: 'Claim anyway' }).click();
    await page.getByRole('dialog').getByText('record not found').waitFor();
    await page.keyboard.press('Escape');

    const until = stage.world.file.now().getTime() + 7_260_000;
    await stage.order({ do: 'odd-name', name: put.zone, rememberMs: 7_260_000 });
    await stage.order({ do: 'txt', name: put.zone, value: put.value });
    await named.getByRole('button', { name: 'Check', exact: true }).click();
    await named.getByText(/Wait [12] h/).waitFor();
    const told = await named.getByRole('timer').locator('time').getAttribute('datetime');
    expect(Math.abs(until - Date.parse(told ?? ''))).toBeLessThan(600_000);
    await stage.world.advance(7_300_000);
    await named.getByRole('button', { name: 'Check', exact: true }).click();
    await named.getByText('A claim would be accepted.').waitFor();
  });

  it('shows the engines, and adopts what is enrolled there already', async () => {
    const held = stage.world.file.state.engines['veldrane']?.enrolments[0];
    if (!held) throw new Error('nothing is enrolled yet');
    const target = 'https://compass-tea.example/';
    stage.world.file.state.engines['veldrane']?.enrolments.push({
      ...held,
      id: 've-met',
      target,
      claims: {},
    });
    await stage.order({
      do: 'engine',
      engine: 'ostrime',
      suspend: { work: 'enrolments', ms: 20 * 86_400_000 },
    });
    await signIn();
    await page.getByRole('link', { name: 'Engines' }).click();
    const veldrane = page.getByRole('region', { name: 'Veldrane' });
    await veldrane.getByText('Looks again every 5 days; withdraws after 2 days without the token.').waitFor();
    await veldrane.getByRole('button', { name: 'Adopt' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByText('can be taken over for tea').waitFor();
    await sheet.getByRole('button', { name: 'Take over 1' }).click();
    await sheet.getByText('taken over', { exact: true }).waitFor();
    await page.keyboard.press('Escape');
    const enrolled = await stage.marit.showEnrolment({ params: { enrolment: 'tea@veldrane:address' } });
    expect(enrolled.badge).toBe('held');
    const ostrime = page.getByRole('region', { name: 'Ostrime' });
    await ostrime.getByRole('button', { name: 'Adopt' }).click();
    await sheet.getByText('A wait, not a failure').waitFor();
  });

  it('draws the variants, tells a move and what it asks for, and enrols by the plan', async () => {
    const from = 'http://pebble-rye.example/';
    const to = 'https://www.pebble-rye.example/';
    await stage.marit.addClient({ body: { name: 'Pebble & Rye', handle: 'pebble' } });
    const { job } = await stage.marit.addProperty({
      body: { client: 'pebble', address: 'pebble-rye.example', handle: 'bakery' },
    });
    await stage.marit.finished({ id: job });
    await stage.results(stage.marit.enrol({ body: { properties: ['bakery'], engines: ['veldrane'] } }));
    await stage.results(stage.marit.getTokens({ body: { enrolments: ['bakery'], method: 'meta' } }));
    const enrolment = await stage.marit.showEnrolment({ params: { enrolment: 'bakery@veldrane' } });
    for (const placement of enrolment.placements) await stage.order(orderFor(placement));
    await stage.results(stage.marit.claim({ body: { enrolments: ['bakery'] } }));
    await stage.order({ do: 'odd-variant', origin: to.slice(0, -1), how: 'page' });
    await stage.order({ do: 'odd-variant', origin: from.slice(0, -1), how: 'redirect', to });
    await signIn();
    await page.goto(`${stage.url}/properties/bakery?tab=variants`);
    await page.getByRole('button', { name: 'Check the variants' }).click();
    await page.getByText('The front door moved from').waitFor();
    await page.getByText(`Enrol ${to} at Veldrane.`, { exact: false }).first().waitFor();
    const picture = page.getByRole('figure');
    // Every arrow ends at the front door: four variants, three ways.
    await expect.poll(() => picture.locator('svg path[marker-end]').count()).toBe(3);
    await picture.getByText('no badge').first().waitFor();
    expect(await seriousFaults()).toEqual([]);
    const table = page.getByRole('table');
    expect(await table.getByRole('row').count()).toBe(5);
    expect(await table.getByRole('row', { name: to }).innerText()).toContain('front door');
    const plan = page.getByRole('region', { name: 'Registration plan' });
    await plan.getByRole('button', { name: 'Enrol at Veldrane' }).click();
    await expect
      .poll(async () =>
        (await stage.marit.listEnrolments({ query: { property: 'bakery' } })).items.map(
          ({ target }) => target,
        ),
      )
      .toContain(to);
    // The yard leads here.
    await page.goto(stage.url);
    await page.getByRole('link', { name: 'Veldrane’s badge misses a variant' }).click();
    await page.getByRole('figure').waitFor();
    // On a phone the table says it all.
    await page.setViewportSize({ width: 390, height: 800 });
    expect(await page.getByRole('figure').isVisible()).toBe(false);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(await seriousFaults()).toEqual([]);
  });

  it('looks for sitemaps, reads one, and asks about a single page', async () => {
    await signIn();
    await page.goto(`${stage.url}/properties/bakery?tab=sitemaps`);
    await page.getByRole('button', { name: 'Look for sitemaps' }).click();
    await page.getByText(/Found \d+; submit https:\/\/www\.pebble-rye\.example\/sitemap\.xml/).waitFor();
    await page.getByRole('button', { name: 'Read now' }).first().click();
    await page.getByText('19 addresses').first().waitFor();
    const single = page.getByRole('region', { name: 'A single page' });
    await single.getByLabel('Address of the page').fill('https://nowhere.example/x');
    await single.getByRole('button', { name: 'Look it up' }).click();
    await single.getByText('No enrolment covers https://nowhere.example/x').waitFor();
    await single.getByLabel('Address of the page').fill('http://pebble-rye.example/page-1');
    await single.getByRole('button', { name: 'Ask for a visit' }).click();
    await single.getByText('Veldrane was asked to visit it. 9 of 10 visits are left today.').waitFor();
    expect(await seriousFaults()).toEqual([]);
  });

  it('tells on the first screen that engines are kept out', async () => {
    await stage.order({
      do: 'file',
      host: 'www.pebble-rye.example',
      path: '/robots.txt',
      content: 'User-agent: *\nDisallow: /',
    });
    await stage.results(stage.marit.lookAtVariants({ body: { properties: ['bakery'] } }));
    await signIn();
    await page.goto(`${stage.url}/properties/bakery`);
    await page.getByRole('alert').getByText('forbids engines to fetch').waitFor();
    await page.goto(`${stage.url}/next`);
    await page.getByText('the website itself').first().waitFor();
  });

  it('copies what is to be placed', async () => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await signIn();
    await page.goto(`${stage.url}/properties/clocks`);
    await page
      .getByRole('region', { name: 'clocks@veldrane:address' })
      .getByText('DNS record', { exact: true })
      .first()
      .click();
    await page.getByRole('button', { name: 'Copy the record’s value' }).first().click();
    await page.getByText('Copied').waitFor();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(/^veldrane-mooring=\w+$/);
  });

  test.each([
    ['light', 1280],
    ['dark', 1280],
    ['light', 390],
    ['dark', 390],
  ] as const)('has nothing serious for axe, and does not overflow: %s, %i px', async (colorScheme, width) => {
    await page.emulateMedia({ colorScheme });
    await page.setViewportSize({ width, height: 800 });
    await page.goto(stage.url);
    await page.getByRole('button', { name: 'Sign in' }).waitFor();
    expect(await seriousFaults()).toEqual([]);
    await signIn();
    for (const path of ['/', '/properties/clocks', '/properties/tea', '/next', '/engines', '/journal']) {
      await page.goto(stage.url + path);
      await page.locator('main h1').waitFor();
      await page.locator('[aria-busy]').first().waitFor({ state: 'detached' });
      expect(await seriousFaults()).toEqual([]);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
      ).toBeLessThanOrEqual(0);
    }
  });

  it('does not shift while it loads', async () => {
    await signIn();
    for (const path of ['/', '/properties/clocks']) {
      await page.addInitScript(() => {
        const kept = globalThis as unknown as { shift: number };
        kept.shift = 0;
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries() as unknown as { value: number }[]) kept.shift += entry.value;
        }).observe({ type: 'layout-shift', buffered: true } as PerformanceObserverInit);
      });
      await page.goto(stage.url + path);
      await page.locator('main h1').waitFor();
      await page.getByText('House').first().waitFor();
      await page.evaluate(() => document.fonts.ready);
      expect(await page.evaluate(() => (globalThis as unknown as { shift: number }).shift)).toBeLessThan(0.1);
    }
  });

  it('works by keyboard alone', async () => {
    await page.goto(stage.url);
    await page.getByRole('button', { name: 'Sign in' }).waitFor();
    await page.keyboard.type('marit');
    await page.keyboard.press('Tab');
    await page.keyboard.type(PASSWORD);
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'This morning' }).waitFor();
    await page.getByRole('link', { name: 'Yard', exact: true }).focus();
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'The yard' }).waitFor();
    await page.getByRole('link', { name: 'clocks', exact: true }).focus();
    await page.keyboard.press('Enter');
    await page.getByRole('tab', { name: 'Engines' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.getByRole('tab', { name: 'Sheet', selected: true }).waitFor();
    await page.keyboard.press('ArrowRight');
    await page.getByRole('tab', { name: 'Variants', selected: true }).waitFor();
    await page.keyboard.press('ArrowRight');
    await page.getByText('equal to ours').waitFor();
    await page.goto(stage.url);
    await page.getByRole('button', { name: 'Add client' }).focus();
    await page.keyboard.press('Enter');
    await page.getByRole('dialog').waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'hidden' });
    // The sheet gives the focus back a moment after it is gone.
    await expect.poll(() => page.evaluate(() => document.activeElement?.textContent)).toBe('Add client');
  });

  it('shows an onlooker everything and lets her do nothing', async () => {
    await stage.person('odile', 'onlooker');
    await signIn('odile');
    expect(await page.getByRole('button', { name: 'Add client' }).count()).toBe(0);
    await page.getByRole('link', { name: 'clocks at Veldrane: held' }).click();
    const veldrane = page.getByRole('region', { name: 'clocks@veldrane:address' });
    await expect.poll(() => veldrane.evaluate((one) => one === document.activeElement)).toBe(true);
    expect(await page.getByRole('button', { name: 'Claim' }).count()).toBe(0);
  });
});
