import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, PASSWORD, placeAll, type Stage } from '../support/stage.js';
import { openBrowser, seriousFaultsOf } from './ground.js';
import { Keyboard } from './keyboard.js';

/** A first day in the console, mistakes and all, by keyboard alone. */
describe('a first day in the console, by keyboard', () => {
  let stage: Stage;
  let browser: Browser;
  let page: Page;
  let keys: Keyboard;
  const alert = () => page.getByRole('alert').textContent();
  const closed = () => page.getByRole('dialog').waitFor({ state: 'hidden' });

  beforeAll(async () => {
    stage = await openStage();
    browser = await openBrowser();
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    page.setDefaultTimeout(60_000);
    keys = new Keyboard(page);
    await page.goto(stage.url);
  });
  afterAll(async () => {
    await browser.close();
    await stage.close();
  });

  it('signs in, and adds a client whose countries were misspelt at first', async () => {
    await page.getByLabel('Name').waitFor();
    await keys.fill('Name', 'marit');
    await keys.fill('Password', PASSWORD);
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: 'begin in the yard' }).focus();
    await page.keyboard.press('Enter');
    await page.getByText('The yard is empty.').waitFor();
    await keys.press('Add client');
    await keys.fill('Name', 'Saltmarsh Ferry Line');
    await keys.fill('Audience', 'Finlnd, Eesti');
    await page.keyboard.press('Enter');
    await page.getByRole('alert').waitFor();
    expect(await alert()).toContain('Did you mean Finland (FI)?');
    expect(await seriousFaultsOf(page)).toEqual([]);
    await keys.fill('Audience', 'Finland, Eesti');
    await page.keyboard.press('Enter');
    await closed();
    // It has no row yet, and is found all the same.
    await page.getByText('Without a website yet: Saltmarsh Ferry Line').waitFor();
    await keys.press('Add client');
    await keys.fill('Name', 'saltmarsh ferry line');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'All the same' }).waitFor();
    expect(await alert()).toContain(
      'A client called Saltmarsh Ferry Line is there already, as saltmarsh-ferry-line.',
    );
    expect(await seriousFaultsOf(page)).toEqual([]);
    await keys.escape();
    await closed();
  });

  it('takes on a property as it stood in a mail, and not twice', async () => {
    await keys.press('Take on property');
    await page.getByRole('option', { name: 'Saltmarsh Ferry Line' }).waitFor({ state: 'attached' });
    await keys.fill('Address', 'saltmarsh ferries');
    await page.keyboard.press('Enter');
    await page.getByRole('alert').waitFor();
    expect(await alert()).toContain('is not a host name');
    await keys.fill('Address', '„Saltmarsh-Ferries.example“,');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'saltmarsh-ferries' }).waitFor();
    await page.getByText('Visitors end up at').waitFor();
    await keys.press('Yard');
    await keys.press('Take on property');
    await keys.fill('Address', 'http://www.saltmarsh-ferries.example');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'All the same' }).waitFor();
    expect(await alert()).toContain('which is there already as the property saltmarsh-ferries');
    await keys.escape();
    await closed();
  });

  it('enrols, gets tokens, checks and claims', async () => {
    await page.getByRole('link', { name: 'saltmarsh-ferries' }).first().waitFor();
    await keys.press('saltmarsh-ferries');
    await page.getByRole('button', { name: 'Enrol at Veldrane', exact: true }).waitFor();
    await keys.press('Enrol at Veldrane');
    await page.getByRole('region', { name: 'saltmarsh-ferries@veldrane:address' }).waitFor();
    await keys.press('Get tokens');
    await page.getByText('<meta name="veldrane-mooring"').first().waitFor();
    const { items } = await stage.marit.listEnrolments({ query: { property: 'saltmarsh-ferries' } });
    await placeAll(stage, items);
    await keys.press('Check');
    await page.getByText('in-place').first().waitFor();
    await keys.press('Claim');
    await page.getByText('held', { exact: true }).first().waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
  });

  it('works an engine by hand, takes a token back, and ends it there', async () => {
    await page.getByRole('button', { name: 'Enrol at Brindle', exact: true }).waitFor();
    await keys.press('Enrol at Brindle');
    const brindle = page.getByRole('region', { name: 'saltmarsh-ferries@brindle:address' });
    await brindle.waitFor();
    await keys.press('Paste token');
    await keys.to('Pasted');
    await page.keyboard.type(
      `<meta name="brindle-plank" content="${'A'.repeat(20)}">\nbrindle-plank=${'B'.repeat(20)}`,
    );
    await keys.press('Read it');
    await closed();
    await brindle.getByText('B'.repeat(20)).first().waitFor({ state: 'attached' });
    await keys.press('Forget token');
    await keys.choose('Method', 'DNS');
    await keys.press('Forget it');
    await closed();
    await brindle.getByText('B'.repeat(20)).first().waitFor({ state: 'detached' });
    // The way back of the other enrolment comes first.
    await brindle.getByRole('button', { name: 'End enrolment' }).focus();
    await page.keyboard.press('Enter');
    await keys.press('Note it');
    await closed();
    await brindle.getByText('End it on Brindle’s own pages').waitFor();
    await keys.press('It has ended');
    await keys.press('Record it');
    await brindle.waitFor({ state: 'detached' });
  });

  it('edits, archives against a reason, and takes back', async () => {
    await page.getByRole('tab', { name: 'Engines' }).focus();
    await page.keyboard.press('End');
    await page.getByRole('region', { name: 'Its client' }).waitFor();
    await keys.press('Edit client');
    await keys.fill('Contact', 'aino@saltmarsh-ferries.example');
    await page.keyboard.press('Enter');
    await closed();
    await page.getByText('aino@saltmarsh-ferries.example').waitFor();
    await keys.press('Edit property');
    await keys.fill('Handle', 'ferries');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'ferries', exact: true, level: 1 }).waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await keys.press('Archive property');
    await keys.press('Archive it');
    await page.getByRole('button', { name: 'All the same' }).waitFor();
    expect(await alert()).toMatch(/ferries holds ferries@veldrane:address: the engines go on looking/u);
    await keys.press('All the same');
    await page.getByRole('heading', { name: 'The archive' }).waitFor();
    await page.getByText('ferries', { exact: true }).waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await keys.press('Restore ferries');
    await keys.press('Restore it');
    await page.getByRole('heading', { name: 'ferries', exact: true, level: 1 }).waitFor();
    await page.getByText('held', { exact: true }).first().waitFor();
  });

  it('deletes a client in the archive for good, at a word', async () => {
    await stage.marit.addClient({ body: { name: 'Old Mill', handle: 'old-mill' } });
    await stage.marit.archiveClient({ params: { client: 'old-mill' } });
    await page.goto(`${stage.url}/archive`);
    const clients = page.getByRole('region', { name: 'Clients' });
    await clients.getByText('old-mill, archived').waitFor();
    await keys.press('Delete Old Mill');
    await keys.press('Delete it');
    expect(await alert()).toMatch(/no day was said for it/u);
    await keys.press('All the same');
    await closed();
    await clients.waitFor({ state: 'detached' });
    await page.goto(`${stage.url}/properties/ferries`);
    await page.getByRole('heading', { name: 'ferries', exact: true, level: 1 }).waitFor();
  });

  it('reads how it stood, stretch by stretch', async () => {
    await page.getByRole('tab', { name: 'History' }).focus();
    await page.keyboard.press('Enter');
    const strip = page.getByRole('region', { name: 'ferries@veldrane:address' });
    await strip.waitFor();
    const told = strip.getByRole('status');
    for (let step = 0; step < 12 && !(await told.textContent())?.startsWith('held from'); step += 1)
      await page.keyboard.press('Tab');
    expect(await told.textContent()).toMatch(/^held from 20\d\d-\d\d-\d\d \d\d:\d\d until now$/u);
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.getByRole('region', { name: 'saltmarsh-ferries@brindle' }).waitFor({ state: 'detached' });
    await page.getByText('https://www.saltmarsh-ferries.example/').first().waitFor();
  });
});
