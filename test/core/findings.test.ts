import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { forecastFrom } from '../../src/core/badge/judge/judge.js';
import { readPage } from '../../src/core/badge/probe/page-tags.js';
import { finding, isOpen, type FindingCode } from '../../src/core/findings/catalogue.js';
import { excerpt } from '../../src/core/findings/excerpt.js';
import { fillSentence } from '../../src/core/findings/finding.js';

describe('the forecast, from findings', () => {
  const found = (...codes: FindingCode[]) => forecastFrom(codes.map((code) => finding(code)));
  test.each([
    [[], 'accept'],
    [['meta.stands'], 'accept'],
    [['meta.stands', 'meta.repeated'], 'accept'],
    [['reach.downgrade', 'meta.stands'], 'accept'],
    [['meta.absent'], 'refuse'],
    [['reach.timed-out'], 'unsure'],
    [['reach.bot-wall', 'dns.remembered'], 'unsure'],
    [['reach.timed-out', 'reach.off-domain'], 'refuse'],
  ] as const)('%j: %s', (codes, forecast) => {
    expect(found(...codes)).toBe(forecast);
  });
  it('knows which findings leave it open', () => {
    const open = (code: string, again = false) => isOpen({ code, evidence: { again } });
    expect([open('reach.timed-out'), open('meta.absent'), open('no.such')]).toEqual([true, false, false]);
    expect(open('reach.timed-out', true)).toBe(false);
  });
});

describe('sentences', () => {
  it('are filled, and an unknown name stays to be seen', () => {
    expect(fillSentence('{a} and {b} and {c}', { a: 'one', b: 2, c: null })).toBe('one and 2 and {c}');
  });
  it('do not fill what a value brings in', () => {
    expect(fillSentence('{a}', { a: '{b}', b: 'x' })).toBe('{b}');
  });
  it('show foreign text without control characters, and bounded', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        const shown = excerpt(text, 50);
        expect([...shown].length).toBeLessThanOrEqual(51);
        expect(shown).not.toMatch(/\p{C}/u);
      }),
    );
  });
});

describe('the tags of a page, by the HTML standard’s tree building', () => {
  const tags = (text: string) =>
    readPage(text, []).tags.flatMap(({ name, where, line }) =>
      where === 'template' ? [] : [[name, where === 'head', line]],
    );
  test.each([
    ['<meta name=a>', [['a', true, 1]]],
    ['<head>\n<META NAME="A" content=x>', [['A', true, 2]]],
    ['<title>x</title><p><meta name=a>', [['a', false, 1]]],
    ['<head><img src=x><meta name=a></head>', [['a', false, 1]]],
    ['<head><noscript><meta name=a></noscript></head>', []],
    ['<head><template><meta name=a></template></head>', []],
    ['<head><style><meta name=a></style></head>', []],
    ['<head></head><meta name=a><body>', [['a', true, 1]]],
    ['&lt;meta name=a&gt;', []],
    ['<svg><meta name=a></svg>', [['a', false, 1]]],
    ['<frameset><frame src=x></frameset>', []],
  ])('%s', (text, expected) => {
    expect(tags(text)).toEqual(expected);
  });
});
