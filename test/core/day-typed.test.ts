import { describe, expect, test } from 'vitest';
import { dayTyped } from '../../src/core/time/day-typed.js';

// A Tuesday.
const NOW = new Date('2026-12-01T09:30:00Z');

describe('a day as people type it', () => {
  test.each([
    ['2026-12-15', '2026-12-15T00:00:00.000Z'],
    ['2026-12-15T09:30:00Z', '2026-12-15T09:30:00.000Z'],
    ['2026-12-15T09:30:00+02:00', '2026-12-15T07:30:00.000Z'],
    ['15.12.2026', '2026-12-15T00:00:00.000Z'],
    ['1. 2. 2027', '2027-02-01T00:00:00.000Z'],
    ['today', '2026-12-01T00:00:00.000Z'],
    [' Tomorrow ', '2026-12-02T00:00:00.000Z'],
    ['yesterday', '2026-11-30T00:00:00.000Z'],
    ['next monday', '2026-12-07T00:00:00.000Z'],
    ['wednesday', '2026-12-02T00:00:00.000Z'],
    ['tuesday', '2026-12-08T00:00:00.000Z'],
    ['in 3 days', '2026-12-04T00:00:00.000Z'],
    ['in a week', '2026-12-08T00:00:00.000Z'],
    ['next week', '2026-12-08T00:00:00.000Z'],
    ['2028-02-29', '2028-02-29T00:00:00.000Z'],
  ])('“%s” is %s', (text, time) => {
    expect(dayTyped(text, NOW)?.toISOString()).toBe(time);
  });

  test.each([
    '2026-11-31',
    '31.11.2026',
    '2026-13-01',
    '2027-02-29T08:00:00Z',
    '2026-12-15T25:00:00Z',
    '12/15/2026',
    'soon',
    '',
    'next',
    '20261215',
  ])('“%s” is none', (text) => {
    expect(dayTyped(text, NOW)).toBeNull();
  });
});
