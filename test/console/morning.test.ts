import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DAY, MINUTE } from '../../src/core/time/duration.js';
import { openStage, PASSWORD, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';
import { openBrowser, seriousFaultsOf } from './ground.js';

const HOST = 'www.saltmarsh-ferries.example';
let stage: Stage;
let browser: Browser;
let page: Page;

beforeAll(async () => {
  stage = await openStage({ 'watch.on': 'true' });
  const enrolments = await takeOnFerries(stage);
  await placeAll(stage, enrolments);
  const held = { enrolments: ['ferries@house', 'ferries@veldrane:address'], method: 'meta' as const };
  await stage.results(stage.marit.claim({ body: held }));
  await stage.person('odile', 'onlooker');
  browser = await openBrowser();
  await stage.order({ do: 'clear', host: HOST, what: 'meta' });
  await stage.world.advance(1.6 * DAY);
  await until(
    () => stage.marit.showWatch({}),
    ({ counts }) => counts['due'] === 0 && counts['underWay'] === 0,
  );
  await stage.world.advance(6 * MINUTE);
  await until(
    () => stage.marit.listCases({}),
    ({ items }) => items.some(({ kind }) => kind === 'slipping'),
  );
});
afterAll(async () => {
  await browser.close();
  await stage.close();
});

async function signInAs(name: string): Promise<void> {
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  page.setDefaultTimeout(60_000);
  await page.goto(stage.url);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: 'This morning' }).waitFor();
}

const part = (title: string) =>
  page.locator('section').filter({ has: page.getByRole('heading', { name: title }) });

describe('the page of the morning', () => {
  it('is the first after sign-in, and says what slipped, what the looks brought and who did what', async () => {
    await signInAs('marit');
    const told = part('Told without being asked');
    await told.getByText('token gone').waitFor();
    expect(await told.textContent()).toContain('The meta tag is gone');
    expect(await told.textContent()).toMatch(/until \d{4}-\d\d-\d\d/u);
    await part('What the looks brought').getByText('ferries').first().waitFor();
    await page.getByText(/\d+ looks in the past day/u).waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
  });

  it('has what is to be done done from its line, by keyboard', async () => {
    await placeAll(stage, (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items);
    const again = part('Told without being asked').getByRole('button', { name: 'Look again' });
    await again.focus();
    await page.keyboard.press('Enter');
    await page.getByText('Nothing slipped, nothing was lost').waitFor();
  });

  it('shows an onlooker all of it, and lets her do nothing', async () => {
    await signInAs('odile');
    await page.getByText('Nothing slipped, nothing was lost').waitFor();
    await part('Ours to do').waitFor();
    expect(await page.locator('section').getByRole('button').count()).toBe(0);
  });
});
