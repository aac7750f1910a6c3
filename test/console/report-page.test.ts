import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ClientReport } from '../../src/core/report/report.js';
import { reportHtml, reportMarkdown } from '../../src/core/report/report-formats.js';
import { openBrowser, seriousFaultsOf } from './ground.js';

const DAY = 24 * 3_600_000;
const AGENCY = { name: 'Harbour Lights', colour: '#0b4f6c', logo: null };

/** Much of everything: a client with two years of it. */
const LARGE: ClientReport = {
  language: 'en',
  client: 'Two Years & <Many> Websites',
  from: '2024-11-01T00:00:00.000Z',
  to: '2026-11-01T00:00:00.000Z',
  totals: { properties: 60, held: 180, slipping: 3, lost: 1 },
  properties: Array.from({ length: 60 }, (_, at) => ({
    address: `https://www.website-number-${String(at)}.example/`,
    at: ['House', 'Veldrane', 'Ostrime', 'Sundrel'].map((engine) => ({
      engine,
      isHeld: at % 5 !== 0,
      says: at % 5 === 0 ? 'token not in place yet' : 'held',
    })),
  })),
  changed: Array.from({ length: 80 }, (_, at) => ({
    at: '2026-05-01T00:00:00.000Z',
    property: `site-${String(at)}`,
    says: 'Veldrane confirmed the claim by its meta tag.',
  })),
  did: Array.from({ length: 80 }, (_, at) => ({
    at: '2026-05-01T00:00:00.000Z',
    property: `site-${String(at)}`,
    says: 'Was enrolled at Veldrane by address: https://www.website-number.example/.',
  })),
  harms: Array.from({ length: 20 }, (_, at) => ({
    property: `site-${String(at)}`,
    says: 'No meta tag named veldrane-mooring is on https://www.website-number.example/ (other meta tags there: 3).',
    seenAt: '2026-05-01T00:00:00.000Z',
    overAt: at % 2 === 0 ? '2026-05-02T00:00:00.000Z' : null,
    actedAt: at % 3 === 0 ? '2026-05-08T00:00:00.000Z' : null,
  })),
  sitemaps: Array.from({ length: 9 }, (_, at) => ({
    url: `https://www.website-number-${String(at)}.example/sitemap.xml`,
    ours: Array.from({ length: 100 }, (_, day) => ({
      at: new Date(Date.UTC(2025, 0, 1) + day * DAY).toISOString(),
      count: 1_000 + ((day * 37) % 400),
    })),
    engines: [
      {
        engine: 'Veldrane',
        found: [
          { at: '2025-01-09T00:00:00.000Z', count: 900 },
          { at: '2025-03-09T00:00:00.000Z', count: 1_100 },
        ],
      },
    ],
  })),
  toDo: Array.from({ length: 30 }, (_, at) => ({
    property: `site-${String(at)}`,
    says: 'Put the tag back into the head of the front page.',
  })),
};

describe('the page of a report', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await openBrowser();
  });
  afterAll(() => browser.close());

  const pagesOf = async (report: ClientReport): Promise<string[]> => {
    const page = await browser.newPage();
    await page.setContent(reportHtml(report, AGENCY));
    const counts: string[] = [];
    for (const format of ['A4', 'Letter']) {
      const pages = (await page.pdf({ format })).toString('latin1').match(/\/Type\s*\/Page\b/gu);
      counts.push(`${format}: ${String(pages?.length)}`);
    }
    await page.close();
    return counts;
  };

  it('has two pages, on A4 and on Letter, however much there is to tell, and says what it leaves out', async () => {
    expect(await pagesOf(LARGE)).toEqual(['A4: 2', 'Letter: 2']);
    const html = reportHtml(LARGE, AGENCY);
    const page = await browser.newPage();
    await page.setContent(html);
    await page.setViewportSize({ width: 390, height: 800 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(await seriousFaultsOf(page)).toEqual([]);
    const rows = await page.locator('tbody tr').allInnerTexts();
    expect(rows.length).toBeGreaterThanOrEqual(14);
    expect(html).toContain(`And ${String(60 - rows.length)} more.`);
    // What is not held is told before what is.
    expect(rows.filter((row) => row.includes('not in place')).length).toBe(12);
    await page.close();
    expect(html).toContain('Two Years &amp; &lt;Many&gt; Websites');
    expect(reportMarkdown(LARGE, AGENCY)).toContain('site-29');
  });

  it('has no more than two where there are many engines, each with its own column', async () => {
    const engines = Array.from({ length: 12 }, (_, at) => `Engine-${String(at)}`);
    const properties = LARGE.properties.map((one, at) => ({
      ...one,
      at: [{ engine: engines[at % 12] ?? '', isHeld: at % 2 === 0, says: 'token in place, not claimed yet' }],
    }));
    for (const pages of await pagesOf({ ...LARGE, properties })) expect(pages).toMatch(/: [12]$/u);
  });

  it.each([
    ['long sentences', 'The right value, but quotation marks became part of it, on line 6. '.repeat(9)],
    ['words without an end', 'https://www.saltmarsh.example/'.repeat(40)],
    ['wide letters', 'WMWM'.repeat(150)],
    ['letters of a full square', '港町の案内所'.repeat(90)],
  ])('has two pages with %s too', async (_, says) => {
    const told = <One extends object>(all: readonly One[]): One[] => all.map((one) => ({ ...one, says }));
    const wordy: ClientReport = {
      ...LARGE,
      client: says,
      properties: LARGE.properties.map(({ at }) => ({
        address: says,
        at: at.map((one) => ({ ...one, isHeld: false, says: says.slice(0, 60) })),
      })),
      ...{ toDo: told(LARGE.toDo), harms: told(LARGE.harms) },
      ...{ did: told(LARGE.did), changed: told(LARGE.changed) },
      sitemaps: LARGE.sitemaps.map((one) => ({ ...one, url: says })),
    };
    expect(await pagesOf(wordy)).toEqual(['A4: 2', 'Letter: 2']);
    expect(reportMarkdown(wordy, AGENCY)).not.toContain('…');
  });
});
