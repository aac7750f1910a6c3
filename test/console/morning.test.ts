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
    () => stage.marit.listAlerts({}),
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
    const told = part('Alerts');
    await told.getByText('token gone').waitFor();
    expect(await told.textContent()).toContain('The meta tag is gone');
    expect(await told.textContent()).toMatch(/until \d{4}-\d\d-\d\d/u);
    await part('What the watch saw').getByText('ferries').first().waitFor();
    await page.getByText(/\d+ checks in the past day/u).waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
  });

  it('has what is to be done done from its line, by keyboard', async () => {
    await placeAll(stage, (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items);
    const again = part('Alerts').getByRole('button', { name: 'Check again' });
    await again.focus();
    await page.keyboard.press('Enter');
    // What came of it stands where the line was, with the focus, and is announced.
    const done = part('Alerts').getByRole('listitem').filter({ hasText: '✓' });
    await done.getByText('token gone, ferries').waitFor();
    await until(
      () => page.evaluate(() => document.activeElement?.textContent ?? ''),
      (text) => text.includes('token gone, ferries'),
    );
    expect(await part('Alerts').getByRole('status').first().textContent()).toContain('token gone, ferries');
    await done.getByRole('button', { name: 'Hide' }).click();
    await page.getByText('Nothing slipped, nothing was lost').waitFor();
  });

  it.each<[string, object]>([
    ['a token that is gone', { do: 'clear', host: HOST, what: 'meta' }],
    ['an expired certificate', { do: 'odd', host: HOST, certificate: 'expired' }],
    ['a wall that answers 403', { do: 'odd', host: HOST, wall: true }],
    [
      'a frame around another website',
      {
        ...{ do: 'odd', host: HOST },
        answer: {
          ...{ path: '/', status: 200, headers: { 'content-type': 'text/html' } },
          body: '<html><head></head><frameset><frame src="https://elsewhere.example/"></frameset></html>',
        },
      },
    ],
    [
      'a page that keeps engines out',
      {
        ...{ do: 'odd', host: HOST },
        answer: {
          ...{ path: '/', status: 200, headers: { 'content-type': 'text/html' } },
          body: '<html><head><meta name="robots" content="noindex"></head><body>Ferries</body></html>',
        },
      },
    ],
  ])('names %s, as the yard and the next steps do', async (_, order) => {
    const { marit } = stage;
    const whole = async () => {
      await stage.results(marit.lookAtVariants({ body: { properties: ['ferries'] } }));
      await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    };
    await stage.order(order as never);
    await whole();
    const { items } = await marit.worklist({ query: { property: 'ferries' } });
    const harms = items.filter(({ step }) =>
      ['mend-site', 'repair', 'prove-again', 'wait'].includes(step.kind),
    );
    expect(harms.length).toBeGreaterThan(0);
    const [row] = (await marit.yard({ query: { property: 'ferries' } })).items;
    const isInYard =
      (row?.variants.stops ?? null) !== null ||
      row?.enrolments.some(({ badge, step }) => badge === 'slipping' || step.kind === 'wait') === true;
    expect(isInYard).toBe(true);
    await page.reload();
    await page.getByRole('heading', { name: 'This morning' }).waitFor();
    for (const { step } of harms)
      await until(
        async () => (await page.locator('main').textContent()) ?? '',
        (all) => all.includes(step.says),
      );
    await stage.order({ do: 'odd', host: HOST, none: true });
    await placeAll(stage, (await marit.listEnrolments({ query: { property: 'ferries' } })).items);
    await whole();
  });

  it('shows an onlooker all of it, and lets her do nothing', async () => {
    await signInAs('odile');
    await page.getByText('Nothing slipped, nothing was lost').waitFor();
    await part('Ours to do').waitFor();
    expect(await page.locator('section').getByRole('button').count()).toBe(0);
  });

  it('leaves a step until a day, hands it on, and takes it up again', async () => {
    await signInAs('marit');
    await page.getByRole('link', { name: 'Next steps' }).click();
    const line = page.getByRole('listitem').filter({ hasText: 'submit sitemap' }).first();
    await line.getByRole('button', { name: 'Put off' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Why').fill('their developer is away');
    await sheet.getByRole('button', { name: 'Put off' }).click();
    const off = page.getByRole('listitem').filter({ hasText: 'Put off by marit: their developer is away' });
    await off.first().waitFor();
    // Taken back where it was done, and put off once more.
    await page.getByRole('button', { name: 'Undo' }).click();
    await off.first().waitFor({ state: 'detached' });
    await line.getByRole('button', { name: 'Put off' }).click();
    await sheet.getByLabel('Why').fill('their developer is away');
    await sheet.getByRole('button', { name: 'Put off' }).click();
    await off.first().waitFor();
    expect(await page.getByRole('listitem').filter({ hasText: 'Put off by' }).last().textContent()).toContain(
      'submit sitemap',
    );
    await off.first().getByRole('button', { name: 'Hand over' }).click();
    await sheet.getByLabel('To').selectOption('marit');
    await sheet.getByRole('button', { name: 'Hand over' }).click();
    await off.first().getByRole('button', { name: 'Handed to marit' }).waitFor();
    await page.getByLabel('Kind').selectOption('put-off');
    expect(await seriousFaultsOf(page)).toEqual([]);
    await off.first().getByRole('button', { name: 'Take up again' }).click();
    await page.getByText('Taken up again.').waitFor();
  });

  it('shows what is looked at, and leaves something alone', async () => {
    await page.getByRole('link', { name: 'Watch', exact: true }).click();
    await page.getByText(/Watched: \d+ placements/u).waitFor();
    await page.getByRole('button', { name: 'Pause' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Which').fill('ferries');
    await sheet.getByLabel('Why').fill('moving house');
    await sheet.getByRole('button', { name: 'Pause' }).click();
    await page.getByText('paused: moving house').first().waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.getByRole('button', { name: 'Resume ferries' }).click();
    await sheet.getByRole('button', { name: 'Resume' }).click();
    await page.getByText('Nothing is paused.').waitFor();
  });

  it('says who is told what, orders a report and shows it, and keeps what was sent', async () => {
    await page.getByRole('link', { name: 'Notifications' }).click();
    const sheet = page.getByRole('dialog');
    await page.getByRole('button', { name: 'Change marit' }).click();
    await sheet.getByLabel('Mail to').fill('marit@harbour-lights.example');
    await sheet.getByRole('button', { name: 'Keep it' }).click();
    await page.getByText('by mail to marit@harbour-lights.example').waitFor();
    await page.getByRole('button', { name: 'Order a report' }).click();
    await sheet.getByLabel('Of the client').fill('saltmarsh');
    await sheet.getByRole('button', { name: 'Order it' }).click();
    // What goes to somebody is seen before it first goes, and whenever it is wanted.
    await sheet.getByText('HOW IT STANDS').waitFor();
    await page.keyboard.press('Escape');
    await page.getByText('of saltmarsh to marit, every week').waitFor();
    await page.getByRole('button', { name: 'Show' }).first().click();
    await sheet.getByText('HOW IT STANDS').waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Add a webhook' }).click();
    await sheet.getByLabel('Address').fill('http://told.example/cases');
    await sheet.getByRole('button', { name: 'Add it' }).click();
    await page.getByText('which is not shown again').waitFor();
    expect(await page.locator('code').textContent()).toMatch(/^[\w-]{43}$/u);
    await page.getByRole('link', { name: 'Morning' }).click();
    await page.goto(`${stage.url}/alerts?kind=slipping&which=resolved`);
    await page.getByText('what changed').first().click();
    await page.getByText('− line').first().waitFor();
  });
});
