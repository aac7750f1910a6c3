import { describe, expect, it, test } from 'vitest';
import { parseScope, scopeText } from '../../src/core/address/reach.js';
import { parseAddress } from '../../src/core/address/web-address.js';
import type { Badge } from '../../src/core/badge/standing.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';
import { finding } from '../../src/core/findings/catalogue.js';
import { coverOf, type Covering } from '../../src/core/variants/cover.js';
import { sparingProofs } from '../../src/core/variants/proven-there.js';
import { followingOf, moveKinds, sayMove } from '../../src/core/variants/move.js';
import { planFor } from '../../src/core/variants/plan.js';
import type { Role, VariantRole } from '../../src/core/variants/roles.js';
import type { VariantWhy } from '../../src/core/variants/to-try.js';
import { veldrane } from '../support/profiles.js';

const DOOR = 'https://www.quay.example/';
const BARE = 'https://quay.example/';
const HTTP = 'http://quay.example/';
const role = (address: string, is: Role, why: VariantWhy = 'usual'): VariantRole => ({
  address,
  role: is,
  why,
});
const USUAL = [role(DOOR, 'front-door'), role(BARE, 'leads'), role(HTTP, 'leads')];
const TWO = [role(DOOR, 'front-door'), role(BARE, 'answers'), role(HTTP, 'dark')];
const at = (text: string, badge: Badge = 'held'): Covering => ({
  name: `quay@veldrane:${text.includes('/') ? 'address' : 'name'} ${text}`,
  target: text.includes('/') ? parseScope('address', text) : parseScope('name', text),
  badge,
});

describe('an address that only redirects since a move', () => {
  const variants = [role(DOOR, 'front-door'), { ...role(HTTP, 'leads'), since: '2026-11-30T10:00:00.000Z' }];
  const said = (badge: Badge, some = variants) =>
    coverOf('Veldrane', some, parseAddress(DOOR), [at(HTTP, badge)]).findings.find(
      ({ code }) => code === 'variants.enrolled-on-redirect',
    )?.remedy;

  it('keeps its badge for a year, and says until when and why', () => {
    expect(said('held')).toMatch(
      /as well\. Keep .* until 2027-11-30 at least: until then Veldrane still lists/u,
    );
    expect(said('held', [role(DOOR, 'front-door'), role(HTTP, 'leads')])).toContain(
      'for a year after the move',
    );
    expect(said('lost')).toMatch(/may be ended/u);
  });

  it('is not asked to redirect while something is proven there', () => {
    const same = finding('variants.same-page', { url: HTTP, door: DOOR });
    const there = (badge: Badge) => sparingProofs(same, [{ ...at(HTTP, badge), engine: 'Sundrel' }]).remedy;
    for (const badge of ['held', 'slipping', 'in-place'] as const)
      expect(there(badge)).toMatch(/^Please leave .* Sundrel looks there/u);
    for (const badge of ['bare', 'issued', 'lost'] as const)
      expect(there(badge)).toMatch(/redirect permanently/u);
    expect(sparingProofs(same, [{ ...at(DOOR), engine: 'Sundrel' }]).remedy).toMatch(/redirect permanently/u);
  });
});

describe('what enrolments cover', () => {
  test.each<[string, VariantRole[], Covering[], string[], string[], string[]]>([
    ['nothing enrolled: nothing is missed yet', USUAL, [], [], [], []],
    ['the front door held', USUAL, [at(DOOR)], [], [], []],
    ['the name held', TWO, [at('quay.example')], [], [], []],
    ['the name enrolled only', TWO, [at('quay.example', 'issued')], [], [], []],
    [
      'held on a variant that only leads',
      USUAL,
      [at(HTTP)],
      [DOOR],
      [DOOR],
      ['variants.held-misses', 'variants.enrolled-on-redirect'],
    ],
    [
      'enrolled there, not held',
      USUAL,
      [at(HTTP, 'issued')],
      [DOOR],
      [],
      ['variants.uncovered', 'variants.enrolled-on-redirect'],
    ],
    [
      'slipping counts as held',
      USUAL,
      [at(HTTP, 'slipping')],
      [DOOR],
      [DOOR],
      ['variants.held-misses', 'variants.enrolled-on-redirect'],
    ],
    ['lost does not', USUAL, [at(DOOR, 'lost')], [], [], []],
    ['one of two that answer', TWO, [at(DOOR)], [BARE], [BARE], ['variants.held-misses']],
    ['both of two that answer', TWO, [at(DOOR), at(BARE)], [], [], []],
    [
      'held at the name, enrolled at the door',
      USUAL,
      [at('quay.example'), at(DOOR, 'issued')],
      [],
      [],
      ['variants.overlap'],
    ],
    ['held at the door, the name only enrolled', USUAL, [at('quay.example', 'issued'), at(DOOR)], [], [], []],
    ['held at both', USUAL, [at('quay.example'), at(DOOR)], [], [], ['variants.overlap']],
    ['the same address twice, under two accounts', USUAL, [at(DOOR), at(DOOR)], [], [], ['variants.overlap']],
    [
      'in the dark',
      TWO,
      [at(HTTP, 'issued'), at(DOOR)],
      [BARE],
      [BARE],
      ['variants.held-misses', 'variants.enrolled-in-the-dark'],
    ],
    [
      'a folder below the door does not cover it',
      USUAL,
      [at(`${DOOR}shop/`)],
      [DOOR],
      [DOOR],
      ['variants.held-misses'],
    ],
    [
      'a host met in a redirect is not used',
      [...USUAL, role('https://login.quay.example/', 'answers', 'redirect')],
      [at(DOOR)],
      [],
      [],
      [],
    ],
    [
      'a host by hand is used',
      [...USUAL, role('https://shop.quay.example/', 'answers', 'by-hand')],
      [at(DOOR)],
      ['https://shop.quay.example/'],
      ['https://shop.quay.example/'],
      ['variants.held-misses'],
    ],
  ])('%s', (_, variants, enrolments, uncovered, missed, codes) => {
    const cover = coverOf('Veldrane', variants, parseAddress(DOOR), enrolments);
    expect(cover.uncovered).toEqual(uncovered);
    expect(cover.missed).toEqual(missed);
    expect(cover.findings.map(({ code }) => code)).toEqual(codes);
    for (const { says, remedy } of cover.findings) expect(says + remedy).not.toMatch(/\{\w+\}/);
  });
  it('tells which enrolments are over each variant', () => {
    const { over } = coverOf('Veldrane', USUAL, parseAddress(DOOR), [at('quay.example'), at(DOOR)]);
    expect([...over].map(([url, by]) => [url, by.length])).toEqual([
      [DOOR, 2],
      [BARE, 1],
      [HTTP, 1],
    ]);
  });
});

describe('the registration plan', () => {
  const addressOnly: EngineProfile = { ...veldrane, reaches: ['address'] };
  const nameOnly: EngineProfile = { ...veldrane, reaches: ['name'] };
  const house: EngineProfile = { ...addressOnly, worked: { how: 'house' } };
  const folder = 'https://hosting.example/clocks/';
  const shops = [...USUAL, role('https://shop.quay.example/', 'answers', 'by-hand')];
  test.each<[string, EngineProfile, VariantRole[], 'yes' | 'no' | undefined, Covering[], string[], string?]>([
    ['one address where it is enough', veldrane, USUAL, undefined, [], [DOOR]],
    ['a name where the zone is at hand', veldrane, USUAL, 'yes', [], ['quay.example']],
    ['a name over two that answer', veldrane, TWO, undefined, [], ['quay.example']],
    ['two addresses where the zone is out of reach', veldrane, TWO, 'no', [], [DOOR, BARE]],
    ['two addresses where the engine has no names', addressOnly, TWO, 'yes', [], [DOOR, BARE]],
    ['the house wants the front door alone', house, TWO, undefined, [], [DOOR]],
    ['a name where the engine has nothing else', nameOnly, USUAL, undefined, [], ['quay.example']],
    ['nothing where a name is all, and the zone out of reach', nameOnly, USUAL, 'no', [], []],
    ['what is there stays', veldrane, USUAL, 'yes', [at(DOOR)], ['there: https://www.quay.example/']],
    [
      'what is there stays, and the rest is added',
      addressOnly,
      TWO,
      undefined,
      [at(DOOR)],
      ['there: https://www.quay.example/', BARE],
    ],
    ['an enrolment on a redirect is no part of it', veldrane, USUAL, undefined, [at(HTTP)], [DOOR]],
    ['the domain over a host beside it', veldrane, shops, undefined, [], ['quay.example']],
    ['an address for a folder', veldrane, [role(folder, 'front-door')], 'yes', [], [folder], folder],
    ['nothing for a folder by name', nameOnly, [role(folder, 'front-door')], 'yes', [], [], folder],
  ])('%s', (_, profile, variants, zone, enrolments, targets, door = DOOR) => {
    const plan = planFor(profile, { door: parseAddress(door), variants, zone }, enrolments);
    expect(plan.map(({ target, there }) => (there === null ? '' : 'there: ') + scopeText(target))).toEqual(
      targets,
    );
    for (const { why } of plan) expect(why).toMatch(/^[A-Z].*\.$/u);
  });
});

describe('a move of the front door', () => {
  test.each([
    [HTTP, BARE, ['to-https']],
    [BARE, HTTP, ['to-http']],
    [HTTP, DOOR, ['to-https', 'to-www']],
    [DOOR, BARE, ['to-bare']],
    [BARE, 'https://shop.quay.example/', ['new-host']],
    [BARE, 'https://harbour.example/', ['new-domain']],
    ['https://a.example/x/', 'https://a.example/y/', ['new-path']],
    [BARE, BARE, []],
  ])('from %s to %s: %j', (from, to, kinds) => {
    expect(moveKinds(parseAddress(from), parseAddress(to))).toEqual(kinds);
  });
  it('is told in words', () => {
    expect(sayMove(parseAddress(HTTP), parseAddress(DOOR))).toBe(
      'The front door moved from http://quay.example/ to https://www.quay.example/ (http to https, the bare name to www).',
    );
  });
  const following = (enrolments: Covering[], submitted: string[] = []) =>
    followingOf(parseAddress(DOOR), {
      engine: 'Veldrane',
      enrolments: enrolments.map((one) => ({ ...one, methods: ['meta' as const] })),
      takesSitemaps: true,
      submitted,
    }).map(({ kind, done }) => (done ? `${kind} done` : kind));
  it('brings work at engines that know the site, until it is done', () => {
    expect(following([])).toEqual([]);
    expect(following([at(HTTP)], [`${HTTP}sitemap.xml`])).toEqual(['enrol', 'prove', 'submit']);
    expect(following([at(HTTP), at(DOOR, 'issued')])).toEqual(['enrol done', 'prove', 'submit']);
    expect(following([at(HTTP), at(DOOR)], [`${DOOR}sitemap.xml`])).toEqual([
      'enrol done',
      'prove done',
      'submit done',
    ]);
    expect(following([at('quay.example')])).toEqual(['enrol done', 'prove done', 'submit']);
  });
});
