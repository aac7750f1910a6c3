import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { addressText } from '../../src/core/address/web-address.js';
import { fingerprint, isSameThing, wordsOf } from '../../src/core/variants/fingerprint.js';
import { ROLES, type Role } from '../../src/core/variants/roles.js';
import { judgeScene, page, to, type Answer, type Scene } from '../support/web.js';
import { ROWS } from './variant-scenes.js';
import { VARIANTS } from '../../src/core/findings/rows/variants.js';

async function judged(scene: Scene) {
  const { door, variants, findings } = await judgeScene(scene);
  return {
    door:
      door.kind === 'found'
        ? addressText(door.address)
        : door.kind === 'elsewhere'
          ? `elsewhere ${door.url}`
          : 'dark',
    roles: Object.fromEntries(variants.map(({ address, role }) => [address, role])),
    findings,
    codes: findings
      .filter(({ grade }) => grade !== 'note')
      .map(({ code }) => code)
      .sort(),
    notes: findings.filter(({ grade }) => grade === 'note').map(({ code }) => code),
  };
}

describe('observations of variants', () => {
  test.each(Object.entries(ROWS))('%s', async (_, { scene, door, roles = {}, finds, notes = [] }) => {
    const seen = await judged(scene);
    expect(seen.door).toBe(door);
    expect(seen.roles).toMatchObject(roles);
    if (finds) expect(seen.codes).toEqual([...finds].sort());
    for (const note of notes) expect(seen.notes).toContain(note);
  });
  test('are sixty at least, and leave out no role', () => {
    const rows = Object.values(ROWS);
    expect(rows.length).toBeGreaterThanOrEqual(60);
    const roles = new Set<Role>(rows.flatMap((row) => Object.values(row.roles ?? {})));
    expect([...roles].sort()).toEqual([...ROLES].sort());
  });
  test('every finding of theirs is in some row', () => {
    const told = new Set(Object.values(ROWS).flatMap(({ finds = [], notes = [] }) => [...finds, ...notes]));
    // What folders, hosts by hand and enrolments bring stands below and with the cover.
    const others = /slash|place-of-its-own|held-misses|uncovered|enrolled|overlap/;
    for (const code of Object.keys(VARIANTS)) if (!others.test(code)) expect(told).toContain(code);
  });
  it('fills every sentence', async () => {
    for (const { scene } of Object.values(ROWS))
      for (const { says, remedy, grade } of (await judged(scene)).findings) {
        expect(says + remedy).not.toMatch(/\{\w+\}/);
        if (grade === 'note') expect(remedy).toBe('');
        else expect(remedy).toMatch(/^Please .*\.$/su);
      }
  });
});

const HOME = page('Pendulums mended and chimes tuned by the old pier since long ago');

describe('a property in a folder of a shared host', () => {
  const door = 'https://hosting.example/clocks/';
  const web = (more: Record<string, Answer> = {}) => ({
    [door]: HOME,
    'http://hosting.example/clocks/': to(door),
    'https://www.hosting.example/clocks/': to(door),
    'http://www.hosting.example/clocks/': to(door),
    'https://hosting.example/clocks': to(door),
    ...more,
  });
  test.each<[string, Record<string, Answer>, Record<string, Role>, string[]]>([
    ['is in order', {}, { [door]: 'front-door' }, []],
    [
      'the folder is lost on the way',
      {
        'http://hosting.example/clocks/': to('https://hosting.example/'),
        'https://hosting.example/': page('Pages for everyone'),
      },
      { 'http://hosting.example/clocks/': 'elsewhere' },
      ['variants.leads-elsewhere'],
    ],
    [
      'nothing without the slash',
      { 'https://hosting.example/clocks': { status: 404 } },
      {},
      ['variants.slash-lost'],
    ],
    [
      'another page without the slash',
      { 'https://hosting.example/clocks': page('Not here') },
      {},
      ['variants.slash-differs'],
    ],
    [
      'the same page without the slash',
      { 'https://hosting.example/clocks': HOME },
      {},
      ['variants.spelt-twice'],
    ],
    [
      'the same page with other capitals',
      { 'https://hosting.example/Clocks/': HOME },
      {},
      ['variants.spelt-twice'],
    ],
    [
      'the same page as an index file',
      { 'https://hosting.example/clocks/index.html': HOME },
      {},
      ['variants.spelt-twice'],
    ],
    [
      'a canonical link to the neighbour',
      { [door]: page('Pendulums', '<link rel=canonical href="/buttons/">') },
      {},
      ['variants.canonical-elsewhere'],
    ],
  ])('%s', async (_, more, roles, codes) => {
    const seen = await judged({ takenOn: door, web: web(more) });
    expect(seen.door).toBe(door);
    expect(seen.roles).toMatchObject(roles);
    expect(seen.codes).toEqual(codes);
  });
  it('is kept out by a robots.txt for its folder, not for another', async () => {
    const robots = (folder: string) => ({
      url: 'https://hosting.example/robots.txt',
      status: 200,
      text: `User-agent: *\nDisallow: ${folder}`,
    });
    expect((await judged({ takenOn: door, web: web(), robots: robots('/clocks') })).codes).toEqual([
      'reach.keeps-out-robots',
    ]);
    expect((await judged({ takenOn: door, web: web(), robots: robots('/buttons/') })).codes).toEqual([]);
  });
});

describe('an international name', () => {
  const door = 'https://xn--hallig-smerei-lcb.example/';
  const host = new URL('https://hallig-sämerei.example/').host;
  it('is compared in its ASCII form and told in its own', async () => {
    expect(door).toContain('xn--');
    const own = `https://${host}/`;
    const seen = await judged({
      takenOn: own,
      web: {
        [own]: page('Salzwiesensaat', '<link rel=canonical href="https://hallig-sämerei.example/">'),
        [`http://${host}/`]: to(own),
        [`https://www.${host}/`]: page('Strandroggen'),
        [`http://www.${host}/`]: to('https://www.hallig-sämerei.example/'),
      },
    });
    expect(seen.door).toBe(own);
    expect(seen.codes).toEqual(['variants.leads-elsewhere', 'variants.other-page']);
  });
});

describe('a name with ten subdomains', () => {
  const hosts = Array.from({ length: 10 }, (_, at) => ({
    host: `shop-${String(at)}.quay.example`,
    why: 'by-hand' as const,
  }));
  it('has a role for every host under both schemes', async () => {
    const web: Record<string, Answer> = {
      'https://quay.example/': HOME,
      'http://quay.example/': to('https://quay.example/'),
      'https://www.quay.example/': to('https://quay.example/'),
      'http://www.quay.example/': to('https://quay.example/'),
    };
    hosts.forEach(({ host }, at) => {
      web[`https://${host}/`] =
        at < 4
          ? page(`Shop number ${String(at)} sells other things than its neighbours do`)
          : at < 8
            ? to('https://quay.example/')
            : { fails: 'refused' };
      web[`http://${host}/`] = to(`https://${host}/`);
    });
    const { roles, codes, notes } = await judged({ hosts, web });
    const count = (role: Role) => Object.values(roles).filter((one) => one === role).length;
    expect(Object.keys(roles)).toHaveLength(24);
    expect([
      count('front-door'),
      count('answers'),
      count('leads'),
      count('elsewhere'),
      count('dark'),
    ]).toEqual([1, 4, 11, 4, 4]);
    expect(notes.filter((code) => code === 'variants.place-of-its-own')).toHaveLength(4);
    expect(codes.filter((code) => code === 'variants.dark')).toHaveLength(4);
  });
});

describe('a fingerprint', () => {
  const word = fc.string({ unit: fc.constantFrom(...'abcdefgh'), minLength: 3, maxLength: 8 });
  const text = fc.uniqueArray(word, { minLength: 150, maxLength: 220 });
  it('is the same for the same words, and alike with one word changed', () => {
    fc.assert(
      fc.property(text, fc.nat(149), (words, at) => {
        const changed = words.with(at, 'changed');
        expect(isSameThing(fingerprint(words), fingerprint([...words]))).toBe(true);
        expect(isSameThing(fingerprint(words), fingerprint(changed))).toBe(true);
      }),
      { numRuns: 60, seed: 20261125 },
    );
  });
  it('differs for other words, and nothing is like an empty page', () => {
    fc.assert(
      fc.property(text, text, (a, b) => {
        fc.pre(a.filter((word) => b.includes(word)).length < a.length / 3);
        expect(isSameThing(fingerprint(a), fingerprint(b))).toBe(false);
      }),
      { numRuns: 60, seed: 20261125 },
    );
    expect(isSameThing(fingerprint([]), fingerprint([]))).toBe(false);
  });
  it('sees words in any script', () => {
    expect(wordsOf('Möwen-Fang, 潮 2 und mehr', 4)).toEqual(['möwen', 'fang', '潮', '2']);
  });
});
