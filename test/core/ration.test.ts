import { expect, it, test } from 'vitest';
import { covers, parseScope } from '../../src/core/address/reach.js';
import { targetsOver } from '../../src/core/address/targets-over.js';
import { dayOf, rationOf } from '../../src/core/profile/ration.js';

const NOW = new Date('2026-11-25T22:30:00Z');

test.each([
  [0, 10, 10],
  [4, 10, 6],
  [12, 10, 0],
  [0, 0, 0],
])('%i of %i spent leave %i, until midnight in UTC', (used, ration, left) => {
  expect(rationOf(used, ration, NOW)).toEqual({
    used,
    ration,
    left,
    until: new Date('2026-11-26T00:00:00Z'),
  });
  expect(dayOf(NOW)).toEqual(new Date('2026-11-25T00:00:00Z'));
});

it('finds the targets over an address: every name and every folder', () => {
  const url = new URL('https://www.quay.example/shop/tins/page.html?x=/y/');
  const targets = targetsOver(url);
  expect(targets).toEqual([
    'www.quay.example',
    'quay.example',
    'example',
    'https://www.quay.example/',
    'https://www.quay.example/shop/',
    'https://www.quay.example/shop/tins/',
  ]);
  for (const target of targets)
    expect(covers(parseScope(target.includes('/') ? 'address' : 'name', target), url.href)).toBe(true);
});
