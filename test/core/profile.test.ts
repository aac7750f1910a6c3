import { describe, expect, it, test } from 'vitest';
import { readProfile } from '../../src/core/profile/schema.js';
import { durationMs, durationWords } from '../../src/core/time/duration.js';
import { veldrane } from '../support/profiles.js';

describe('a profile file', () => {
  const faults = (change: object) => {
    const read = readProfile({ ...structuredClone(veldrane), ...change });
    return 'faults' in read ? read.faults.join(' ') : '';
  };
  test.each([
    [{ title: undefined }, '“title” is missing.'],
    [{ redirect: 'host' }, '“redirect” is nothing that is asked for here.'],
    [
      { keeps: { looksEvery: '5 days', grace: 'P2D' } },
      '“keeps.looksEvery”: “5 days” is not an ISO 8601 duration',
    ],
    [{ worked: { how: 'link', base: 'veldrane', keyFrom: 'X' } }, 'worked'],
    [{ methods: { dns: { value: 'veldrane=token' } } }, 'methods.dns.value'],
    [{ methods: { meta: { name: 'x' } } }, 'reaches names “name”, but no method serves that reach'],
  ])('names the key: %j', (change, expected) => {
    expect(faults(change)).toContain(expected);
  });
  it('is read as it stands', () => {
    expect(faults({})).toBe('');
  });
});

test.each([
  ['P5D', 432_000_000, '5 days'],
  ['PT36H', 129_600_000, '36 hours'],
  ['P1DT12H', 129_600_000, '36 hours'],
  ['PT1M', 60_000, '1 minute'],
])('the duration %s is %i ms, %s', (text, ms, words) => {
  expect(durationMs(text)).toBe(ms);
  expect(durationWords(ms)).toBe(words);
});

test.each(['5 days', 'P', 'PT', 'P1M', ''])('%j is no duration', (text) => {
  expect(() => durationMs(text)).toThrow(RangeError);
});
