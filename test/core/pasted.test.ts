import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { readPasted, readPastedPage, type Pasted } from '../../src/core/badge/token/pasted.js';
import { placementOf, zoneStrings } from '../../src/core/badge/placement.js';
import type { Method } from '../../src/core/profile/profile.js';
import { parseScope } from '../../src/core/address/reach.js';
import { brindle, house, ostrime, sundrel, veldrane } from '../support/profiles.js';

const T = 'a1B2c3D4e5F6g7H8i9J0';
const read = (text: string, method: Method | null = null) =>
  readPasted(brindle, 'address', text, method, [house, veldrane, ostrime, sundrel]);
const short = (pasted: Pasted) => (pasted.kind === 'read' ? `${pasted.method} ${pasted.token}` : pasted.says);

describe('what an engine shows, pasted', () => {
  test.each([
    ['a whole tag', `<meta name="brindle-plank" content="${T}">`, 'meta'],
    ['a tag in single quotes, closed', `<meta name='brindle-plank' content='${T}' />`, 'meta'],
    ['a tag without quotes, in capitals', `<META NAME=Brindle-Plank CONTENT=${T}>`, 'meta'],
    ['a tag in curly quotes', `<meta name=“brindle-plank” content=“${T}”>`, 'meta'],
    ['an escaped tag', `&lt;meta name=&quot;brindle-plank&quot; content=&quot;${T}&quot;&gt;`, 'meta'],
    ['a tag in a mail', `Please put\n  <meta name="brindle-plank" content="${T}">\ninto the head.`, 'meta'],
    ['a tag with property', `<meta property="brindle-plank" content="${T}">`, 'meta'],
    [
      'a tag among others',
      `<meta name="author" content="x"><meta name="brindle-plank" content="${T}">`,
      'meta',
    ],
    ['a file’s name', `brindle-${T}.html`, 'file'],
    ['a file’s address', `https://www.hallig.example/brindle-${T}.html?x=1`, 'file'],
    ['a file’s path', `/brindle-${T}.html`, 'file'],
    ['a file’s content', `brindle-plank: ${T}`, 'file'],
    ['a TXT value', `brindle-plank=${T}`, 'dns'],
    ['a quoted TXT value', `"brindle-plank=${T}"`, 'dns'],
    ['a TXT value in curly quotes', `“brindle-plank=${T}”`, 'dns'],
    ['a zone line', `hallig.example. 3600 IN TXT "brindle-plank=${T}"`, 'dns'],
    ['a zone line in two strings', `@ TXT ( "brindle-plank=" "${T}" )`, 'dns'],
    ['a value quoted twice', `"\\"brindle-plank=${T}\\""`, 'dns'],
    ['an escaped value', `brindle\\045plank=${T}`, 'dns'],
    ['an invisible sign inside', `brindle-plank=${T.slice(0, 5)}\u200b${T.slice(5)}`, 'dns'],
  ])('%s', (_, text, method) => {
    expect(short(read(text))).toBe(`${method} ${T}`);
  });

  test.each([
    ['nothing', ' \u00a0 ', 'Nothing was pasted'],
    ['a sentence', 'please see the attachment', 'none of what Brindle shows'],
    ['a bare value', T, undefined],
    [
      'another engine’s tag',
      '<meta name="veldrane-mooring" content="0123456789abcdef01234567">',
      'Veldrane’s token',
    ],
    ['another engine’s record', 'veldrane-mooring=0123456789abcdef01234567', 'Veldrane’s token'],
    ['a tag with nothing in it', '<meta name="brindle-plank" content="">', 'not of Brindle’s form'],
    ['a tag without a name', '<meta content="x">', 'named nothing'],
    [
      'a value cut short',
      `brindle-plank=${T.slice(0, 12)}`,
      'has 12 characters, Brindle’s tokens have 20: was it cut short',
    ],
    ['a value and more', `brindle-plank=${T}00`, 'was something more copied'],
    ['an ellipsis', `brindle-plank=${T.slice(0, 8)}…`, 'cut short where it was copied'],
    ['signs that it never has', `brindle-plank=${T.slice(0, 18)}-_`, 'letters and digits'],
  ])('%s is read or refused with the reason', (_, text, says) => {
    const pasted = read(text);
    if (says === undefined) expect(short(pasted)).toBe(`meta ${T}`);
    else expect(pasted).toMatchObject({ kind: 'unread', says: expect.stringContaining(says) as string });
  });

  it('asks for the method where a bare value would fit several', () => {
    const value = '0123456789abcdef0123456789abcdef';
    expect(short(readPasted(ostrime, 'address', value))).toContain('say by which method');
    expect(short(readPasted(ostrime, 'address', value, 'file'))).toBe(`file ${value}`);
    expect(short(readPasted(ostrime, 'address', `"${value}"`, 'dns'))).toBe(`dns ${value}`);
  });

  it('tells what was put right', () => {
    const pasted = read(`<meta property=“brindle-plank” content=“${T}”>`);
    expect(pasted.kind === 'read' && pasted.notes).toEqual([
      'Curly quotes were made straight.',
      'The tag said property= where name= is meant.',
    ]);
  });

  it('refuses a method that the engine does not take', () => {
    expect(short(readPasted(sundrel, 'address', 'x', 'dns'))).toContain('takes no proof by dns');
    expect(
      short(
        readPasted(veldrane, 'name', '<meta name="veldrane-mooring" content="0123456789abcdef01234567">'),
      ),
    ).toContain('which it does not take here');
  });

  it('reads back whatever we say is to be put, for every engine and method', () => {
    const target = parseScope('address', 'https://quay.example/');
    const token = {
      house: fc.stringMatching(/^[0-9a-z]{32}$/),
      veldrane: fc.stringMatching(/^[0-9a-f]{24}$/),
      brindle: fc.stringMatching(/^[0-9A-Za-z]{20}$/),
    };
    for (const profile of [house, veldrane, brindle]) {
      fc.assert(
        fc.property(
          token[profile.id as keyof typeof token],
          fc.constantFrom<Method>('meta', 'file', 'dns'),
          (value, method) => {
            const placement = placementOf(profile, target, method, value);
            const forms =
              placement?.method === 'meta'
                ? [placement.tag]
                : placement?.method === 'file'
                  ? [placement.content]
                  : placement
                    ? [placement.value, placement.zoneLine, zoneStrings(placement.value)]
                    : [];
            for (const form of forms)
              expect(short(readPasted(profile, 'address', form, method))).toBe(`${method} ${value}`);
          },
        ),
        { numRuns: 40 },
      );
    }
  });

  it('never throws, whatever is pasted', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300, unit: 'binary' }), (text) => {
        expect(['read', 'unread']).toContain(read(text).kind);
      }),
    );
  });
});

describe('the whole page of an engine, pasted', () => {
  const tag = `<meta name="brindle-plank" content="${T}">`;
  const methods = (text: string, profile = brindle) => {
    const page = readPastedPage(profile, 'address', text);
    return page.kind === 'read'
      ? page.tokens.map(({ method, token }) => `${method} ${token}`).sort()
      : page.says;
  };
  const ALL = [`dns ${T}`, `file ${T}`, `meta ${T}`];

  test.each([
    ['a line for each', `Tag\n${tag}\nFile\nbrindle-${T}.html\nRecord\nbrindle-plank=${T}`],
    [
      'sentences around them',
      `Put ${tag} into your page.\nOr upload brindle-${T}.html.\nOr add TXT "brindle-plank=${T}"`,
    ],
    ['all in one line', `Tag ${tag} or file brindle-${T}.html or record brindle-plank=${T} in the zone`],
    [
      'all in one line, escaped',
      `Tag ${tag.replace(/</g, '&lt;').replace(/>/g, '&gt;')} File brindle-${T}.html TXT brindle-plank=${T}`,
    ],
  ])('gives every method that it shows: %s', (_, text) => {
    expect(methods(text)).toEqual(ALL);
  });

  it('takes no word for a bare value, and not two tokens by one method', () => {
    expect(methods(`Welcome to Brindle\n${tag}\nabcdefghij0123456789`)).toEqual([`meta ${T}`]);
    expect(methods(`${tag}\n${tag.replace(T, 'b1B2c3D4e5F6g7H8i9J0')}`)).toMatch(/2 tokens by meta/u);
    expect(methods(`example.org. 3600 IN TXT "brindle-plank=${T.slice(0, 9)}" "${T.slice(9)}"`)).toEqual([
      `dns ${T}`,
    ]);
  });
});
