import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { liveThirtyDays, takeOnAll, type Lived } from '../../src/rehearsal/thirty-days.js';
import { Killable } from '../support/killable.js';
import { TOLD, toldOf } from './told.js';

const HOUR = 3_600_000;
/** Steps at which the service is killed, over all of the thirty days: in the midst of looks and of telling. */
const KILLED_AT = [3, 14, 25, 42, 63, 88, 112, 131, 150, 171];
/** Milliseconds of real time after which it is killed, once the clock has jumped: from the first looks to the last message. */
const AFTER_MS = [20, 90, 150, 240, 330, 60, 410, 190, 520, 120];

let killed: Killable;
let lived: Lived;
let kills = 0;

beforeAll(async () => {
  killed = await Killable.open();
  await killed.start();
  const { control } = killed.world;
  const world = {
    get client() {
      return killed.client;
    },
    control: control.url,
    say: () => undefined,
    async between(step: number) {
      const at = KILLED_AT.indexOf(step);
      if (at < 0) return;
      await killed.world.advance(HOUR);
      await sleep(AFTER_MS[at]);
      await killed.kill();
      await killed.start();
      kills += 1;
    },
  };
  await takeOnAll(world);
  lived = await liveThirtyDays(world);
}, 600_000);
afterAll(() => killed.close());

describe('thirty days in which the service is killed again and again', () => {
  it('tells the same, and each thing once', () => {
    expect(kills).toBe(KILLED_AT.length);
    expect(toldOf(lived)).toEqual(TOLD);
    const at = lived.mails.map(({ id }) => id);
    expect(new Set(at).size).toBe(at.length);
    const subjects = lived.mails.map(({ subject }) => subject);
    for (const one of ['ferries: token gone', 'clocks: token gone', 'ropes: token gone', 'tea: out of reach'])
      expect(subjects.filter((subject) => subject === one)).toHaveLength(1);
  });

  it('has sent what it has written, and written nothing twice into the journal', async () => {
    const { items } = await killed.client.listMessages({ query: { limit: 500 } });
    expect(items.every(({ state }) => state === 'sent')).toBe(true);
    expect(items.filter(({ way }) => way === 'mail')).toHaveLength(lived.mails.length);
    const journal = await killed.client.journal({ query: { who: 'service', limit: 500 } });
    const lines = journal.items.map(({ at, kind, property, says }) =>
      [at.slice(0, 13), kind, property, says].join(' '),
    );
    expect(lines.filter((line, at) => lines.indexOf(line) !== at)).toEqual([]);
    expect(await killed.client.verifyRecords()).toMatchObject({ differing: [] });
  });
});
