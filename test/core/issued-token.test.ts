import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { placementOf } from '../../src/core/badge/placement.js';
import { issuedFault } from '../../src/core/badge/token/shape.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';
import { veldrane } from '../support/profiles.js';

const GOOD = '84da61f31aa466b6b1022a45';
const shapeless: EngineProfile = { ...veldrane, token: { per: veldrane.token.per } };
const ODD = [
  '/../robots.txt#\r\nUser-agent: *',
  '../../index.html',
  '..%2f.htaccess',
  'a/b/c/d/e',
  '"><script src=//x></script>',
  'two words of it',
  'line\nbreak',
  '\u202ereversed',
  'nul\u0000byte',
  '....',
  '~~~~',
  'quote\'d"',
  'back\\slash',
  'äöüß',
  'abc',
  'x'.repeat(501),
];

describe('a token that an engine issued', () => {
  it('is taken as the profile says it looks', () => {
    expect(issuedFault(veldrane, 'file', GOOD)).toBeNull();
    expect(issuedFault(veldrane, 'file', `${GOOD}0`)).toContain('tokens have 24');
    expect(issuedFault(veldrane, 'meta', GOOD.toUpperCase())).toContain('is not Veldrane’s token');
  });

  it('is plain, where the profile does not say how it looks', () => {
    for (const token of [GOOD, 'aB3-_~.:=+x', 'c2VhbGVkIGJ5IHRoZSBzZWE='])
      expect([token, issuedFault(shapeless, 'file', token)]).toEqual([token, null]);
    expect(issuedFault(shapeless, 'meta', 'c2Vh/bGVk+IGJ5=')).toBeNull();
  });

  test.each(ODD)('is none that says more than that: %j', (token) => {
    expect(issuedFault(veldrane, 'file', token)).not.toBeNull();
    expect(issuedFault(shapeless, 'file', token)).not.toBeNull();
  });

  test.each(ODD.filter((one) => /[/\\#%\s]|\.\./u.test(one)))(
    'makes no file anywhere else, whoever recorded it: %j',
    (token) => {
      const target = parseScope('address', 'https://quay.example/');
      expect(placementOf(veldrane, target, 'file', token)).toBeNull();
    },
  );
});
