import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { asksToStayAway, stayAwayHeader } from '../../src/core/robots/directives.js';
import { crawlDelay, decidingRule, MOST_ROBOTS, readRobots } from '../../src/core/robots/robots.js';

/** Whether an agent may fetch a path by a robots.txt. */
function may(text: string, path: string, agent: string | null = 'veldrane-reader'): boolean {
  return decidingRule(readRobots(text), agent, path).rule?.allows !== false;
}

describe('robots.txt, by RFC 9309', () => {
  test.each<[string, string, string, boolean]>([
    ['nothing', '', '/', true],
    ['everything forbidden', 'User-agent: *\nDisallow: /', '/', false],
    ['an empty rule forbids nothing', 'User-agent: *\nDisallow:', '/', true],
    ['keys in any case, spaces anywhere', '  USER-AGENT :  *\n\tdisallow:/x ', '/x', false],
    ['comments', 'User-agent: * # all\nDisallow: / # everything', '/', false],
    ['line ends of any kind', 'User-agent: *\rDisallow: /a\r\nDisallow: /b', '/b', false],
    ['a byte order mark', '\ufeffUser-agent: *\nDisallow: /', '/', false],
    [
      'the own group in place of everyone’s',
      'User-agent: *\nDisallow: /\nUser-agent: veldrane-reader\nAllow: /',
      '/',
      true,
    ],
    ['the own group in other capitals', 'User-agent: Veldrane-Reader\nDisallow: /', '/', false],
    ['a version behind the name', 'User-agent: veldrane-reader/2.1\nDisallow: /', '/', false],
    ['another agent’s group', 'User-agent: other\nDisallow: /', '/', true],
    ['two agents, one group', 'User-agent: other\nUser-agent: veldrane-reader\nDisallow: /', '/', false],
    [
      'groups of one agent are one',
      'User-agent: veldrane-reader\nDisallow: /a\nUser-agent: *\nDisallow: /b\nUser-agent: veldrane-reader\nDisallow: /c',
      '/c',
      false,
    ],
    [
      'and everyone’s are not added',
      'User-agent: veldrane-reader\nDisallow: /a\nUser-agent: *\nDisallow: /b',
      '/b',
      true,
    ],
    ['rules before any agent', 'Disallow: /\nUser-agent: *\nAllow: /', '/', true],
    ['unknown lines do not end a group', 'User-agent: *\nCrawl-delay: 3\nDisallow: /', '/', false],
    [
      'the longest match counts',
      'User-agent: *\nDisallow: /tide\nAllow: /tide/tables',
      '/tide/tables/x',
      true,
    ],
    ['whatever the order', 'User-agent: *\nAllow: /tide/tables\nDisallow: /tide', '/tide/x', false],
    ['of two alike the one that allows', 'User-agent: *\nDisallow: /tide\nAllow: /tide', '/tide', true],
    ['a star in the midst', 'User-agent: *\nDisallow: /*/private', '/a/b/private/c', false],
    ['a star that finds nothing', 'User-agent: *\nDisallow: /*.pdf', '/a.png', true],
    ['an end', 'User-agent: *\nDisallow: /*.pdf$', '/a.pdf?x', true],
    ['an end that fits', 'User-agent: *\nDisallow: /*.pdf$', '/x/a.pdf', false],
    ['an end without a star', 'User-agent: *\nDisallow: /a$', '/ab', true],
    ['case counts in paths', 'User-agent: *\nDisallow: /Tide', '/tide', true],
    ['escapes are alike', 'User-agent: *\nDisallow: /a%7Eb', '/a~b', false],
    ['letters and their escapes are alike', 'User-agent: *\nDisallow: /möwe', '/m%C3%B6we', false],
    ['an escaped slash is none', 'User-agent: *\nDisallow: /a%2Fb', '/a/b', true],
    ['the robots.txt itself', 'User-agent: *\nDisallow: /', '/robots.txt', true],
    ['the query belongs to the path', 'User-agent: *\nDisallow: /*?print=', '/a?print=1', false],
  ])('%s', (_, text, path, expected) => {
    expect(may(text, path)).toBe(expected);
  });
  it('takes an engine without a name by the rules for everyone', () => {
    expect(may('User-agent: *\nDisallow: /\nUser-agent: other\nAllow: /', '/', null)).toBe(false);
  });
  it('says which line decides', () => {
    const { rule } = decidingRule(readRobots('User-agent: *\n\nDisallow: /a\nDisallow: /'), null, '/b');
    expect(rule).toEqual({ allows: false, pattern: '/', line: 4 });
  });
  it('gives the sitemaps that it names, wherever they stand', () => {
    const { sitemaps } = readRobots(
      'Sitemap: https://quay.example/a.xml\nUser-agent: *\nSITEMAP:/b.xml # two\nDisallow:\nsitemap:',
    );
    expect(sitemaps).toEqual([
      { url: 'https://quay.example/a.xml', line: 1 },
      { url: '/b.xml', line: 3 },
    ]);
  });
  it('reads no more than the standard asks for', () => {
    const text = `User-agent: *\n${'# tide\n'.repeat(MOST_ROBOTS / 7)}Disallow: /`;
    expect(may(text, '/')).toBe(true);
  });
  it('never throws, and takes no longer for stars than for letters', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 300 }),
        fc.string({ unit: 'binary' }),
        (text, path) => {
          may(`User-agent: *\nDisallow: ${text}`, `/${path}`);
          return true;
        },
      ),
    );
    const hostile = `User-agent: *\nDisallow: /${'*a'.repeat(2000)}$`;
    expect(may(hostile, `/${'a'.repeat(20_000)}b`)).toBe(true);
  });

  it('reads lines of blanks of any length', () => {
    const blanks = ' '.repeat(150_000);
    const { sitemaps } = readRobots(
      `sitemap:${blanks}\u2028${blanks}https://quay.example/s.xml${blanks}# ours`,
    );
    expect(sitemaps).toEqual([{ url: 'https://quay.example/s.xml', line: 1 }]);
    expect(readRobots(`sitemap${blanks}`).sitemaps).toEqual([]);
  });
});

test.each<[string, boolean]>([
  ['noindex', true],
  ['NOINDEX,nofollow', true],
  ['none', true],
  ['index, follow', false],
  ['noindexer', false],
  ['max-snippet:-1, noindex', true],
])('the robots directive %j: %j', (content, expected) => {
  expect(asksToStayAway(content)).toBe(expected);
});

test.each<[string, string | null, string | null]>([
  ['noindex', null, 'noindex'],
  ['noarchive, noindex', 'veldrane-reader', 'noindex'],
  ['veldrane-reader: noindex', 'veldrane-reader', 'veldrane-reader: noindex'],
  ['Veldrane-Reader: nofollow, noindex', 'veldrane-reader', 'noindex'],
  ['other: noindex, nofollow', 'veldrane-reader', null],
  ['other: noarchive, veldrane-reader: none', 'veldrane-reader', 'veldrane-reader: none'],
  ['unavailable_after: 25 Jun 2027 15:00:00 UTC, noindex', null, 'noindex'],
  ['max-image-preview: large', null, null],
  ['', null, null],
])('the X-Robots-Tag %j for %j: %j', (header, agent, expected) => {
  expect(stayAwayHeader(header, agent)).toBe(expected);
});

describe('a wait between two requests', () => {
  test.each<[string, string, number | null]>([
    ['not asked for', 'User-agent: *\nDisallow: /x', null],
    ['for everyone', 'User-agent: *\nCrawl-delay: 2.5', 2.5],
    ['for us alone', 'User-agent: *\nCrawl-delay: 9\n\nUser-agent: yard\nCrawl-delay: 1\nDisallow:', 1],
    ['not for us', 'User-agent: *\nCrawl-delay: 9\n\nUser-agent: yard\nDisallow:', null],
    ['longer than anybody means', 'User-agent: *\nCrawl-delay: 86400', 60],
    ['no number', 'User-agent: *\nCrawl-delay: slow', null],
  ])('%s', (_what, text, seconds) => {
    expect(crawlDelay(readRobots(text), 'yard/1.0')).toBe(seconds);
  });
  it('ends no list of agents, since the standard does not know it (RFC 9309 §2.2.4)', () => {
    const text = 'User-agent: yard\nCrawl-delay: 5\nUser-agent: other\nDisallow: /a';
    expect([may(text, '/a', 'yard'), may(text, '/a', 'other')]).toEqual([false, false]);
  });
});
