import { describe, expect, it, test } from 'vitest';
import { stayAwayHeader } from '../../src/core/robots/directives.js';
import { decidingRule, readRobots, robotsIn, sitemapsNamedIn } from '../../src/core/robots/robots.js';

/** Which line of a robots.txt decides about a path, for whom (RFC 9309 §2.2). */
function line(rules: readonly string[], path: string, agent: string | null = null): number | null {
  return decidingRule(readRobots(['User-agent: *', ...rules].join('\n')), agent, path).rule?.line ?? null;
}

describe('the rule that decides', () => {
  test.each<[string, string[], string, number | null]>([
    ['the longest of several', ['Disallow: /a', 'Disallow: /a/b', 'Allow: /a/'], '/a/b/c', 3],
    ['the longest, wherever it stands', ['Disallow: /a/b', 'Disallow: /a'], '/a/b/c', 2],
    ['none that is longer than the path', ['Disallow: /a/b'], '/a/', null],
    ['none that only ends alike', ['Disallow: /b'], '/a/b', null],
    ['of two alike the one that allows', ['Disallow: /a', 'Allow: /a'], '/a', 3],
    ['of two alike the one that allows, whichever comes first', ['Allow: /a', 'Disallow: /a'], '/a', 2],
    ['of two that allow the first', ['Allow: /a', 'Allow: /a'], '/a', 2],
    ['of two that forbid the first', ['Disallow: /a', 'Disallow: /a'], '/a', 2],
    ['a star in the midst', ['Disallow: /a/*/c'], '/a/b/c/d', 2],
    ['a star over nothing', ['Disallow: /a/*c'], '/a/c', 2],
    ['a star over several folders', ['Disallow: /a*c'], '/a/b/b/c', 2],
    ['two stars, in their order', ['Disallow: /a*b*c'], '/axbxc', 2],
    ['two stars, out of their order', ['Disallow: /a*c*b'], '/axbxc', null],
    ['two stars, the second nowhere', ['Disallow: /a*b*d'], '/axbxc', null],
    ['three stars, each behind the last', ['Disallow: /*aa*aa*'], '/aaa', null],
    ['three stars, each with its own', ['Disallow: /*aa*aa*'], '/aaaa', 2],
    ['a star that matches, another beginning', ['Disallow: /b*c'], '/a/c', null],
    ['an end', ['Disallow: /*.pdf$'], '/a.pdf', 2],
    ['an end that is none', ['Disallow: /*.pdf$'], '/a.pdf?x', null],
    ['an end without a star', ['Disallow: /a$'], '/a', 2],
    ['an end without a star that is none', ['Disallow: /a$'], '/ab', null],
    ['an end that would overlap the beginning', ['Disallow: /ab*ba$'], '/aba', null],
    ['an end that just fits', ['Disallow: /ab*ba$'], '/abba', 2],
    ['a star at the end', ['Disallow: /a*'], '/a', 2],
    ['a star at the end, anchored', ['Disallow: /a*$'], '/a/b', 2],
    ['the longer with a star over the shorter without', ['Allow: /a', 'Disallow: /a*b'], '/a/b', 3],
    ['the longer without a star over the shorter with', ['Disallow: /a*', 'Allow: /a/b'], '/a/b', 3],
    ['the longest of those with a star', ['Disallow: /*b', 'Allow: /a*bc'], '/a/bc', 3],
    ['the longest of those with a star, wherever it stands', ['Allow: /a*bc', 'Disallow: /*b'], '/a/bc', 2],
    ['a shorter with a star where the longer does not match', ['Allow: /a*x', 'Disallow: /*b'], '/a/b', 3],
    ['alike in length: the one with a star that allows', ['Disallow: /ab', 'Allow: /a*'], '/ab', 3],
    ['alike in length: not the one with a star that forbids', ['Allow: /ab', 'Disallow: /a*'], '/ab', 2],
    ['alike in length, both with a star: the one that allows', ['Disallow: /*b', 'Allow: /a*'], '/ab', 3],
    ['alike in length, both with a star, the other way about', ['Allow: /a*', 'Disallow: /*b'], '/ab', 2],
    ['alike in length, none of them allows: the first', ['Disallow: /ab', 'Disallow: /a*'], '/ab', 2],
    ['one with a star alone', ['Disallow: *'], '/', 2],
    ['the robots.txt itself may always be read', ['Disallow: /'], '/robots.txt', null],
    ['escapes that stand for plain letters', ['Disallow: /%61%2d'], '/a-', 2],
    ['escapes in small letters', ['Disallow: /%c3%a4'], '/%C3%A4', 2],
    ['letters that have to be escaped', ['Disallow: /äö/'], '/%C3%A4%C3%B6/', 2],
    ['escapes that stand for a sign with a meaning', ['Disallow: /a%2Fb'], '/a/b', null],
    ['what is no Unicode', ['Disallow: /\ud800'], '/%EF%BF%BD', 2],
  ])('%s', (_, rules, path, expected) => {
    expect(line(rules, path)).toBe(expected);
  });

  it('is looked for among a thousand rules with stars, and no more', () => {
    const many = (count: number) => Array.from({ length: count }, (_, at) => `Disallow: /x${String(at)}*y`);
    expect(line([...many(999), 'Disallow: /a*'], '/ab')).toBe(1_001);
    expect(line([...many(1_000), 'Disallow: /a*'], '/ab')).toBeNull();
  });
});

describe('for whom a group is', () => {
  const group = (text: string, agent: string | null) => {
    const { rule, group: name } = decidingRule(readRobots(text), agent, '/');
    return [name, rule?.line ?? null];
  };
  test.each<[string, string, string | null, [string, number | null]]>([
    ['by name, in any case', 'User-agent: VELDRANE\nDisallow: /', 'Veldrane', ['veldrane', 2]],
    ['by name, with blanks about', 'User-agent:   veldrane  \nDisallow: /', ' veldrane ', ['veldrane', 2]],
    [
      'by the name before a version',
      'User-agent: veldrane/1.0 (x)\nDisallow: /',
      'veldrane/2',
      ['veldrane', 2],
    ],
    ['not by a part of a name', 'User-agent: vel\nDisallow: /', 'veldrane', ['*', null]],
    ['not by what stands behind a number', 'User-agent: 1veldrane\nDisallow: /', 'veldrane', ['*', null]],
    ['everyone’s, with something behind the star', 'User-agent: *bot\nDisallow: /', null, ['*', 2]],
    ['everyone’s, where the star comes last', 'User-agent: bot*\nDisallow: /', 'other', ['*', null]],
    ['nobody’s, before any group', 'Disallow: /\nUser-agent: *\nAllow: /x', null, ['*', null]],
    [
      'nobody’s, behind an agent without a name',
      'User-agent: *\nAllow: /x\nUser-agent:\nDisallow: /',
      null,
      ['*', null],
    ],
    [
      'an agent behind rules begins anew',
      'User-agent: a\nDisallow: /x\nUser-agent: b\nDisallow: /',
      'a',
      ['a', null],
    ],
    [
      'an agent behind an empty rule begins anew',
      'User-agent: a\nDisallow:\nUser-agent: b\nDisallow: /',
      'a',
      ['a', null],
    ],
    [
      'another line between does not part them',
      'User-agent: a\nCrawl-delay: 3\nUser-agent: b\nDisallow: /',
      'a',
      ['a', 4],
    ],
    ['an agent that is named twice', 'User-agent: a\nUser-agent: a\nDisallow: /', 'a', ['a', 3]],
    ['a line that only holds a rule', 'User-agent: a\nplease Disallow: /', 'a', ['a', null]],
    ['a comment from its first sign', '#User-agent: a\nUser-agent: *\nDisallow: /', 'a', ['*', 3]],
    ['a mark that stands elsewhere', 'User-agent: \ufeffa\nDisallow: /', 'a', ['a', 2]],
  ])('%s', (_, text, agent, expected) => {
    expect(group(text, agent)).toEqual(expected);
  });

  it('a hundred agents share their rules, and no more', () => {
    const agent = (at: number) => `b${'x'.repeat(at + 1)}`;
    const text = `${Array.from({ length: 101 }, (_, at) => `User-agent: ${agent(at)}`).join('\n')}\nDisallow: /`;
    expect(group(text, agent(99))).toEqual([agent(99), 102]);
    expect(group(text, agent(100))).toEqual(['*', null]);
  });
});

it('sitemaps are named whole, each once, and what is no address is left out', () => {
  const seen = {
    url: 'https://quay.example/robots.txt',
    status: 200,
    text: 'Sitemap: /a.xml\nsitemap: https://quay.example/a.xml\nSitemap: http://[\nSitemap:\nSitemap: https://b.example/b.xml # b',
  };
  expect([...sitemapsNamedIn(seen)]).toEqual(['https://quay.example/a.xml', 'https://b.example/b.xml']);
  expect(sitemapsNamedIn(seen)).toBe(sitemapsNamedIn(seen));
  expect(robotsIn(seen)).toBe(robotsIn(seen));
  expect(robotsIn(seen).sitemaps.map((one) => one.line)).toEqual([1, 2, 3, 5]);
});

test.each<[string, string | null, string | null]>([
  ['noindex', null, 'noindex'],
  [' noindex ', null, 'noindex'],
  ['all, noindex', null, 'noindex'],
  ['veldrane: noindex', null, null],
  ['veldrane : noindex', 'veldrane', 'veldrane : noindex'],
  ['Veldrane: noindex, all', 'veldrane', 'Veldrane: noindex'],
  ['other: noindex, nofollow, none', 'veldrane', null],
  ['other: all, veldrane: none', 'veldrane', 'veldrane: none'],
  ['max-snippet: 10, noindex', null, 'noindex'],
  ['unavailable_after: 25 Jun 2027 15:00:00 GMT', null, null],
  ['see veldrane: noindex', null, 'see veldrane: noindex'],
  ['veldrane:\nnoindex', 'veldrane', 'veldrane:\nnoindex'],
  ['noindexed', null, null],
])('the header %j keeps %s out by %j', (header, agent, said) => {
  expect(stayAwayHeader(header, agent)).toBe(said);
});
