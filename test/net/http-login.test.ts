import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { authorization, isStale, loginAsked, schemesIn } from '../../src/net/targets/http-login.js';

/** The example of RFC 7616 §3.9.1. */
const REALM = 'http-auth@example.org';
const NONCE = '7ypf/xlj9XXwfDPEoM4URrv/xwf94BcCAzFZH4GiTo0v';
const OPAQUE = 'FQhe/qaU925kfnzjCev0ciny7QMkPqMAFRtzCUYo5tdS';
const CLIENT = 'f2/wE4q74E6zIJEtWaHKaf5wv/H5QzzpXusqGemxURZJ';
const digest = (algorithm: string) =>
  `Digest realm="${REALM}", qop="auth, auth-int", algorithm=${algorithm}, nonce="${NONCE}", opaque="${OPAQUE}"`;
const signing = {
  user: 'Mufasa',
  secret: 'Circle of Life',
  method: 'GET',
  target: '/dir/index.html',
  count: 1,
};
const sign = (challenges: string[]) => {
  const login = loginAsked(challenges);
  return login && authorization(login, signing, CLIENT);
};

describe('a login over HTTP', () => {
  test.each([
    ['MD5', '8ca523f5e9506fed4657c9700eebdbec'],
    ['SHA-256', '753927fa0e85d155564e2e272a28d1802ca10daf4496794697cf8db5856cb6c1'],
  ])('is by Digest with %s as RFC 7616 has it', (algorithm, response) => {
    const signed = sign([digest(algorithm)]);
    expect(signed).toContain(`response="${response}"`);
    expect(signed).toContain(`opaque="${OPAQUE}"`);
    expect(signed).toContain('qop=auth, nc=00000001');
  });

  it('takes the best of several, whether in one header or in two', () => {
    for (const some of [
      [digest('MD5'), digest('SHA-256'), 'Basic realm="quay"'],
      [`Basic realm="quay, Digest", ${digest('MD5')}, ${digest('SHA-256')}`],
    ])
      expect(loginAsked(some)).toMatchObject({ scheme: 'digest', algorithm: 'SHA-256', realm: REALM });
    expect(loginAsked(['Negotiate', 'Basic realm="quay"'])).toEqual({ scheme: 'basic' });
  });

  it('is none where the server asks for what we do not know, which can be said by name', () => {
    expect(loginAsked(['Negotiate, NTLM'])).toBeNull();
    expect(schemesIn(['Negotiate, NTLM'])).toEqual(['negotiate', 'ntlm']);
    expect(loginAsked(['Digest realm="a", nonce="b", algorithm=MD5-sess'])).toBeNull();
    expect(loginAsked(['Digest realm="a", nonce="b", qop="auth-int"'])).toBeNull();
  });

  it('tells a nonce that is too old from a login that is wrong', () => {
    expect(isStale([`${digest('MD5')}, stale=true`])).toBe(true);
    expect(isStale([digest('MD5')])).toBe(false);
  });

  it('reads whatever a server may say', () => {
    fc.assert(fc.property(fc.array(fc.string({ unit: 'binary' })), (some) => void sign(some)));
  });
});
