import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ReportOrder } from '../../src/api/documents.js';
import { DAY, MINUTE } from '../../src/core/time/duration.js';
import { stopHeaders } from '../../src/desk/reports/orders.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

const MARIT = 'marit@harbour-lights.example';
const OFFICE = 'office@saltmarsh-ferries.example';
let stage: Stage;

beforeAll(async () => {
  stage = await openStage();
  await placeAll(stage, await takeOnFerries(stage));
  const held = { enrolments: ['ferries@veldrane:address'], method: 'meta' as const };
  await stage.results(stage.marit.claim({ body: held }));
  await stage.marit.addClient({ body: { name: 'Kiln & Daughters', handle: 'kiln' } });
  await stage.marit.finished({
    id: (
      await stage.marit.addProperty({
        body: { client: 'kiln', address: 'tidewell-clocks.example', handle: 'kiln' },
      })
    ).job,
  });
  await stage.marit.editRecipient({
    params: { person: 'me' },
    body: { email: MARIT, digest: false, atOnce: false, zone: 'Europe/Helsinki' },
  });
});
afterAll(() => stage.close());

const orders = async () => (await stage.marit.listReports()).items;
const mails = () => stage.world.post.mails;

/** Lets the time pass until a report was sent, and gives the mail. @param to the receiver's address */
async function sent(one: ReportOrder, to: string) {
  const own = () => mails().filter((mail) => mail.to === to);
  const before = own().length;
  const { now } = await stage.marit.whoAmI();
  await stage.world.advance(Math.max(0, Date.parse(one.nextAt) - Date.parse(now)) + MINUTE);
  await until(
    () => Promise.resolve(own().length),
    (length) => length > before,
  );
  const mail = own().at(-1);
  if (!mail) throw new Error('no mail');
  return mail;
}

const stopLink = (headers: Readonly<Record<string, string>>) =>
  /<(.*)>/u.exec(headers['list-unsubscribe'] ?? '')?.[1] ?? '';

describe('a report that is sent by itself', () => {
  it('goes to one of the agency on Monday at her hour: what stands, what changed, what is to be done', async () => {
    const order = await stage.marit.addReport({ body: { client: 'saltmarsh', person: 'me', every: 'week' } });
    expect(order).toMatchObject({
      client: 'saltmarsh',
      person: 'marit',
      email: null,
      zone: 'Europe/Helsinki',
    });
    const local = new Date(Date.parse(order.nextAt) + (order.nextAt.includes('T05') ? 2 : 3) * 3_600_000);
    expect([local.getUTCDay(), local.getUTCHours()]).toEqual([1, 7]);
    const shown = await stage.marit.showReport({ params: { id: order.id } });
    expect(shown.text).not.toContain('/stop/');
    const mail = await sent(order, MARIT);
    expect(mail.subject).toMatch(/^Saltmarsh Ferry Line: how your websites stand, \d{4}-\d\d-\d\d to /u);
    expect(mail.text).toMatch(/TO BE DONE BY YOU[\s\S]*WHAT CHANGED[\s\S]*HOW IT STANDS/u);
    expect(mail.text).toContain('Ownership proved: Veldrane.');
    expect(mail.text).toMatch(/Not yet, or not any more: House \(/u);
    expect(mail.text).toContain(`${stage.url}/properties/ferries`);
    expect(mail.html).toContain('<h1');
    // The page of the owner goes along, and is kept as it was.
    expect(mail.files).toEqual([expect.stringMatching(/^saltmarsh-ferry-line-.*\.html$/u)]);
    const { items: kept } = await stage.marit.listKeptReports({ params: { client: 'saltmarsh' } });
    expect(kept).toMatchObject([{ sentTo: MARIT, by: null }]);
    const [after] = await orders();
    expect(Date.parse(after?.nextAt ?? '') - Date.parse(order.nextAt)).toBeGreaterThan(6 * DAY);
  });

  it('names no other client’s site, and leads nobody of the client’s into the console', async () => {
    const order = await stage.marit.addReport({
      body: { client: 'saltmarsh', email: OFFICE, every: 'month', at: '08:30' },
    });
    const mail = await sent(order, OFFICE);
    expect(`${mail.subject}${mail.text}${mail.html}`).not.toMatch(/kiln|tidewell/iu);
    expect(mail.text).not.toContain('/properties/');
  });

  it('is stopped by its receiver’s program by one request, and by nobody who only looks (RFC 8058)', async () => {
    const mail = mails().findLast(({ to }) => to === OFFICE);
    const link = stopLink(mail?.headers ?? {});
    // Its link is none under TLS here.
    expect(mail?.headers['list-unsubscribe-post']).toBeUndefined();
    expect(stopHeaders('https://yard.example/stop/x')['List-Unsubscribe-Post']).toBe(
      'List-Unsubscribe=One-Click',
    );
    expect(mail?.text).toContain(link);
    const before = (await orders()).length;
    const page = await fetch(link);
    expect(page.headers.get('x-robots-tag')).toContain('noindex');
    expect(await page.text()).toContain('the report of Saltmarsh Ferry Line');
    await fetch(link, { method: 'HEAD' });
    expect(await orders()).toHaveLength(before);
    // A made-up, cut or lengthened token is answered as one that was used.
    for (const wrong of [`${link}x`, link.slice(0, -1), link.replace(/stop\/.*/u, 'stop/nobody.nothing')]) {
      const answer = await fetch(wrong, { method: 'POST', body: new URLSearchParams() });
      expect(await answer.text()).toContain('Nothing is sent by this link any more.');
    }
    expect(await orders()).toHaveLength(before);
    const body = new URLSearchParams({ 'List-Unsubscribe': 'One-Click' });
    for (let times = 0; times < 2; times += 1)
      expect((await fetch(link, { method: 'POST', body })).status).toBe(200);
    expect(await orders()).toHaveLength(before - 1);
    expect(await (await fetch(link)).text()).toContain('Nothing is sent by this link any more.');
    const { items } = await stage.marit.journal({ query: { kind: 'report.stopped' } });
    expect(items).toHaveLength(1);
    expect(items[0]?.says).toBe(`${OFFICE} wants no more of the report of Saltmarsh Ferry Line.`);
  });

  it('takes the form in parts too, as mail programs send it', async () => {
    const order = await stage.marit.addReport({
      body: { client: 'kiln', email: 'ida@kiln.example', every: 'month' },
    });
    const mail = await sent(order, 'ida@kiln.example');
    const form = new FormData();
    form.set('List-Unsubscribe', 'One-Click');
    expect((await fetch(stopLink(mail.headers), { method: 'POST', body: form })).status).toBe(200);
    expect((await orders()).some(({ id }) => id === order.id)).toBe(false);
  });

  it('of all clients tells sums, and what needs care; and what was missed is in the next', async () => {
    const order = await stage.marit.addReport({ body: { person: 'me', every: 'week' } });
    await stage.world.advance(15 * DAY);
    const mail = await until(
      () => Promise.resolve(mails().filter(({ subject }) => subject.startsWith('How all websites stand'))),
      (all) => all.length > 0,
    );
    expect(mail).toHaveLength(1);
    expect(mail[0]?.text).toMatch(/2 websites; \d+ proofs? of ownership/u);
    expect(mail[0]?.text).toContain('WHAT NEEDS CARE');
    await stage.marit.endReport({ params: { id: order.id } });
    expect((await orders()).some(({ id }) => id === order.id)).toBe(false);
  });

  it.each<[string, object, string]>([
    ['to nobody', { every: 'week' }, 'bad-input'],
    ['to two', { every: 'week', person: 'me', email: 'a@b.example' }, 'bad-input'],
    ['of all, to a stranger', { every: 'week', email: 'a@b.example' }, 'bad-input'],
    [
      'to a contact without an address',
      { every: 'week', client: 'kiln', contact: true },
      'no-contact-address',
    ],
    ['in a rhythm that is none', { every: 'day', person: 'me' }, 'bad-input'],
    ['in a zone that is none', { every: 'week', person: 'me', zone: 'Mars/Olympus' }, 'no-such-zone'],
    ['to somebody who is not here', { every: 'week', person: 'olga' }, 'no-such-person'],
  ])('is not ordered %s', async (_, body, code) => {
    await expect(stage.marit.addReport({ body: body as never })).rejects.toMatchObject({ problem: { code } });
  });

  it('goes to the contact on record, where that has an address', async () => {
    await stage.marit.editClient({
      params: { client: 'kiln' },
      body: { contact: 'Ida Kiln <ida@kiln.example>, phone' },
    });
    const order = await stage.marit.addReport({ body: { client: 'kiln', contact: true, every: 'month' } });
    expect(order.email).toBe('ida@kiln.example');
  });
});
