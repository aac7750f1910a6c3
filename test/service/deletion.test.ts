import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const params = { property: 'ferries' };
type Row = Readonly<Record<string, unknown>>;

/** Tables that keep what is in them, or let go of it after their time. */
const STAYS = ['journal', 'jobs', 'job_items', 'replays', 'messages', 'sqlite_sequence'];

describe('the records of a client that has gone', () => {
  let stage: Stage;

  const rows = (sql: string) =>
    new Promise<Row[]>((done, fail) => {
      const file = new sqlite3.Database(join(stage.folder, 'yardbadge.sqlite'), sqlite3.OPEN_READONLY);
      file.all(sql, (error: Error | null, found: Row[]) => {
        file.close();
        if (error) fail(error);
        else done(found);
      });
    });
  /** Every row of every table, as text, by table. */
  const everything = async () => {
    const tables = await rows(`SELECT name FROM sqlite_master WHERE type = 'table'`);
    const all = new Map<string, string[]>();
    for (const { name } of tables)
      if (!STAYS.includes(String(name)))
        all.set(
          String(name),
          (await rows(`SELECT * FROM ${String(name)}`)).map((row) => JSON.stringify(row)),
        );
    return all;
  };
  /** Identifiers of all that is of the client, however far from it. */
  const idsOf = async (handle: string): Promise<string[]> => {
    const found = await rows(
      `WITH c AS (SELECT id FROM clients WHERE handle LIKE '${handle}%'), p AS (SELECT id FROM properties WHERE clientId IN c),
         e AS (SELECT id FROM enrolments WHERE propertyId IN p), s AS (SELECT id FROM sitemaps WHERE propertyId IN p)
       SELECT id FROM c UNION SELECT id FROM p UNION SELECT id FROM e UNION SELECT id FROM s
         UNION SELECT id FROM tokens WHERE enrolmentId IN e UNION SELECT id FROM checks WHERE enrolmentId IN e
         UNION SELECT id FROM readings WHERE sitemapId IN s UNION SELECT id FROM submissions WHERE sitemapId IN s
         UNION SELECT id FROM makings WHERE propertyId IN p UNION SELECT id FROM made_versions WHERE propertyId IN p
         UNION SELECT id FROM carry_places WHERE propertyId IN p UNION SELECT id FROM contacts WHERE clientId IN c
         UNION SELECT id FROM letters WHERE clientId IN c UNION SELECT id FROM shared_links WHERE clientId IN c
         UNION SELECT id FROM handovers WHERE clientId IN c`,
    );
    return found.map(({ id }) => String(id));
  };
  const touching = (all: ReadonlyMap<string, string[]>, ids: readonly string[]) =>
    [...all].flatMap(([table, some]) =>
      some.some((row) => ids.some((id) => row.includes(id))) ? [table] : [],
    );

  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    const enrolments = await takeOnFerries(stage);
    await placeAll(stage, enrolments);
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.results(marit.claim({ body: { enrolments: ['ferries'] } }));
    const root = join(stage.folder, 'web/ferries');
    mkdirSync(root, { recursive: true });
    await stage.order({ do: 'pages', host: HOST, count: 30 });
    await stage.results(marit.makeSitemap({ params, body: {} }));
    await marit.writeSitemap({ params, body: {} });
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemap.xml', addresses: 40 });
    const { id: sitemap } = await marit.addSitemap({
      body: { property: 'ferries', address: '/sitemap.xml' },
    });
    await stage.results(marit.submitSitemap({ body: { sitemap, anyway: true } }));
    await stage.results(marit.readSitemaps({ body: { sitemap } }));
    await stage.results(marit.readContents({ params: { sitemap } }));
    await stage.order({ do: 'web-root', host: HOST, folder: root });
    await marit.addTarget({ params, body: { way: 'folder', root } });
    await stage.results(marit.publish({ params, body: {} }));
    await marit.keepRobots({ params, body: { text: 'User-agent: *\nDisallow: /staff\n', over: null } });
    await stage.results(marit.lookAtVariants({ body: { properties: ['ferries'] } }));
    const client = 'saltmarsh';
    await marit.addContact({ body: { client, name: 'Mika Reed', role: 'developer' } });
    const { url } = await marit.addLink({ body: { client, word: 'the developer' } });
    await fetch(url);
    await stage.order({ do: 'clear', host: HOST, what: 'txt' });
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    await marit.writeLetters({ body: { client, way: 'copied' } });
    const { items } = await marit.worklist({ query: params });
    const [step] = items;
    if (!step) throw new Error('nothing is to be done');
    await marit.putOffSteps({
      body: { ...params, kind: step.step.kind, until: '2033-12-01T00:00:00Z', why: 'holidays' },
    });
    await marit.keepReport({ params: { client }, body: {} });
    await marit.editRecipient({ params: { person: 'me' }, body: { email: 'marit@harbour.example' } });
    await marit.addReport({ body: { client, person: 'me', every: 'week' } });
    await marit.addWebhook({ body: { url: 'http://hooks.harbour-lights.example/in', client } });
    await marit.pauseWatch({ body: { property: 'ferries', why: 'being rebuilt' } });
    // Another client's records are as they were, afterwards.
    await marit.addClient({ body: { name: 'Pebble Rye Bakery', handle: 'pebble' } });
    const { job } = await marit.addProperty({
      body: { client: 'pebble', address: 'www.pebble-rye.example', handle: 'bakery' },
    });
    await marit.finished({ id: job });
    await stage.results(marit.enrol({ body: { properties: ['bakery'], engines: ['veldrane'] } }));
    await stage.results(marit.getTokens({ body: { enrolments: ['bakery'] } }));
    await marit.addContact({ body: { client: 'pebble', name: 'Pim', role: 'owner' } });
  });
  afterAll(() => stage.close());

  it('are deleted once it is in the archive, on the day that was said or at a word, by a lead', async () => {
    const { marit } = stage;
    const remove = (more: object = {}, by = marit) =>
      by.deleteClient({ params: { client: 'saltmarsh' }, body: more });
    await expect(remove({ anyway: true })).rejects.toMatchObject({ problem: { code: 'not-archived' } });
    await marit.beginHandover({ params: { client: 'saltmarsh' } });
    await marit.tickHandover({ params: { client: 'saltmarsh' }, body: { item: 'tokens' } });
    const deleteOn = '2034-01-01T00:00:00Z';
    await marit.endHandover({ params: { client: 'saltmarsh' }, body: { deleteOn, anyway: true } });
    await expect(remove()).rejects.toMatchObject({
      problem: { code: 'deletion-not-due', detail: expect.stringContaining('until 2034-01-01') as string },
    });
    const { items: archived } = await marit.listClients({ query: { archived: true } });
    expect(archived).toMatchObject([{ name: 'Saltmarsh Ferry Line', deleteOn: '2034-01-01T00:00:00.000Z' }]);
    expect(archived[0]?.archivedAt).not.toBeNull();
    const { client: jonas } = await stage.person('jonas', 'consultant');
    await expect(remove({ anyway: true }, jonas)).rejects.toMatchObject({ problem: { status: 403 } });
    const [ours, theirs] = [await idsOf('saltmarsh'), await idsOf('pebble')];
    expect(ours.length).toBeGreaterThan(20);
    const before = await everything();
    expect(touching(before, ours).length).toBeGreaterThan(30);
    const [result] = await stage.results(remove({ anyway: true }));
    expect(result?.says).toMatch(/^The records of Saltmarsh Ferry Line were deleted: 1 property, \d+ rows/u);
    // The marks of what is to be derived go as soon as somebody reads.
    await marit.verifyRecords();
    const after = await everything();
    // The journal names these two rows, and nothing else is left in them.
    expect(touching(after, ours).sort()).toEqual(['clients', 'properties']);
    const text = [...after].map(([, some]) => some.join('\n')).join('\n');
    for (const word of ['ferries', 'Saltmarsh', 'Mika Reed', 'being rebuilt', '/staff'])
      expect([word, text.includes(word)]).toEqual([word, false]);
    expect((await marit.listClients({ query: { archived: true } })).items).toEqual([]);
    expect((await marit.listProperties({ query: { archived: true } })).items).toEqual([]);
    const of = (all: ReadonlyMap<string, string[]>) =>
      [...all].map(([table, some]) => [table, some.filter((row) => theirs.some((id) => row.includes(id)))]);
    expect(of(after)).toEqual(of(before));
    expect([...(after.get('made_files') ?? [])]).toEqual([]);
    await expect(remove({ anyway: true })).rejects.toMatchObject({ problem: { code: 'no-such-client' } });
  });

  it('leave the journal as it was, and say there what was done', async () => {
    const { items } = await stage.marit.journal({ query: { limit: 200 } });
    expect(items.some(({ kind }) => kind === 'client.deleted')).toBe(true);
    expect(items.some(({ says }) => says.includes('ferries'))).toBe(true);
    const { items: yard } = await stage.marit.yard({ query: {} });
    expect(yard.map(({ property }) => property.handle)).toEqual(['bakery']);
  });
});
