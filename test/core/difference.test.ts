import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { differencesOf } from '../../src/core/badge/token/difference.js';
import { type Difference } from '../../src/core/findings/differences.js';
import {
  ownerInWords,
  ownerOf,
  tokenWords,
  type KnownToken,
} from '../../src/core/badge/token/known-token.js';
import { textDifference } from '../../src/core/badge/token/text-difference.js';
import { surroundings } from '../../src/core/badge/probe/surroundings.js';
import { methodsFor, type EngineProfile } from '../../src/core/profile/profile.js';
import { readPasted } from '../../src/core/badge/token/pasted.js';
import { brindle, ostrime, sundrel, veldrane } from '../support/profiles.js';

const TOKEN = '84da61f31aa466b6b1022a45';
const RECORD = { whole: `veldrane-mooring=${TOKEN}`, token: TOKEN };
const BARE = { whole: TOKEN, token: TOKEN };

describe('what was changed on the way', () => {
  test.each<[string, string, typeof RECORD, readonly Difference[]]>([
    ['nothing', RECORD.whole, RECORD, []],
    ['something else altogether', 'v=spf1 include:mail.example -all', RECORD, []],
    ['the prefix alone', 'veldrane-mooring=', RECORD, []],
    ['straight quotes', `"${RECORD.whole}"`, RECORD, ['quotes']],
    ['curly quotes', `“${RECORD.whole}”`, RECORD, ['quotes']],
    ['angle quotes', `«${RECORD.whole}»`, RECORD, ['quotes']],
    ['a dash for the hyphen', RECORD.whole.replace('-', '–'), RECORD, ['dashes']],
    ['a soft hyphen', `${TOKEN.slice(0, 9)}\u00ad${TOKEN.slice(9)}`, BARE, ['invisible']],
    [
      'a zero-width space and capitals',
      `${TOKEN.slice(0, 9)}\u200b${TOKEN.slice(9).toUpperCase()}`,
      BARE,
      ['invisible', 'case'],
    ],
    [
      'a line folded by mail',
      `${TOKEN.slice(0, 9)}=\r\n${TOKEN.slice(9)}`.replace('=', ''),
      BARE,
      ['spaces'],
    ],
    ['strings with their quotes', `${TOKEN.slice(0, 9)}" "${TOKEN.slice(9)}`, BARE, ['split']],
    ['escaped', 'veldrane-mooring&#61;'.concat(TOKEN), RECORD, ['escaped']],
    ['by percent signs', RECORD.whole.replace('=', '%3D'), RECORD, ['escaped']],
    ['with a letter of another script', TOKEN.replace('a', 'а'), BARE, ['look-alike']],
    ['full-width digits', TOKEN.replace('8', '８'), BARE, ['look-alike']],
    ['the whole tag', `<meta name="veldrane-mooring" content="${TOKEN}">`, BARE, ['whole-tag']],
    ['the whole line', `quay.example. 300 IN TXT "${RECORD.whole}"`, RECORD, ['whole-line']],
    ['without the prefix', TOKEN, RECORD, ['prefix-missing']],
    ['without the sign of the prefix', `veldrane-mooring ${TOKEN}`, RECORD, ['prefix-missing']],
    ['with the prefix twice', `veldrane-mooring=${RECORD.whole}`, RECORD, ['prefix-doubled']],
    ['cut at its end', RECORD.whole.slice(0, -4), RECORD, ['cut']],
    ['cut, and said so', `${TOKEN.slice(0, 12)}…`, BARE, ['cut']],
    ['cut at its beginning', TOKEN.slice(3), BARE, ['cut']],
    ['in quotes, and cut', `"${TOKEN.slice(0, 20)}`, BARE, ['cut']],
    ['more than it', `${TOKEN}; do not delete`, BARE, ['extra']],
    ['two letters swapped', TOKEN.replace('84', '48'), BARE, ['typo']],
  ])('%s', (_, found, wanted, expected) => {
    expect(differencesOf(found, wanted)).toEqual(expected);
  });

  it('is nothing, for the token of another property', () => {
    expect(differencesOf('11223344556677889900aabb', BARE)).toEqual([]);
  });
});

/** What programs and people do to a value on its way, each by the name under which it has to be found. */
const MANGLINGS: Readonly<
  Record<string, { does: (text: string, at: number) => string; as: readonly Difference[] }>
> = {
  'curly quotes of a word processor': { does: (text) => `“${text}”`, as: ['quotes'] },
  'quotes typed into a panel': { does: (text) => `"${text}"`, as: ['quotes'] },
  'a soft hyphen of a web page': {
    does: (text, at) => `${text.slice(0, at)}\u00ad${text.slice(at)}`,
    as: ['invisible'],
  },
  'a zero-width space of a chat': {
    does: (text, at) => `${text.slice(0, at)}\u200b${text.slice(at)}`,
    as: ['invisible'],
  },
  'a line break of a mail': {
    does: (text, at) => `${text.slice(0, at)}\r\n${text.slice(at)}`,
    as: ['spaces'],
  },
  'spaces that do not break': { does: (text) => `\u00a0${text}\u00a0`, as: ['spaces'] },
  'capitals of a telephone': { does: (text) => text.charAt(0).toUpperCase() + text.slice(1), as: ['case'] },
  'strings of a panel': { does: (text, at) => `${text.slice(0, at)}" "${text.slice(at)}`, as: ['split'] },
  'a field that is too short': { does: (text) => text.slice(0, -3), as: ['cut'] },
  'a full stop of a sentence': { does: (text) => `${text}.`, as: ['extra', 'typo'] },
  'dashes of a word processor': {
    does: (text) => text.replace(/--/g, '—').replace(/-/g, '–'),
    as: ['dashes'],
  },
};

function tokensOf({ token: { shape } }: EngineProfile): fc.Arbitrary<string> {
  const signs = {
    hex: '0123456789abcdef',
    alphanumeric: 'abcdefghijkABCDEFGHIJK0123456789',
    base64url: 'abcdefghABCDEFGH0123456789-_',
  };
  const length = shape?.length ?? 24;
  const unit = fc.constantFrom(...signs[shape?.signs ?? 'hex']);
  return fc.string({ unit, minLength: length, maxLength: length });
}

describe.each([veldrane, ostrime, sundrel, brindle].map((profile) => [profile.title, profile] as const))(
  'a token of %s',
  (_, profile) => {
    test.each(Object.entries(MANGLINGS))('after %s is named for what it is', (_name, { does, as }) => {
      fc.assert(
        fc.property(tokensOf(profile), fc.integer({ min: 4, max: 12 }), (token, at) => {
          for (const wanted of [
            { whole: token, token },
            { whole: `some-prefix=${token}`, token },
          ]) {
            const found = does(wanted.whole, at);
            if (found === wanted.whole) continue;
            const [first] = differencesOf(found, wanted);
            expect(as).toContain(first);
          }
        }),
        { numRuns: 60 },
      );
    });

    it('is read out of what was pasted, whatever wrapped it', () => {
      const { meta, dns } = profile.methods;
      fc.assert(
        fc.property(tokensOf(profile), fc.constantFrom('“', '"', '', ' ', '\u200b'), (token, sign) => {
          if (meta) {
            const tag = `${sign}<meta name="${meta.name}" content="${meta.content.replace('{token}', token)}">${sign}`;
            const read = readPasted(profile, 'address', tag);
            // Quotes around a tag are text beside it; what matters is that the token comes out whole or not at all.
            if (read.kind === 'read') expect(read.token).toBe(token);
          }
          if (dns && methodsFor(profile, 'address').includes('dns')) {
            const line = `quay.example. IN TXT "${dns.value.replace('{token}', token)}"`;
            const read = readPasted(profile, 'address', line, 'dns');
            expect(read).toMatchObject({ kind: 'read', token });
          }
        }),
        { numRuns: 60 },
      );
    });
  },
);

describe('tokens that are known here', () => {
  const known = (more: Partial<KnownToken>): KnownToken => ({
    value: 'aa00bb11cc22dd33',
    method: 'meta',
    engine: 'sundrel',
    engineTitle: 'Sundrel',
    property: 'ferries',
    replacedAt: null,
    inUse: true,
    ...more,
  });
  const own = { engine: 'veldrane', property: 'ferries' };
  test.each([
    [known({}), 'Sundrel’s meta token for the same site'],
    [known({ property: 'clocks' }), 'Sundrel’s meta token for another site'],
    [
      known({ engine: 'veldrane', engineTitle: 'Veldrane', replacedAt: new Date('2026-05-03T09:00:00Z') }),
      'the token that Veldrane replaced on 2026-05-03',
    ],
    [
      known({ replacedAt: new Date('2026-05-03T09:00:00Z') }),
      'an old token of Sundrel for the same site, replaced on 2026-05-03',
    ],
  ])('%j: %s', (token, words) => {
    const owner = ownerOf(`sundrel-tally ${token.value}`, TOKEN, [token]);
    expect(owner && ownerInWords(owner, own)).toBe(words);
  });
  it('are this site’s own before they are any other’s of the same account', () => {
    const both = [known({ property: 'clocks' }), known({ property: 'ferries' })];
    const owner = ownerOf(`sundrel-tally ${known({}).value}`, TOKEN, both, own);
    expect(owner && ownerInWords(owner, own)).toBe('Sundrel’s meta token for the same site');
  });
  it('are looked for by the words of a text, not too many', () => {
    expect(tokenWords(['veldrane-mooring=abc123def', '<x>short</x>'])).toEqual([
      'veldrane-mooring',
      'abc123def',
    ]);
    expect(
      tokenWords([
        'x'.repeat(6).concat(' ').repeat(1),
        Array.from({ length: 900 }, (_, at) => `word-${String(at)}`).join(' '),
      ]).length,
    ).toBeLessThanOrEqual(200);
    expect(ownerOf(TOKEN, TOKEN, [known({ value: TOKEN })])).toBeNull();
  });
});

describe('side by side', () => {
  const shown = (should: string, stands: string) => {
    const marked = textDifference(should, stands);
    const text = (pieces: readonly { text: string; same: boolean }[]) =>
      pieces.map((piece) => (piece.same ? piece.text : `[${piece.text}]`)).join('');
    return [text(marked.should), text(marked.stands)];
  };
  test.each([
    ['abcdef', 'abcdef', 'abcdef', 'abcdef'],
    ['abcdef', 'abXdef', 'ab[c]def', 'ab[X]def'],
    ['abcdef', '"abcdef"', 'abcdef', '["]abcdef["]'],
    ['abcdef', 'abc', 'abc[def]', 'abc'],
    ['abcdef', '', '[abcdef]', ''],
    ['aaaa', 'aa', 'aa[aa]', 'aa'],
  ])('%s and %s', (should, stands, left, right) => {
    expect(shown(should, stands)).toEqual([left, right]);
  });
  it('loses no letter of either', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 30 }), fc.string({ maxLength: 30 }), (a, b) => {
        const marked = textDifference(a, b);
        expect(marked.should.map(({ text }) => text).join('')).toBe(a);
        expect(marked.stands.map(({ text }) => text).join('')).toBe(b);
      }),
    );
  });
});

describe('the surroundings of a find', () => {
  it('are its line and its neighbours, cut', () => {
    expect(surroundings('one\ntwo\nthree\nfour', 2, 1)?.lines.map(({ number }) => number)).toEqual([1, 2, 3]);
    const long = surroundings(`${'x'.repeat(5000)}<meta>${'y'.repeat(5000)}`, 1, 5001);
    expect(long?.lines[0]?.text).toMatch(/^…x+<meta>y+…$/);
    expect(long?.lines[0]?.text.length).toBeLessThan(200);
    expect(surroundings('one', 7, 1)).toBeNull();
  });
});
