import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { chromium, type Browser, type Page } from 'playwright-core';
import { PASSWORD } from '../support/stage.js';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const CHROMIUM = process.env['CHROMIUM'] ?? '/usr/bin/chromium';
const QUIET = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export function openBrowser(): Promise<Browser> {
  return chromium.launch({ executablePath: CHROMIUM, args: QUIET });
}

/** Signs in, which begins with the page of the morning, and goes to the yard. */
export async function signInTo(page: Page, url: string, name = 'marit'): Promise<void> {
  await page.goto(url);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'This morning' }).waitFor();
  await page.getByRole('link', { name: 'Yard', exact: true }).click();
  await page.getByRole('heading', { name: 'The yard' }).waitFor();
}

/** What axe finds that is serious or worse. */
export async function seriousFaultsOf(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: { run(): Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }> };
    };
    const { violations } = await axe.run();
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html ?? ''}`);
  });
}

/** A page at the usual size, signed in. */
export async function openPage(browser: Browser, url: string): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(60_000);
  await signInTo(page, url);
  return page;
}
