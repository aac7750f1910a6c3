import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { recordAlerts } from '../../src/desk/alerts/alerts.js';
import type { Desk } from '../../src/desk/context/desk.js';
import { Store } from '../../src/store/store.js';
import { removed } from '../support/removed.js';

const SINCE = new Date('2033-05-02T07:00:00Z');
const folder = mkdtempSync(join(tmpdir(), 'yardbadge-alerts-'));
let store: Store;

beforeAll(async () => {
  store = await Store.open(join(folder, 'records.sqlite'));
});
afterAll(async () => {
  await store.close();
  await removed(folder);
});

/** Writes down that a website’s name does not resolve, as a check found it. @returns where that is, as the record has it */
async function placeAfter(place: string | null): Promise<(string | null)[]> {
  const desk = { store, clock: { now: () => SINCE } } as unknown as Desk;
  const one = {
    kind: 'out-of-reach',
    cause: 'names',
    since: SINCE,
    says: 'The name does not resolve.',
    remedy: '',
    acts: 'client',
    touches: ['quay@house'],
    until: null,
    ...(place === null ? {} : { place }),
  } as const;
  const derived = new Map([['p', { clientId: 'c', cases: [one], unclear: [], isKept: true }]]);
  await store.write((transaction) => recordAlerts(desk, derived, transaction));
  const rows = await store.select<{ place: string | null }>('SELECT place FROM cases');
  return rows.map((row) => row.place);
}

test('an alert says where something is out of reach as soon as a check knows, and keeps that', async () => {
  expect(await placeAfter(null)).toEqual([null]);
  expect(await placeAfter('ns1.example')).toEqual(['ns1.example']);
  expect(await placeAfter(null)).toEqual(['ns1.example']);
  expect(await placeAfter('ns2.example')).toEqual(['ns2.example']);
});
