import { describe, expect, test } from 'vitest';
import { readPaste } from '../../src/core/address/paste.js';
import { addressText } from '../../src/core/address/web-address.js';

const read = (text: string): string => {
  const paste = readPaste(text);
  return paste.kind === 'address' ? addressText(paste.address) : paste.why;
};

describe('an address as it comes out of mails, chats and lists', () => {
  test.each([
    '„quay.example“',
    '“quay.example”,',
    '»quay.example«.',
    '«quay.example»',
    '‹quay.example›',
    '‚quay.example‘',
    "'quay.example'",
    '`quay.example`',
    '「quay.example」',
    '＂quay.example＂',
    '<quay.example>',
    '<https://quay.example/>;',
    '(quay.example)',
    '> quay.example',
    '>> https://quay.example/',
    '- quay.example',
    '• quay.example',
    '* https://quay.example',
    '1. quay.example'.slice(3),
    'URL: https://quay.example',
    'quay.example.',
    'quay.example...',
    'quay.example!?',
    'quay.example:',
    '| quay.example |',
    '**https://quay.example**',
  ])('%s', (text) => {
    expect(read(text)).toBe('https://quay.example/');
  });

  test.each([
    ['qu„ay.example', 'not-a-host'],
    ['quay”.example', 'not-a-host'],
    ['☕.example', 'not-a-host'],
    ['a b.example', 'not-a-host'],
    ['möwe.example', 'https://xn--mwe-sna.example/'],
    ['l·l.example', 'https://xn--ll-0ea.example/'],
    ['日本語.example', 'https://xn--wgv71a119e.example/'],
    ['', 'empty'],
    ['„“', 'empty'],
  ])('%s: %s', (text, result) => {
    expect(read(text)).toBe(result);
  });
});
