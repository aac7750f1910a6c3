import { expect, test } from 'vitest';
import { inEncoding } from '../../src/core/html/query-encoding.js';

test.each([
  ['/a?b=für', 'windows-1252', '/a?b=f%FCr'],
  ['/für?b=ü#ü', 'windows-1252', '/für?b=%FC#ü'],
  ['/a?b=für', 'utf-8', '/a?b=für'],
  ['/a?b=море', 'windows-1251', '/a?b=%EC%EE%F0%E5'],
  ['/a?b=港', 'shift_jis', '/a?b=%8D`'],
  ['/a?b=港', 'gbk', '/a?b=%B8%DB'],
  ['/a?b=海', 'windows-1252', '/a?b=%26%2328023%3B'],
  ['/ü', 'windows-1252', '/ü'],
  ['/a?b=ü', 'nonsense', '/a?b=ü'],
])('%s in a page of %s is %s', (link, encoding, expected) => {
  expect(inEncoding(link, encoding)).toBe(expected);
});
