import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { explainRobots, type RobotsAgent } from '../../src/core/robots/explanation.js';

const URL_ = 'https://www.quay.example/robots.txt';
const VELDRANE: RobotsAgent = { title: 'Veldrane', agent: 'veldrane-reader' };
const REST: RobotsAgent = { title: 'everyone else', agent: null };
const TEXT = `# tides
User-agent: *
Disallow: /shop/
Allow: /shop/open$

User-agent: Veldrane-Reader
Disallow: /tides
Sitemap: https://www.quay.example/sitemap.xml
`;

function told(
  text: string,
  addresses: string[],
  { status = 200 as number | null, sitemaps = [] as string[] } = {},
) {
  return explainRobots(
    { url: URL_, status, text },
    [VELDRANE, REST],
    addresses.map((path) => `https://www.quay.example${path}`),
    sitemaps,
  );
}

describe('which line decides', () => {
  test.each([
    [
      '/',
      [
        [true, 'veldrane-reader', null],
        [true, '*', null],
      ],
    ],
    [
      '/shop/a',
      [
        [true, 'veldrane-reader', null],
        [false, '*', 3],
      ],
    ],
    [
      '/shop/open',
      [
        [true, 'veldrane-reader', null],
        [true, '*', 4],
      ],
    ],
    [
      '/tides?day=1',
      [
        [false, 'veldrane-reader', 7],
        [true, '*', null],
      ],
    ],
    [
      '/robots.txt',
      [
        [true, 'veldrane-reader', null],
        [true, '*', null],
      ],
    ],
  ])('for %s', (path, expected) => {
    const [verdict] = told(TEXT, [path]).verdicts;
    expect(verdict?.agents.map(({ allowed, group, line }) => [allowed, group, line])).toEqual(expected);
  });
  it('is shown as it is written', () => {
    expect(told(TEXT, ['/shop/a']).verdicts[0]?.agents[1]?.rule).toBe('Disallow: /shop/');
  });
  test.each([
    [404, true],
    [503, false],
    [null, false],
  ])('answer %s lets in: %s', (status, allowed) => {
    expect(told('Disallow: /', ['/a'], { status }).verdicts[0]?.agents.map((one) => one.allowed)).toEqual([
      allowed,
      allowed,
    ]);
  });
});

describe('lines that nobody reads as they were meant', () => {
  test.each([
    ['Disallow: /a', 'before any'],
    ['User-agent: *\nDisalow: /a', 'Nobody knows'],
    ['User-agent: *\nDisallow: a', 'begins with'],
    ['just words', 'no directive'],
    ['Sitemap: /sitemap.xml', 'whole address'],
  ])('%j: %s', (text, says) => {
    expect(told(text, []).faults.map((one) => one.says)).toEqual([expect.stringContaining(says)]);
  });
  it('are none where there is none', () => {
    expect(told(TEXT, []).faults).toEqual([]);
    expect(told('User-agent: *\nCrawl-delay: 5\nDisallow:\n', []).faults).toEqual([]);
  });
  it('are bounded, whatever comes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 500 }), (text) => {
        const { faults } = told(text, ['/a']);
        expect(faults.length).toBeLessThanOrEqual(20);
      }),
    );
    expect(told('x\n'.repeat(5_000), []).faults).toHaveLength(20);
  });
});

describe('what it should say', () => {
  it('names the sitemaps that it does not name, and leaves the rest as it is', () => {
    const sitemaps = ['https://www.quay.example/sitemap.xml', 'https://www.quay.example/more.xml'];
    expect(told(TEXT, [], { sitemaps }).proposal).toBe(
      `${TEXT.trimEnd()}\n\nSitemap: https://www.quay.example/more.xml\n`,
    );
    expect(told(TEXT, [], { sitemaps: sitemaps.slice(0, 1) }).proposal).toBeNull();
    expect(told('', [], { status: 404, sitemaps }).proposal).toContain(
      'User-agent: *\nDisallow:\n\nSitemap: ',
    );
    expect(told('', [], { status: 500, sitemaps }).proposal).toBeNull();
  });
});
