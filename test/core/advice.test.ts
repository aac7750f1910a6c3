import { describe, expect, it, test } from 'vitest';
import { adviseMethods, unknownAccess, type Access, type SiteTraits } from '../../src/core/badge/advice.js';
import { siteTraits } from '../../src/core/badge/probe/site-traits.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';
import { hop, page } from '../support/evidence.js';
import { sundrel, veldrane } from '../support/profiles.js';

const PLAIN: SiteTraits = { generator: null, cached: false, answersAnything: false };

describe('which method to have placed', () => {
  test.each<[string, EngineProfile, 'name' | 'address', Access, SiteTraits | null, string]>([
    ['nobody said anything', veldrane, 'address', {}, null, 'best dns, works file, works meta'],
    ['a name', veldrane, 'name', {}, null, 'best dns, cannot meta, cannot file'],
    ['no zone', veldrane, 'address', { zone: 'no' }, PLAIN, 'best file, works meta, cannot dns'],
    [
      'pages and nothing else',
      veldrane,
      'address',
      { pages: 'yes', zone: 'no', files: 'no' },
      PLAIN,
      'best meta, cannot file, cannot dns',
    ],
    [
      'pages rather than the rest',
      veldrane,
      'address',
      { pages: 'yes' },
      PLAIN,
      'best meta, works dns, works file',
    ],
    [
      'pages, but a cache before them',
      veldrane,
      'address',
      { pages: 'yes' },
      { ...PLAIN, cached: true },
      'best dns, works meta, works file',
    ],
    [
      'files, at a site that answers anything',
      veldrane,
      'address',
      { zone: 'no' },
      { ...PLAIN, answersAnything: true },
      'best meta, works file, cannot dns',
    ],
    ['an engine without dns', sundrel, 'address', {}, PLAIN, 'best file, works meta, cannot dns'],
    [
      'nothing can be got at',
      sundrel,
      'address',
      { pages: 'no', files: 'no' },
      PLAIN,
      'cannot meta, cannot file, cannot dns',
    ],
  ])('%s', (_, profile, reach, access, seen, expected) => {
    const advice = adviseMethods(profile, reach, access, seen);
    expect(advice.map(({ rank, method }) => `${rank} ${method}`).join(', ')).toBe(expected);
    for (const { later, rank, why } of advice) {
      expect(later).toMatch(/\.$/);
      if (rank === 'cannot') expect(why).toHaveLength(1);
    }
  });

  it('says why, in words about this site', () => {
    const [, file, meta] = adviseMethods(
      veldrane,
      'address',
      {},
      { generator: 'Mooring 3', cached: true, answersAnything: true },
    );
    expect(meta?.why.concat(file?.why ?? []).join(' ')).toContain('A cache stands before the site');
    expect(file?.why.concat(meta?.why ?? []).join(' ')).toContain('The site answers 200 for any file');
  });

  test.each<[Access, string]>([
    [{}, 'pages files zone'],
    [{ zone: 'no', files: 'yes' }, 'pages'],
    [{ zone: 'no', files: 'yes', pages: 'yes' }, ''],
  ])('asks for what nobody has said: %j', (access, asked) => {
    expect(unknownAccess(veldrane, 'address', access).join(' ')).toBe(asked);
  });
});

describe('what a look at the front page tells', () => {
  const made = page('gone', {}, [hop({ status: 404 })]);
  test.each([
    ['a plain page', page('<title>Quay</title>'), made, PLAIN],
    [
      'what made it',
      page('<meta name="Generator" content="Mooring 3">'),
      made,
      { ...PLAIN, generator: 'Mooring 3' },
    ],
    [
      'a copy',
      page('<title>Quay</title>', {}, [hop({ headers: { age: '3' } })]),
      made,
      { ...PLAIN, cached: true },
    ],
    [
      'a site that answers anything',
      page('<title>Quay</title>'),
      page('<title>Quay</title>'),
      { ...PLAIN, answersAnything: true },
    ],
    ['an error', page('oops', {}, [hop({ status: 500 })]), made, null],
    ['nothing', page(null, { end: 'failed' }, [hop({ status: null, failure: 'refused' })]), made, null],
  ])('%s', (_, front, madeUp, expected) => {
    expect(siteTraits(front, madeUp)).toEqual(expected);
  });
});
