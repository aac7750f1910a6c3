import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import {
  heldBack,
  planAt,
  putBackOf,
  type PublishAct,
  type PublishStep,
} from '../../src/core/publish/plan.js';
import { requireBelow, temporaryName } from '../../src/net/targets/file-target.js';

const wanted = (name: string, sum: string) => ({ name, why: 'the token of Veldrane', sum });
const acts = (given: Partial<Parameters<typeof planAt>[0]>): PublishAct[] =>
  planAt({ wanted: [], standing: [], carried: [], isMany: false, ...given }).map(({ act }) => act);

describe('what has to be done at a place', () => {
  test.each<[string, Partial<Parameters<typeof planAt>[0]>, PublishAct[]]>([
    ['nothing stands there', { wanted: [wanted('/a', '1')] }, ['put']],
    ['it stands there', { wanted: [wanted('/a', '1')], standing: [{ name: '/a', sums: ['1'] }] }, ['leave']],
    [
      'something of a stranger stands there',
      { wanted: [wanted('/a', '1')], standing: [{ name: '/a', sums: ['2'] }] },
      ['refuse'],
    ],
    [
      'ours from before stands there',
      {
        wanted: [wanted('/a', '1')],
        standing: [{ name: '/a', sums: ['2'] }],
        carried: [{ name: '/a', sum: '2' }],
      },
      ['replace'],
    ],
    [
      'ours was changed by a stranger',
      {
        wanted: [wanted('/a', '1')],
        standing: [{ name: '/a', sums: ['3'] }],
        carried: [{ name: '/a', sum: '2' }],
      },
      ['refuse'],
    ],
    [
      'records stand beside one another',
      { wanted: [wanted('a', '1')], standing: [{ name: 'a', sums: ['2'] }], isMany: true },
      ['put'],
    ],
    [
      'a host hangs on a wildcard there',
      { wanted: [{ ...wanted('_v.red', '1'), unhostsOf: 'red' }], isMany: true },
      ['refuse'],
    ],
    [
      'a host hung on a wildcard, and the name is there since',
      {
        wanted: [{ ...wanted('_v.red', '1'), unhostsOf: 'red' }],
        standing: [{ name: '_v.red', sums: ['2'] }],
        isMany: true,
      },
      ['put'],
    ],
    [
      'nobody needs it any more',
      { standing: [{ name: '/a', sums: ['1'] }], carried: [{ name: '/a', sum: '1' }] },
      ['take-away'],
    ],
    ['nor is it there', { carried: [{ name: '/a', sum: '1' }] }, []],
    [
      'it was changed by a stranger since',
      { standing: [{ name: '/a', sums: ['2'] }], carried: [{ name: '/a', sum: '1' }] },
      [],
    ],
    [
      'an old record of ours beside the new',
      {
        wanted: [wanted('a', '2')],
        standing: [{ name: 'a', sums: ['1', '2'] }],
        carried: [{ name: 'a', sum: '1' }],
        isMany: true,
      },
      ['leave', 'take-away'],
    ],
    [
      'an old record of ours, by which somebody still holds',
      {
        wanted: [wanted('a', '2')],
        standing: [{ name: 'a', sums: ['1', '2'] }],
        carried: [{ name: 'a', sum: '1' }],
        holding: [{ name: 'a', sum: '1' }],
        isMany: true,
      },
      ['leave', 'leave'],
    ],
    [
      'a file of ours from before, by which the engine still goes',
      {
        wanted: [wanted('/a', '1')],
        standing: [{ name: '/a', sums: ['2'] }],
        carried: [{ name: '/a', sum: '2' }],
        holding: [{ name: '/a', sum: '2' }],
      },
      ['refuse'],
    ],
    [
      'another’s record, where one counts only alone',
      {
        wanted: [{ ...wanted('a', '1'), isAlone: true }],
        standing: [{ name: 'a', sums: ['2'] }],
        isMany: true,
      },
      ['refuse'],
    ],
  ])('%s', (_, given, expected) => {
    expect(acts(given)).toEqual(expected);
  });

  it('never touches what we did not carry, whatever stands there', () => {
    const one = fc.record({ name: fc.constantFrom('/a', '/b', '/c'), sum: fc.constantFrom('1', '2', '3') });
    fc.assert(
      fc.property(fc.array(one), fc.array(one), fc.array(one), (want, there, ours) => {
        const standing = there.map(({ name, sum }) => ({ name, sums: [sum] }));
        const last = new Map(standing.map((each) => [each.name, each.sums[0] ?? '']));
        for (const step of planAt({
          wanted: want.map(({ name, sum }) => wanted(name, sum)),
          standing,
          carried: ours,
          isMany: false,
        })) {
          if (step.act !== 'replace' && step.act !== 'take-away') continue;
          expect(ours.some(({ name, sum }) => name === step.name && sum === last.get(name))).toBe(true);
        }
      }),
    );
  });
});

describe('what is put back without a person', () => {
  it('is what we carried as it is wanted now, and nothing else', () => {
    const steps = planAt({
      wanted: [wanted('/a', '1'), wanted('/new', '1'), wanted('/renewed', '2')],
      standing: [],
      carried: [
        { name: '/a', sum: '1' },
        { name: '/renewed', sum: '1' },
      ],
      isMany: false,
    });
    const carried = [
      { name: '/a', sum: '1' },
      { name: '/renewed', sum: '1' },
    ];
    expect(putBackOf(steps, carried).map(({ name }) => name)).toEqual(['/a']);
  });
});

describe('paths', () => {
  test.each(['/a', '/.well-known/a.txt', '/a b/ü'])('%s is below the root', (path) => {
    expect(requireBelow(path)).toBe(path);
  });
  test.each(['a', '/', '/../a', '/a/../../b', '/a//b', '/a\0b', '/a\\b', '/./a'])('%j is not', (path) => {
    expect(() => requireBelow(path)).toThrow();
  });
  it('are hidden while they are written', () => {
    expect(temporaryName('/a/b.txt', 'f00')).toBe('/a/.b.txt.f00.part');
  });
});

describe('a made sitemap in several files', () => {
  const file = (name: string, made: 'part' | 'index') => ({ ...wanted(name, 'new'), made });
  const steps = planAt({
    wanted: [file('/sitemap-1.xml', 'part'), file('/sitemap-2.xml', 'part'), file('/sitemap.xml', 'index')],
    standing: [
      { name: '/sitemap.xml', sums: ['old'] },
      { name: '/sitemap-3.xml', sums: ['old'] },
    ],
    carried: [
      { name: '/sitemap.xml', sum: 'old' },
      { name: '/sitemap-3.xml', sum: 'old' },
    ],
    isMany: false,
  });
  const held = (all: readonly PublishStep[], failed: readonly string[]) => {
    const names = new Set(all.filter(({ name }) => failed.includes(name)));
    return all.filter((one) => heldBack(one, all, names) !== null).map(({ name }) => name);
  };

  it('is put whole, and then what it names no longer may go', () => {
    expect(steps.map(({ act }) => act)).toEqual(['put', 'put', 'replace', 'take-away']);
    expect(held(steps, [])).toEqual([]);
  });

  it('keeps its index, and all that this names, where one of its files could not be put', () => {
    expect(held(steps, ['/sitemap-2.xml'])).toEqual(['/sitemap.xml', '/sitemap-3.xml']);
    const refused = steps.map((one) =>
      one.name === '/sitemap-1.xml' ? { ...one, act: 'refuse' as const } : one,
    );
    expect(held(refused, [])).toEqual(['/sitemap.xml', '/sitemap-3.xml']);
  });

  it('keeps what the index that stands there names, where the new one could not be put', () => {
    expect(held(steps, ['/sitemap.xml'])).toEqual(['/sitemap-3.xml']);
  });
});
