import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Letter, WorkEntry } from '../../src/api/documents.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

describe('letters to a client’s people', () => {
  let stage: Stage;
  const drafts = async (more: object = {}) =>
    (await stage.marit.draftLetters({ body: { property: 'ferries', ...more } })).items;
  const write = async (more: object = {}): Promise<Letter[]> =>
    (await stage.marit.writeLetters({ body: { property: 'ferries', way: 'mail', ...more } })).items;
  const steps = async (): Promise<WorkEntry[]> =>
    (await stage.marit.worklist({ query: { property: 'ferries' } })).items;
  const mails = () => stage.world.post.mails;

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.marit.editProperty({
      params: { property: 'ferries' },
      body: { access: { zone: 'yes', files: 'no', pages: 'yes' } },
    });
  });
  afterAll(() => stage.close());

  it('go to nobody as long as nobody is there', async () => {
    await expect(drafts()).rejects.toMatchObject({ problem: { code: 'no-contacts' } });
    await expect(
      stage.marit.addContact({
        body: { client: 'saltmarsh', name: 'Mika', role: 'developer', email: 'a, b@c.example' },
      }),
    ).rejects.toMatchObject({ problem: { code: 'bad-input' } });
  });

  it('are one for each contact, each with what that one does best, in their language', async () => {
    const { marit } = stage;
    const body = { client: 'saltmarsh' };
    await marit.addContact({
      body: { ...body, name: 'Mika Reed', role: 'developer', email: 'mika@reed.example' },
    });
    await marit.addContact({
      body: { ...body, name: 'Ole Netzer', role: 'host', email: 'ole@zonen.example', language: 'de' },
    });
    await marit.addContact({ body: { ...body, name: 'Saga Salt', role: 'owner' } });
    const items = await drafts();
    expect(items.map(({ contact }) => contact.name)).toEqual(['Ole Netzer']);
    expect(items[0]?.text).toContain('Guten Tag Ole Netzer');
    expect(items[0]?.text).toContain('update add ');
    expect(items[0]?.text).not.toContain('<meta');
    // With the zone out of reach the page is what is advised: that is the developer’s.
    await marit.editProperty({
      params: { property: 'ferries' },
      body: { access: { zone: 'no', files: 'no', pages: 'yes' } },
    });
    const [first, ...more] = (await drafts()).sort((a, b) => a.contact.name.localeCompare(b.contact.name));
    expect(first?.contact.name).toBe('Mika Reed');
    expect(first?.text).toContain('<meta name=');
    expect(first?.subject).toMatch(/saltmarsh-ferries\.example: (one thing|\d things) to place, please/u);
    expect(more.map(({ contact }) => contact.name)).not.toContain('Saga Salt');
    // Somebody who is there for this property alone takes the place of who is there for all.
    const own = await marit.addContact({
      body: { property: 'ferries', name: 'Pim', role: 'developer', email: 'pim@reed.example' },
    });
    expect((await drafts()).map(({ contact }) => contact.name)).toContain('Pim');
    expect((await drafts()).map(({ contact }) => contact.name)).not.toContain('Mika Reed');
    await marit.endContact({ params: { id: own.id } });
    await expect(drafts({ contacts: ['Nobody'] })).rejects.toMatchObject({
      problem: { code: 'no-such-contact' },
    });
  });

  it('are sent with a link of their own, and to whoever wrote them goes the answer', async () => {
    await stage.marit.editRecipient({ params: { person: 'me' }, body: { email: 'marit@harbour.example' } });
    const [letter] = await write({ contacts: ['Mika Reed'] });
    expect(letter).toMatchObject({
      way: 'mail',
      to: 'mika@reed.example',
      properties: ['ferries'],
      by: 'marit',
    });
    await expect.poll(() => mails().map(({ to }) => to), { timeout: 20_000 }).toContain('mika@reed.example');
    const mail = mails().find(({ to }) => to === 'mika@reed.example');
    expect(mail?.subject).toBe(letter?.subject);
    const [url = ''] = /http:\S+\/shared\/[\w-]+/u.exec(mail?.text.replace(/\n/gu, ' ') ?? '') ?? [];
    expect(await (await fetch(url)).text()).toContain('What to place for');
    expect(mail?.html).toContain(`<a href="${url}">${url}</a>`);
    expect(mail?.headers['reply-to']).toContain('marit@harbour.example');
    // Word by the link comes back to whoever wrote.
    await fetch(`${url}/word`, {
      method: 'POST',
      body: new URLSearchParams({ kind: 'cannot', says: 'No key to the shed.' }),
      redirect: 'manual',
    });
    const toMarit = () =>
      mails().filter(({ to, subject }) => to === 'marit@harbour.example' && /link/u.test(subject));
    // One visit is one mail, once it is over: opened, and said.
    await stage.world.advance(4 * MINUTE);
    await expect.poll(toMarit, { timeout: 20_000 }).toHaveLength(1);
    expect(toMarit()[0]?.text).toMatch(/opened for the first time[\s\S]*No key to the shed/u);
    // The letter has its answer, and what is to be done now is a step of ours.
    const answered = await stage.marit.showLetter({ params: { id: letter?.id ?? '' } });
    expect(answered.answer).toBe('It cannot be done: No key to the shed.');
    await expect
      .poll(async () => (await steps()).find(({ step }) => step.kind === 'write-again')?.step.says ?? '', {
        timeout: 20_000,
      })
      .toMatch(/^Mika Reed answers: “It cannot be done: No key to the shed\.”/u);
    await stage.marit.answerLetter({ params: { id: letter?.id ?? '' }, body: { says: 'Tomorrow then.' } });
    await expect
      .poll(async () => (await steps()).map(({ step }) => step.kind), { timeout: 20_000 })
      .not.toContain('write-again');
    await expect(write({ contacts: ['Saga Salt'] })).rejects.toMatchObject({
      problem: { code: expect.stringMatching(/nothing-to-ask|no-contact-mail/u) as string },
    });
  });

  it('are about what was chosen alone, if something was', async () => {
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    const [one, other] = items.map(({ name }) => name);
    const [all, some] = [await drafts(), await drafts({ enrolments: [one] })].map((each) =>
      each.map(({ text }) => text).join(''),
    );
    const tags = (text = '') => text.match(/<meta name=/gu)?.length ?? 0;
    expect(tags(some)).toBe(1);
    expect(tags(all)).toBeGreaterThan(1);
    expect(tags((await drafts({ enrolments: [one, other] })).map(({ text }) => text).join(''))).toBe(2);
    await expect(drafts({ enrolments: ['quay@veldrane'] })).rejects.toMatchObject({
      problem: { status: 404 },
    });
    await expect(drafts({ alerts: ['none-of-these'] })).rejects.toMatchObject({
      problem: { code: 'no-such-alert' },
    });
  });

  it('have a link that asks for what they ask for, and for nothing else', async () => {
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    const [letter] = await write({ contacts: ['Mika Reed'], enrolments: [items[0]?.name] });
    const [url = ''] = /http:\S+\/shared\/[\w-]+/u.exec(letter?.text ?? '') ?? [];
    const page = await (await fetch(url)).text();
    // The tag is shown whole and as the bare value, for whoever has a box of its own for it.
    const tags = new Set(page.match(/&lt;meta name=&quot;[^&]+&quot; content=&quot;[^&]+/gu));
    expect(tags.size).toBe(1);
    const { items: links } = await stage.marit.listLinks({ query: { property: 'ferries' } });
    expect(links.find(({ word }) => word === 'Mika Reed')?.enrolments).toEqual([items[0]?.name]);
    await expect(
      stage.marit.addLink({ body: { client: 'saltmarsh', enrolments: ['quay@veldrane'] } }),
    ).rejects.toMatchObject({ problem: { status: 404 } });
  });

  it('that nobody answers become a step of ours, until somebody does', async () => {
    await write({ contacts: ['Mika Reed'] });
    expect((await steps()).map(({ step }) => step.kind)).not.toContain('write-again');
    await stage.world.advance(6 * DAY);
    await expect
      .poll(async () => (await steps()).find(({ step }) => step.kind === 'write-again')?.step.says, {
        timeout: 20_000,
      })
      .toMatch(/^Mika Reed has not answered to “.*” of \d{4}-\d\d-\d\d: write again, or note the answer\.$/u);
    const [again] = await drafts({ contacts: ['Mika Reed'] });
    expect(again?.subject).toMatch(/^Once more: /u);
    expect(again?.text).toContain('we wrote about this on');
    // Of the letters to one contact the link of the last one alone works.
    const works = async () =>
      (await stage.marit.listLinks({ query: { property: 'ferries' } })).items.filter(
        ({ word }) => word === 'Mika Reed',
      );
    const [first] = await works();
    const [second] = await write({ contacts: ['Mika Reed'] });
    expect((await works()).map(({ id }) => id)).not.toContain(first?.id);
    expect(await works()).toHaveLength(1);
    await stage.marit.answerLetter({ params: { id: second?.id ?? '' }, body: { says: 'Soon.' } });
    const { items } = await stage.marit.listLetters({ query: { property: 'ferries', open: true } });
    expect(items.length).toBeGreaterThan(0);
    for (const { id } of items) {
      const answered = await stage.marit.answerLetter({ params: { id }, body: { says: 'On Monday.' } });
      expect(answered).toMatchObject({ answer: 'On Monday.' });
    }
    expect((await steps()).map(({ step }) => step.kind)).not.toContain('write-again');
    expect((await stage.marit.listLetters({ query: { open: true } })).items).toHaveLength(0);
  });

  it('are not asked for once more where it was done without a word', async () => {
    await write({ contacts: ['Mika Reed'], way: 'copied', link: false });
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    for (const { placements } of items) for (const one of placements) await stage.order(orderFor(one));
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.world.advance(6 * DAY);
    await expect.poll(async () => (await steps()).length, { timeout: 10_000 }).toBeGreaterThan(0);
    expect((await steps()).map(({ step }) => step.kind)).not.toContain('write-again');
    await expect(drafts()).rejects.toMatchObject({ problem: { code: 'nothing-to-ask' } });
  });

  it('go out in words of one’s own, to one', async () => {
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'meta' });
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'txt' });
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'files' });
    await stage.world.advance(2 * DAY);
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    const text = 'Dear Mika,\n\n<b>please</b> call me.\n';
    const [letter] = await write({ contacts: ['Mika Reed'], subject: 'A call', text });
    expect(letter).toMatchObject({ subject: 'A call', text });
    await expect.poll(() => mails().at(-1)?.subject, { timeout: 20_000 }).toBe('A call');
    expect(mails().at(-1)?.html).toContain('&lt;b&gt;please');
    await expect(write({ contacts: ['Mika Reed'], subject: 'A\nBcc: x@y.example' })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
    expect((await stage.marit.showLetter({ params: { id: letter?.id ?? '' } })).state).toMatch(
      /sent|waiting/u,
    );
  });
});
