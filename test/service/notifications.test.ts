import { createHash, createHmac } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Alert, NewWebhook, SentMessage } from '../../src/api/documents.js';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';
import { HOOKS_ADDRESS } from '../../src/rehearsal/scenario.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

const HOST = 'www.saltmarsh-ferries.example';
const URL_TOLD = `http://${HOOKS_ADDRESS}/told?by=yard`;

let stage: Stage;
let hook: NewWebhook;

const pass = (ms: number) => stage.world.advance(ms);
const alerts = async (query: object = {}) => (await stage.marit.listAlerts({ query })).items;
const notifications = async (query: object = {}) => (await stage.marit.listNotifications({ query })).items;
const looked = () =>
  until(
    () => stage.marit.showWatch({}),
    ({ counts }) => counts['due'] === 0 && counts['underWay'] === 0,
  );
const sent = (all: readonly SentMessage[]) => all.every(({ state }) => state !== 'waiting');
const mails = () => stage.world.post.mails.map(({ subject }) => subject);
const mend = async () =>
  placeAll(
    stage,
    (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items.filter(
      ({ reach }) => reach !== 'name',
    ),
  );

/** Has the tags gone, waits until it is confirmed and told, and gives the case. */
async function lose(): Promise<Alert> {
  await stage.order({ do: 'clear', host: HOST, what: 'meta' });
  await pass(1.6 * DAY);
  await looked();
  await pass(6 * MINUTE);
  const [open] = await until(alerts, (all) => all.some(({ kind }) => kind === 'slipping'));
  await pass(3 * MINUTE);
  await until(alerts, (all) => all.every(({ notifiedAt }) => notifiedAt !== null));
  if (!open) throw new Error('no case');
  return open;
}

async function regain(): Promise<void> {
  await mend();
  await pass(6 * HOUR + MINUTE);
  await looked();
  await until(alerts, (all) => all.every(({ kind }) => kind !== 'slipping'));
  await pass(3 * MINUTE);
}

beforeAll(async () => {
  stage = await openStage({ 'watch.on': 'true' });
  const enrolments = await takeOnFerries(stage);
  // What nobody claims is not placed: that it stands would be told besides.
  await placeAll(
    stage,
    enrolments.filter(({ reach }) => reach !== 'name'),
  );
  const held = { enrolments: ['ferries@house', 'ferries@veldrane:address'], method: 'meta' as const };
  await stage.results(stage.marit.claim({ body: held }));
  hook = await stage.marit.addWebhook({ body: { url: URL_TOLD } });
  await stage.marit.editRecipient({
    params: { person: 'me' },
    body: { email: 'marit@harbour-lights.example', digest: false },
  });
});
afterAll(() => stage.close());

/** What the signature covers, put together anew from the request as RFC 9421 §2.5 has it. */
function isSignedBy(secret: string, headers: Readonly<Record<string, string>>, body: string): boolean {
  const input = (headers['signature-input'] ?? '').replace(/^yard=/, '');
  const covered = /^\(([^)]*)\)/.exec(input)?.[1]?.split(' ') ?? [];
  const values: Readonly<Record<string, string>> = {
    '"@method"': 'POST',
    '"@target-uri"': URL_TOLD,
    '"content-type"': headers['content-type'] ?? '',
    '"content-digest"': headers['content-digest'] ?? '',
  };
  const lines = covered.map((name) => `${name}: ${values[name] ?? 'unknown'}`);
  const base = [...lines, `"@signature-params": ${input}`].join('\n');
  const mac = createHmac('sha256', secret).update(base).digest('base64');
  const digest = createHash('sha256').update(body).digest('base64');
  return headers['signature'] === `yard=:${mac}:` && headers['content-digest'] === `sha-256=:${digest}:`;
}

describe('telling', () => {
  it('tells a loss that was confirmed, once by mail and once to the address', async () => {
    const lost = await lose();
    expect(lost).toMatchObject({ kind: 'slipping', property: 'ferries', acts: 'client', mended: null });
    expect([...lost.touches].sort()).toEqual(['ferries@house:address', 'ferries@veldrane:address']);
    expect(lost.remedy).toContain('<meta');
    // The last good look beside the present one.
    expect(lost.difference[0]).toMatch(/^− as it was at .* UTC, \+ as it is at .* UTC$/u);
    expect(lost.difference.filter((line) => line.startsWith('− line'))[0]).toMatch(/<meta name="[a-z-]+"/u);
    expect(lost.difference).toContainEqual(expect.stringMatching(/^ {2}asked https:\/\/www\.saltmarsh/u));
    await until(notifications, sent);
    expect(mails()).toEqual(['ferries: token gone']);
    const [mail] = stage.world.post.mails;
    expect(mail?.to).toBe('marit@harbour-lights.example');
    expect(mail?.text).toContain(`${stage.url}/properties/ferries`);
    expect(mail?.html).toContain(`href="${stage.url}/properties/ferries"`);
    expect(stage.world.post.events).toHaveLength(1);
  });

  it('signs what it tells to an address, as a CloudEvent', () => {
    const [event] = stage.world.post.events;
    expect(event?.headers['content-type']).toBe('application/cloudevents+json');
    expect(isSignedBy(hook.secret, event?.headers ?? {}, event?.body ?? '')).toBe(true);
    expect(isSignedBy('another secret', event?.headers ?? {}, event?.body ?? '')).toBe(false);
    expect(isSignedBy(hook.secret, event?.headers ?? {}, `${event?.body ?? ''} `)).toBe(false);
    const told = JSON.parse(event?.body ?? '') as { readonly data: object };
    expect(told).toMatchObject({
      specversion: '1.0',
      type: 'yardbadge.alert.opened',
      source: stage.url,
      data: { kind: 'slipping', property: 'ferries', endedAt: null },
    });
  });

  it('says when it is over, for how long it was, and nothing of what is still so', async () => {
    await regain();
    await until(notifications, (all) => all.length === 4 && sent(all));
    expect(mails()).toEqual(['ferries: token gone', 'ferries: over – token gone']);
    expect(stage.world.post.mails.at(-1)?.text).toMatch(/It lasted (about )?\d/u);
    const [over] = await alerts({ resolved: true });
    expect(over).toMatchObject({ kind: 'slipping', mended: true });
    expect(stage.world.post.events.map(({ body }) => (JSON.parse(body) as { type: string }).type)).toEqual([
      'yardbadge.alert.opened',
      'yardbadge.alert.resolved',
    ]);
  });

  it('sends again what an address did not take, under the same identifier, later each time', async () => {
    stage.world.post.refuse(503, 3);
    await lose();
    const waiting = await until(
      () => notifications({ state: 'waiting' }),
      (all) => all.length === 1 && all[0]?.fault !== null,
    );
    expect(waiting[0]).toMatchObject({ way: 'hook', fault: 'It answered with status 503.' });
    for (let tries = 0; tries < 4; tries += 1) {
      await pass(10 * MINUTE);
      await until(notifications, (all) => all.some(({ way, tries: done }) => way === 'hook' && done > tries));
    }
    const all = await until(notifications, sent);
    expect(all.find(({ id }) => id === waiting[0]?.id)).toMatchObject({ state: 'sent', tries: 4 });
    expect(stage.world.post.events.filter(({ body }) => body.includes(waiting[0]?.id ?? '?'))).toHaveLength(
      1,
    );
    expect(mails().filter((one) => one === 'ferries: token gone')).toHaveLength(2);
  });

  it('gives up what an address wants no more of, shows it, and sends it by hand', async () => {
    stage.world.post.refuse(410, 1);
    await regain();
    const [dead] = await until(
      () => notifications({ state: 'dead' }),
      (all) => all.length === 1,
    );
    expect(dead).toMatchObject({ way: 'hook', tries: 1, fault: 'It answered with status 410.' });
    await stage.marit.retryNotification({ params: { id: dead?.id ?? '' } });
    await until(
      () => notifications({ state: 'dead' }),
      (all) => all.length === 0,
    );
    await until(notifications, sent);
    await expect(stage.marit.retryNotification({ params: { id: dead?.id ?? '' } })).rejects.toMatchObject({
      problem: { code: 'not-given-up' },
    });
    expect((await stage.marit.showNotification({ params: { id: dead?.id ?? '' } })).text).toContain(
      '"alert.resolved"',
    );
  });

  it('goes to no address inside, whatever is given', async () => {
    const inside = await stage.marit.addWebhook({ body: { url: 'http://10.0.0.8/told' } });
    await stage.marit.endWebhook({ params: { id: hook.id } });
    await lose();
    const waiting = await until(
      () => notifications({ state: 'waiting' }),
      (all) => all.some(({ fault }) => fault !== null),
    );
    const kept = waiting.find(({ fault }) => fault !== null);
    expect(kept).toMatchObject({ way: 'hook', to: 'http://10.0.0.8/told' });
    expect(kept?.fault).toContain('private');
    await stage.marit.endWebhook({ params: { id: inside.id } });
    await until(
      () => notifications({ state: 'waiting' }),
      (all) => all.length === 0,
    );
    await regain();
  });

  it('tells of a registered name in time, by the day that its owner said', async () => {
    const day = new Date(Date.parse((await stage.marit.whoAmI()).now) + 20 * DAY).toISOString().slice(0, 10);
    const edit = (nameEnds: string | null) =>
      stage.marit.editProperty({ params: { property: 'ferries' }, body: { nameEnds } });
    expect((await edit(day)).nameEnds).toBe(day);
    const [open] = await until(
      () => alerts({ kind: 'name-ends' }),
      (all) => all.length === 1,
    );
    expect(open?.says).toContain(`saltmarsh-ferries.example ends on ${day}`);
    expect(open?.remedy).toMatch(/renew the name saltmarsh-ferries\.example/u);
    // It is a step as well: whoever works from the list of next steps meets it there.
    const steps = async () =>
      (await stage.marit.worklist({ query: { property: 'ferries' } })).items.map(({ step }) => step.kind);
    expect(await steps()).toContain('renew');
    await expect(edit('2027-02-30')).rejects.toMatchObject({ problem: { code: 'bad-input' } });
    await edit(null);
    await until(
      () => alerts({ kind: 'name-ends' }),
      (all) => all.length === 0,
    );
  });

  it('tells what an engine has switched off once for all, and when it is on again', async () => {
    await stage.order({ do: 'engine', engine: 'veldrane', suspend: { work: 'claims', ms: 2 * DAY } });
    await stage.marit.claim({
      body: { enrolments: ['ferries@veldrane:name'], method: 'dns', anyway: true },
    });
    const off = () => alerts({ kind: 'switched-off' });
    await until(off, (all) => all.length === 1);
    const [open] = await off();
    expect(open).toMatchObject({ property: null, acts: 'engine' });
    expect(open?.says).toMatch(/^Veldrane has switched off claims until \d{4}-/u);
    await pass(2.1 * DAY);
    await until(off, (all) => all.length === 0);
    const over = await alerts({ resolved: true, kind: 'switched-off' });
    expect(over).toMatchObject([{ mended: true }]);
    await looked();
  });

  it.each<[string, () => Promise<unknown>, string]>([
    [
      'an address of no web',
      () => stage.marit.addWebhook({ body: { url: 'ftp://told.example/' } }),
      'bad-webhook',
    ],
    [
      'an address with a password',
      () => stage.marit.addWebhook({ body: { url: 'https://a:b@told.example/' } }),
      'bad-webhook',
    ],
    [
      'an address that is none',
      () => stage.marit.endWebhook({ params: { id: 'nobody' } }),
      'no-such-webhook',
    ],
    [
      'a person who is not here',
      () => stage.marit.editRecipient({ params: { person: 'olga' }, body: { digest: true } }),
      'no-such-person',
    ],
    [
      'a zone that is none',
      () => stage.marit.editRecipient({ params: { person: 'me' }, body: { zone: 'Mars/Olympus' } }),
      'no-such-zone',
    ],
    [
      'an hour that is none',
      () => stage.marit.editRecipient({ params: { person: 'me' }, body: { digestAt: '25:00' } }),
      'bad-input',
    ],
    [
      'a mail address that is none',
      () => stage.marit.editRecipient({ params: { person: 'me' }, body: { email: 'marit' } }),
      'bad-input',
    ],
    [
      'a line break in a mail address',
      () =>
        stage.marit.editRecipient({
          params: { person: 'me' },
          body: { email: 'a@b.example\r\nBcc: c@d.example' },
        }),
      'bad-input',
    ],
    [
      'a client that is none',
      () => stage.marit.editRecipient({ params: { person: 'me' }, body: { clients: ['nobody'] } }),
      'no-such-client',
    ],
    [
      'a message that is none',
      () => stage.marit.showNotification({ params: { id: 'none' } }),
      'no-such-notification',
    ],
  ])('refuses %s', async (_, ask, code) => {
    await expect(ask()).rejects.toMatchObject({ problem: { code } });
  });

  it('lets everybody choose for herself, and a lead for all', async () => {
    const { client: odile } = await stage.person('odile', 'consultant');
    await odile.editRecipient({
      params: { person: 'me' },
      body: { email: 'odile@harbour-lights.example', clients: [] },
    });
    expect((await odile.listRecipients()).items.map(({ person }) => person)).toEqual(['odile']);
    expect((await stage.marit.listRecipients()).items.map(({ person }) => person)).toEqual([
      'marit',
      'odile',
    ]);
    await expect(
      odile.editRecipient({ params: { person: 'marit' }, body: { atOnce: false } }),
    ).rejects.toMatchObject({ problem: { code: 'not-allowed' } });
    await lose();
    await until(notifications, sent);
    // She wants to hear of no client; the other does.
    expect(stage.world.post.mails.filter(({ to }) => to.startsWith('odile'))).toEqual([]);
    await stage.marit.editRecipient({ params: { person: 'odile' }, body: { clients: null, email: null } });
    await regain();
  });
});
