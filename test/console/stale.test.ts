import type { Browser, Page } from 'playwright-core';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openStage, type Stage } from '../support/stage.js';
import { openBrowser, openPage, seriousFaultsOf } from './ground.js';

const PART = /\/assets\/watch-[^/]*\.js$/u;

describe('a page of which a part is missing, as after an upgrade', () => {
  let stage: Stage;
  let browser: Browser;
  let page: Page;
  beforeAll(async () => {
    stage = await openStage();
    browser = await openBrowser();
  });
  afterAll(async () => {
    await browser.close();
    await stage.close();
  });
  beforeEach(async () => {
    page = await openPage(browser, stage.url);
  });
  afterEach(() => page.close());

  /** Has the part be missing so many times. */
  const lacking = async (times: number) => {
    let left = times;
    await page.route(PART, (route) => {
      left -= 1;
      return left < 0 ? route.continue() : route.fulfill({ status: 404 });
    });
  };
  const open = () => page.getByRole('link', { name: 'Watch', exact: true }).click();

  it('is loaded again by itself, once', async () => {
    await lacking(1);
    await open();
    await page.getByRole('heading', { name: 'The watch' }).waitFor();
  });

  it('says so where that does not help, and leaves the way to the other pages', async () => {
    await lacking(100);
    await open();
    await page.getByText('This page cannot be shown.').waitFor();
    expect(await seriousFaultsOf(page)).toEqual([]);
    await page.getByRole('link', { name: 'Yard', exact: true }).click();
    await page.getByRole('heading', { name: 'The yard' }).waitFor();
    expect(await page.getByText('This page cannot be shown.').count()).toBe(0);
    await page.unroute(PART);
    await open();
    await page.getByRole('button', { name: 'Load again' }).click();
    await page.getByRole('heading', { name: 'The watch' }).waitFor();
  });
});

describe('the parts of the console', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
  });
  afterAll(() => stage.close());

  it('are kept by browsers, the page that names them is not', async () => {
    const page = await fetch(stage.url, { headers: { accept: 'text/html' } });
    expect(page.headers.get('cache-control')).toBe('no-cache');
    const [part = ''] = /assets\/[\w-]+\.js/u.exec(await page.text()) ?? [];
    const answer = await fetch(`${stage.url}/${part}`);
    expect(answer.status).toBe(200);
    expect(answer.headers.get('cache-control')).toContain('immutable');
  });
});
