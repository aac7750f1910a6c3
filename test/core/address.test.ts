import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { readPaste } from '../../src/core/address/paste.js';
import { covers, nameFor, parseScope } from '../../src/core/address/reach.js';
import { addressForPeople, addressText, parseAddress } from '../../src/core/address/web-address.js';

describe('reading a pasted address', () => {
  test.each([
    ['Saltmarsh-Ferries.example', 'https://saltmarsh-ferries.example/'],
    ['https://www.saltmarsh-ferries.example/', 'https://www.saltmarsh-ferries.example/'],
    ['HTTP://WWW.Saltmarsh-Ferries.EXAMPLE', 'http://www.saltmarsh-ferries.example/'],
    ['  <https://tidewell-clocks.example/>. ', 'https://tidewell-clocks.example/'],
    ['“tidewell-clocks.example”,', 'https://tidewell-clocks.example/'],
    ['//tidewell-clocks.example', 'https://tidewell-clocks.example/'],
    ['https:tidewell-clocks.example', 'https://tidewell-clocks.example/'],
    ['tidewell-clocks.example.', 'https://tidewell-clocks.example/'],
    ['tidewell-clocks.example:8443', 'https://tidewell-clocks.example:8443/'],
    ['tidewell-clocks.example:80', 'http://tidewell-clocks.example/'],
    ['https://tidewell-clocks.example:443/', 'https://tidewell-clocks.example/'],
    ['quay.example/Button-Museum', 'https://quay.example/Button-Museum/'],
    ['quay.example/buttons/index.html?from=mail#top', 'https://quay.example/buttons/'],
    ['quay.example/a/../b/', 'https://quay.example/b/'],
    ['quay.example\\buttons\\', 'https://quay.example/buttons/'],
    ['Hallig-Sämerei.example', 'https://xn--hallig-smerei-ifb.example/'],
    ['https://user@quay.example/', 'https://quay.example/'],
    ['shop.co.uk', 'https://shop.co.uk/'],
    ['qu\u200bay.example', 'https://quay.example/'],
  ])('%s → %s', (pasted, address) => {
    const read = readPaste(pasted);
    expect(read.kind === 'address' ? addressText(read.address) : read.says).toBe(address);
  });

  test.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['office@saltmarsh-ferries.example', 'mail-address'],
    ['mailto:office@saltmarsh-ferries.example', 'mail-address'],
    ['ftp://saltmarsh-ferries.example/', 'scheme'],
    ['javascript:alert(1)', 'scheme'],
    ['192.0.2.7', 'ip-address'],
    ['https://[2001:db8::1]/', 'ip-address'],
    ['http://0x7f.1/', 'ip-address'],
    ['2130706433', 'ip-address'],
    ['co.uk', 'public-suffix'],
    ['example', 'public-suffix'],
    ['localhost', 'public-suffix'],
    ['quay.example:99999', 'port'],
    ['not an address', 'not-a-host'],
    ['-quay.example', 'not-a-host'],
    [`${'a'.repeat(64)}.example`, 'not-a-host'],
    ['under_score.example', 'not-a-host'],
  ])('refuses %j as %s and says what was expected', (pasted, why) => {
    const read = readPaste(pasted);
    expect(read).toMatchObject({ kind: 'refused', why });
    expect(read.kind === 'refused' && read.says).toContain('Expected a web address such as');
  });

  it('says what it changed', () => {
    const read = readPaste('quay.example/buttons/index.html?x=1');
    expect(read.kind === 'address' && read.notes.join(' ')).toMatch(/index\.html.*left off|\? or #/);
  });

  it('never throws, and what it reads it reads again as the same', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string({ unit: 'binary' }), fc.webUrl()), (text) => {
        const read = readPaste(text);
        if (read.kind === 'refused') return;
        const again = readPaste(addressText(read.address));
        expect(again.kind === 'address' && addressText(again.address)).toBe(addressText(read.address));
      }),
      { numRuns: 2000 },
    );
  });

  it('shows accents to people, and keeps misleading characters escaped', () => {
    expect(addressForPeople(parseAddress('https://xn--hallig-smerei-ifb.example/s%C3%A4en/'))).toBe(
      'https://hallig-sämerei.example/säen/',
    );
    expect(addressForPeople(parseAddress('https://quay.example/a%E2%80%AEb/'))).toBe(
      'https://quay.example/a%E2%80%AEb/',
    );
  });
});

describe('reach', () => {
  test.each([
    ['name', 'quay.example', 'http://www.quay.example/x', true],
    ['name', 'quay.example', 'https://quay.example:8443/', true],
    ['name', 'quay.example', 'https://notquay.example/', false],
    ['address', 'https://quay.example/buttons/', 'https://quay.example/buttons/a', true],
    ['address', 'https://quay.example/buttons/', 'https://quay.example/', false],
    ['address', 'https://quay.example/', 'http://quay.example/', false],
    ['address', 'https://quay.example/', 'https://quay.example:8443/', false],
    ['address', 'https://quay.example/', 'https://www.quay.example/', false],
  ] as const)('%s %s covers %s: %s', (reach, target, url, expected) => {
    expect(covers(parseScope(reach, target), url)).toBe(expected);
  });

  test.each([
    ['https://www.quay.example/', 'quay.example'],
    ['https://quay.example/', 'quay.example'],
    ['https://shop.quay.example/', 'shop.quay.example'],
    ['https://quay.example/buttons/', null],
  ])('the name for %s is %s', (address, name) => {
    expect(nameFor(parseAddress(address))).toBe(name);
  });
});
