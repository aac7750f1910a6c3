import { describe, expect, it, test } from 'vitest';
import {
  canBeMeant,
  enrolmentName,
  isMeant,
  readEnrolmentRef,
  type Nameable,
} from '../../src/core/address/enrolment-name.js';
import { nearest } from '../../src/core/address/nearest.js';

const one: Nameable = {
  handle: 'bakery',
  engine: 'house',
  reach: 'address',
  target: 'https://www.pebble-rye.example/',
  account: 'agency',
  others: 0,
  twins: 0,
};

describe('how an enrolment is written', () => {
  test.each<[string, Partial<Nameable>, string]>([
    ['the only one of its reach', {}, 'bakery@house:address'],
    ['one of two', { others: 1 }, 'bakery@house:www.pebble-rye.example'],
    [
      'one of two, without TLS',
      { others: 1, target: 'http://pebble-rye.example/' },
      'bakery@house:http://pebble-rye.example',
    ],
    [
      'one of two, in a folder',
      { others: 1, target: 'https://pebble-rye.example/shop/' },
      'bakery@house:pebble-rye.example/shop',
    ],
    [
      'one of two names',
      { others: 1, reach: 'name', target: 'pebble-rye.example' },
      'bakery@house:pebble-rye.example',
    ],
    [
      'the same place under two accounts',
      { others: 1, twins: 1, account: 'compass-own' },
      'bakery@house:www.pebble-rye.example#compass-own',
    ],
  ])('%s', (_, more, name) => {
    expect(enrolmentName({ ...one, ...more })).toBe(name);
  });

  test.each<[string, string, boolean]>([
    ['address', 'https://www.pebble-rye.example/', true],
    ['name', 'https://www.pebble-rye.example/', false],
    ['www.pebble-rye.example', 'https://www.pebble-rye.example/', true],
    ['WWW.Pebble-Rye.example/', 'https://www.pebble-rye.example/', true],
    ['https://www.pebble-rye.example', 'https://www.pebble-rye.example/', true],
    ['http://www.pebble-rye.example', 'https://www.pebble-rye.example/', false],
    ['pebble-rye.example', 'http://pebble-rye.example/', false],
    ['http://pebble-rye.example', 'http://pebble-rye.example/', true],
    ['pebble-rye.example/shop', 'https://pebble-rye.example/shop/', true],
    ['pebble-rye.example', 'https://pebble-rye.example/shop/', false],
  ])('%s means %s: %s', (which, target, is) => {
    expect(isMeant(which, 'address', target)).toBe(is);
  });

  it('is read back as it was written, whatever it holds', () => {
    for (const target of ['https://a.example/', 'http://a.example:8080/', 'https://möwe.example/x/']) {
      const written = enrolmentName({ ...one, target: new URL(target).href, others: 1, twins: 1 });
      const { engine, which, account } = readEnrolmentRef(written.slice(written.lastIndexOf('@') + 1));
      expect([engine, account]).toEqual(['house', 'agency']);
      expect(isMeant(which ?? '', 'address', new URL(target).href)).toBe(true);
    }
    expect(readEnrolmentRef('house')).toEqual({ engine: 'house', which: null, account: null });
    expect([canBeMeant('name'), canBeMeant('x.example'), canBeMeant('nonsense')]).toEqual([
      true,
      true,
      false,
    ]);
  });
});

describe('the name that a slip was meant for', () => {
  const names = ['kippers', 'ferries', 'buttons', 'bakery', 'Ostrime', 'Saltmarsh Ferry Line'];
  test.each<[string, string | null]>([
    ['kipers', 'kippers'],
    ['kippres', 'kippers'],
    ['FERIES', 'ferries'],
    ['ostrine', 'Ostrime'],
    ['baekry', 'bakery'],
    ['Saltmarsh Fery Lines', 'Saltmarsh Ferry Line'],
    ['boat', null],
    ['xy', null],
    ['', null],
    ['quite another thing', null],
    ['x'.repeat(500), null],
  ])('%s: %s', (text, name) => {
    expect(nearest(text, names)).toBe(name);
  });
});
