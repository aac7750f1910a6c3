import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setTimeout as sleep } from 'node:timers/promises';
import { liveThirtyDays, takeOnAll, type Lived } from '../../src/rehearsal/thirty-days.js';
import { Killable } from '../support/killable.js';
import { TOLD, toldOf } from './told.js';

const HOUR = 3_600_000;
/** Steps from which on the service is killed, over all of the thirty days: in the midst of looks and of telling. */
const KILLED_AT = [3, 14, 25, 42, 63, 88, 112, 131, 150, 171];
/** Milliseconds of real time after which it is killed, once the clock has jumped: from the first looks to the last message. */
const AFTER_MS = [20, 90, 150, 240, 330, 60, 410, 190, 520, 120];

/**
 * The service is killed in the midst of it again and again: what holds then holds without it too, as the tour shows, which lives
 * through the same days in peace.
 */
describe('thirty days in which the service is killed again and again', () => {
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
        if (step < (KILLED_AT[kills] ?? Infinity)) return;
        await killed.world.advance(HOUR);
        await sleep(AFTER_MS[kills]);
        await killed.kill();
        await killed.start();
        kills += 1;
      },
    };
    await takeOnAll(world);
    lived = await liveThirtyDays(world);
  }, 1_200_000);
  afterAll(() => killed.close());

  it('was killed as often as it was to be', () => {
    expect(kills).toBe(KILLED_AT.length);
  });

  const of = (says: string) => lived.happened.find((one) => one.says === says);

  it('tells of every harm', () => {
    const untold = lived.happened.filter(
      ({ told, notifiedAt }) => told !== null && told.kind !== 'certificate' && notifiedAt === null,
    );
    expect(untold.map(({ says }) => says)).toEqual([]);
    expect(toldOf(lived)).toEqual(TOLD);
  });

  it('tells before the engine acts, two days before it in the middle of all cases', () => {
    const leads = lived.happened.flatMap(({ notifiedAt, lostAt }) =>
      notifiedAt !== null && lostAt !== null ? [Date.parse(lostAt) - Date.parse(notifiedAt)] : [],
    );
    expect(leads.length).toBeGreaterThanOrEqual(3);
    expect(Math.min(...leads)).toBeGreaterThan(0);
    expect(leads.sort((a, b) => a - b)[Math.floor(leads.length / 2)]).toBeGreaterThanOrEqual(48 * HOUR);
  });

  it('says nothing of what passed before it was confirmed', () => {
    expect(of('a website is down for ten minutes')?.notifiedAt).toBeNull();
    const about = lived.mails.filter(({ subject }) => subject.startsWith('buttons'));
    expect(about.map(({ subject }) => subject)).toEqual(['buttons: engines are asked to stay away']);
  });

  it('tells of our own outage once, and that it is over, and of no website by it', () => {
    const at = of('our own resolver fails for an hour')?.time ?? '';
    // An hour of outage, one of a kill and a step of the clock may lie between.
    const after = lived.mails.filter(
      (mail) => mail.at >= at && mail.at < new Date(Date.parse(at) + 24 * HOUR).toISOString(),
    );
    // What an engine does of itself comes when it comes: a token was taken out days before.
    const isAside = (subject: string) =>
      subject.startsWith('Yard Badge today') || subject.endsWith(': badge lost');
    expect(after.map(({ subject }) => subject).filter((one) => !isAside(one))).toEqual([
      'nothing can be reached from here',
      'over – nothing can be reached from here',
    ]);
  });

  it('has each thing in a digest once', () => {
    const lines = lived.mails
      .filter(({ subject }) => subject.startsWith('Yard Badge today'))
      .flatMap(({ text }) => text.split('\n').filter((line) => /^\w+: /u.test(line)));
    expect(lines.length).toBeGreaterThan(0);
    expect(lines).toContain('tea: certificate runs out');
    expect(new Set(lines).size).toBe(lines.length);
  });

  it('sends each message once, one for a cause', () => {
    expect(new Set(lived.mails.map(({ id }) => id)).size).toBe(lived.mails.length);
    const subjects = lived.mails.map(({ subject }) => subject);
    for (const property of ['ferries', 'clocks', 'ropes'])
      expect(subjects.filter((one) => one === `${property}: token gone`)).toHaveLength(1);
    expect(subjects.filter((one) => one.endsWith('out of reach') && !one.includes('over'))).toHaveLength(3);
  });

  it('has sent what it has written, and written nothing twice into the journal', async () => {
    const { items } = await killed.client.listNotifications({ query: { limit: 500 } });
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
