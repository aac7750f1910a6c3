import { describe, expect, it, test } from 'vitest';
import { handleFrom } from '../../src/core/address/handle.js';
import { readHost } from '../../src/core/address/host.js';
import { readPaste } from '../../src/core/address/paste.js';
import { covers, hostOf, parseScope, scopeForPeople, scopeText } from '../../src/core/address/reach.js';
import { addressForPeople, addressText, parseAddress } from '../../src/core/address/web-address.js';

/** What a pasted address becomes, what is said of it, and what is left as it was. */
const EXPECTED =
  'Expected a web address such as saltmarsh-ferries.example or https://www.saltmarsh-ferries.example/.';
const LEFT = {
  query: 'What follows ? or # was left off: it does not belong to a property’s address.',
  user: 'A name before the host was left off.',
};

describe('what is said of a pasted address', () => {
  test.each<[string, string, string, boolean, string[]]>([
    ['as it is', 'https://quay.example/', 'https://quay.example/', true, []],
    ['without a scheme', 'quay.example', 'https://quay.example/', false, []],
    ['without a scheme, with two slashes', '//quay.example/a/', 'https://quay.example/a/', false, []],
    ['http, told by its port', 'quay.example:80/', 'http://quay.example/', false, []],
    ['https, told by its port', 'quay.example:443/', 'https://quay.example/', false, []],
    ['http with the port of https', 'http://quay.example:443/', 'http://quay.example:443/', true, []],
    ['the least port', 'quay.example:1', 'https://quay.example:1/', false, []],
    ['the greatest port', 'quay.example:65535', 'https://quay.example:65535/', false, []],
    ['a port that was not written', 'quay.example:/x/', 'https://quay.example/x/', false, []],
    ['with a query', 'quay.example/a/?x=1&y=2', 'https://quay.example/a/', false, [LEFT.query]],
    ['with a query at once', 'quay.example?x=1', 'https://quay.example/', false, [LEFT.query]],
    ['with a fragment', 'https://quay.example/a/#top?x', 'https://quay.example/a/', true, [LEFT.query]],
    [
      'with a query of several lines',
      'quay.example/a/?x\n=y',
      'https://quay.example/a/',
      false,
      [LEFT.query],
    ],
    ['with a name', 'https://marit@quay.example/', 'https://quay.example/', true, [LEFT.user]],
    ['with a name and two signs', 'https://a@b@quay.example/', 'https://quay.example/', true, [LEFT.user]],
    [
      'with a page',
      'quay.example/buttons/index.html',
      'https://quay.example/buttons/',
      false,
      ['The page index.html was left off: the property is its folder /buttons/.'],
    ],
    [
      'with a page at the root, and all else',
      'https://u@quay.example/start.php?x#y',
      'https://quay.example/',
      true,
      [LEFT.user, LEFT.query, 'The page start.php was left off: the property is its folder /.'],
    ],
    ['with something like a page', 'quay.example/v1.5beta2x', 'https://quay.example/v1.5beta2x/', false, []],
    ['with a folder that is not closed', 'quay.example/a/b', 'https://quay.example/a/b/', false, []],
    [
      'with a folder that looks like a host',
      'https://quay.example//other.example/',
      'https://quay.example//other.example/',
      true,
      [],
    ],
    [
      'with a path as long as can be',
      `quay.example/${'a'.repeat(1_022)}/`,
      `https://quay.example/${'a'.repeat(1_022)}/`,
      false,
      [],
    ],
    ['with slashes the other way', 'http:\\\\quay.example\\a', 'http://quay.example/a/', true, []],
    ['with one slash', 'https:/quay.example/', 'https://quay.example/', true, []],
    ['in brackets', '<(quay.example)>', 'https://quay.example/', false, []],
    ['in quotation marks of several kinds', '«‘“quay.example”’»', 'https://quay.example/', false, []],
    ['in a bracket with blanks inside', '( quay.example )', 'https://quay.example/', false, []],
    ['at the end of a sentence', 'quay.example!', 'https://quay.example/', false, []],
    ['at the end of a quoted sentence', 'quay.example.".', 'https://quay.example/', false, []],
    ['before more of them', 'quay.example;,', 'https://quay.example/', false, []],
    ['with a mark that nobody sees', '\ufeffquay.example\u200b ', 'https://quay.example/', false, []],
    [
      'whose host has something of mailto in it',
      'quay.example/mailto:x/',
      'https://quay.example/mailto:x/',
      false,
      [],
    ],
    ['with a sign in its path', 'quay.example/@marit/', 'https://quay.example/@marit/', false, []],
    [
      'with another address in its path',
      'quay.example/https://other.example/',
      'https://quay.example/https://other.example/',
      false,
      [],
    ],
  ])('%s', (_, pasted, address, schemeWritten, notes) => {
    const read = readPaste(pasted);
    if (read.kind === 'refused') throw new Error(read.says);
    expect(addressText(read.address)).toBe(address);
    expect({ schemeWritten: read.schemeWritten, notes: [...read.notes] }).toEqual({ schemeWritten, notes });
    expect(read.host.ascii).toBe(read.address.host);
  });

  const long = 'x'.repeat(60);
  test.each<[string, string, string]>([
    ['', 'empty', 'Nothing was given.'],
    ['<>', 'empty', 'Nothing was given.'],
    ['marit@quay.example', 'mail-address', '“marit@quay.example” is a mail address.'],
    ['Mailto:marit@quay.example', 'mail-address', '“Mailto:marit@quay.example” is a mail address.'],
    [`${long}@quay.example`, 'mail-address', `“${long}…” is a mail address.`],
    [
      'ftp://quay.example/',
      'scheme',
      '“ftp://” is not how websites are reached; only http:// and https:// are.',
    ],
    [
      'JavaScript:alert(1)',
      'scheme',
      '“JavaScript://” is not how websites are reached; only http:// and https:// are.',
    ],
    [
      'git+ssh://quay.example',
      'scheme',
      '“git+ssh://” is not how websites are reached; only http:// and https:// are.',
    ],
    ['192.0.2.7', 'ip-address', '“192.0.2.7” is an IP address; engines register websites by name.'],
    [
      'http://192.0.2.7:8080/x',
      'ip-address',
      '“192.0.2.7” is an IP address; engines register websites by name.',
    ],
    [
      'https://[2001:db8::1]/',
      'ip-address',
      '“[2001:db8::1]” is an IP address; engines register websites by name.',
    ],
    [
      'https://[2001:db8::1]:8443/',
      'ip-address',
      '“[2001:db8::1]” is an IP address; engines register websites by name.',
    ],
    [
      'co.uk',
      'public-suffix',
      '“co.uk” is a suffix under which names are registered, not a name of its own.',
    ],
    [
      'not an address',
      'not-a-host',
      '“not an address” is not a host name (letters, digits and hyphens, parted by dots).',
    ],
    [
      'quay_side.example',
      'not-a-host',
      '“quay_side.example” is not a host name (letters, digits and hyphens, parted by dots).',
    ],
    ['quay.example:0', 'port', 'Port 0 does not exist; ports go from 1 to 65535.'],
    ['quay.example:65536', 'port', 'Port 65536 does not exist; ports go from 1 to 65535.'],
    [`quay.example/${'a'.repeat(1_023)}/`, 'path', `The path “/${'a'.repeat(59)}…” cannot be read.`],
  ])('%j is refused as %s', (pasted, why, says) => {
    const read = readPaste(pasted);
    expect(read).toEqual({ kind: 'refused', why, says: `${says} ${EXPECTED}` });
  });

  it('shows no sign that would speak to a terminal', () => {
    const read = readPaste('quay\u001b[31m_\u0007.example');
    expect(read.kind === 'refused' && read.says).toContain('“quay[31m_.example”');
  });
});

describe('a host that cannot be a website’s', () => {
  test.each([
    ['1.2.3', 'ip-address'],
    ['0300.0250.1', 'ip-address'],
    ['1.2.3.4.', 'ip-address'],
    ['::ffff:192.0.2.1', 'ip-address'],
    ['1.2.3.400', 'not-a-host'],
    ['quay:8', 'not-a-host'],
    ['a:quay', 'not-a-host'],
    ['quay[1]', 'not-a-host'],
    ['[1]quay', 'not-a-host'],
    [`${`${'a'.repeat(61)}.`.repeat(4)}com`, 'public-suffix'],
  ])('%s: %s', (text, why) => {
    const read = readHost(text);
    if (why === 'public-suffix') expect(typeof read === 'string' ? read : read.ascii).toBe(text);
    else expect(read).toBe(why);
  });

  test.each([
    [253, true],
    [254, false],
  ])('for its length: %i letters, taken: %s', (length, isTaken) => {
    const tail = `.${'b'.repeat(60)}.${'c'.repeat(60)}.${'d'.repeat(50)}.example`;
    const text = 'a'.repeat(length - tail.length - 1 > 63 ? 63 : length - tail.length) + tail;
    const padded = text.length === length ? text : `${'e'.repeat(length - text.length - 1)}.${text}`;
    expect(padded).toHaveLength(length);
    expect(typeof readHost(padded) !== 'string').toBe(isTaken);
  });
});

describe('targets', () => {
  const name = parseScope('name', 'xn--mwenfang-n4a.example');
  const address = parseScope('address', 'https://xn--mwenfang-n4a.example/s%C3%A4en/');
  it('have a host, a text for machines and one for people', () => {
    expect([name, address].map(hostOf)).toEqual(['xn--mwenfang-n4a.example', 'xn--mwenfang-n4a.example']);
    expect([name, address].map(scopeText)).toEqual([
      'xn--mwenfang-n4a.example',
      'https://xn--mwenfang-n4a.example/s%C3%A4en/',
    ]);
    expect([name, address].map(scopeForPeople)).toEqual([
      'möwenfang.example',
      'https://möwenfang.example/säen/',
    ]);
  });
  it('cover nothing that is no address', () => {
    expect(covers(name, 'möwenfang')).toBe(false);
    expect(covers(address, '')).toBe(false);
  });
});

describe('an address of our own', () => {
  test.each([
    ['https://quay.example/a/b', 'https://quay.example/a/'],
    ['https://quay.example', 'https://quay.example/'],
    ['http://quay.example:8080/a/', 'http://quay.example:8080/a/'],
  ])('%s is %s', (text, address) => {
    expect(addressText(parseAddress(text))).toBe(address);
  });
  test.each(['ftp://quay.example/', 'mailto:marit@quay.example', 'quay.example'])('%s is none', (text) => {
    expect(() => parseAddress(text)).toThrow(TypeError);
  });
  test.each([
    ['https://quay.example/%zz/', 'https://quay.example/%zz/'],
    ['https://quay.example/a%20b/', 'https://quay.example/a%20b/'],
    ['https://quay.example:81/%C3%A4/', 'https://quay.example:81/ä/'],
  ])('%s is shown as %s', (text, shown) => {
    expect(addressForPeople(parseAddress(text))).toBe(shown);
  });
});

test.each([
  ['Möwen & Söhne', 'moewen-soehne'],
  ['STRAẞE Ørsted Åland', 'strasse-oersted-aaland'],
  ['  -quay-  ', 'quay'],
  ['a'.repeat(60), 'a'.repeat(50)],
  ['日本', 'unnamed'],
  ['', 'unnamed'],
])('the handle made of %j is %s', (name, handle) => {
  expect(handleFrom(name)).toBe(handle);
});
