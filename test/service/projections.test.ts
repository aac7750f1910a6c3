import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { Worklist } from '../../src/api/documents.js';
import type { Client } from '../../src/client/client.js';
import { EnrolmentRow } from '../../src/store/models/enrolments.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 86_400_000;

describe('where everything stands, kept ready', () => {
  let stage: Stage;
  let marit: Client;
  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    await placeAll(stage, await takeOnFerries(stage));
    await marit.addClient({ body: { name: 'Kiln & Daughters', handle: 'kiln', audience: ['FI'] } });
    for (const [name, address] of [
      ['kiln', 'tidewell-clocks.example'],
      ['kiln-shop', 'button-museum.example'],
      ['kiln-museum', 'bollard-ropes.example'],
      ['kiln-school', 'compass-tea.example'],
    ] as const)
      await marit.finished({
        id: (await marit.addProperty({ body: { client: 'kiln', address, handle: name } })).job,
      });
  });
  afterAll(() => stage.close());

  /** What a person with the file open could do to it. */
  const spoil = async (sql: string) => {
    if (!EnrolmentRow.sequelize) throw new Error('the records are open');
    await EnrolmentRow.sequelize.query(sql);
  };
  const kinds = (list: Worklist) => list.items.map(({ step }) => step.kind);

  it('is what the facts say, and is named where it is not', async () => {
    const whole = await marit.verifyRecords();
    expect(whole).toMatchObject({ properties: 5, differing: [] });
    expect(whole.rows).toBeGreaterThan(20);
    await spoil(`UPDATE standings SET badge = 'held' WHERE handle = 'ferries' AND engine = 'house'`);
    await spoil(`DELETE FROM yard_rows WHERE handle = 'kiln'`);
    await spoil(
      `INSERT INTO entries (place, propertyId, clientId, kind, acts, engines, badges, words, document)
         SELECT '00 made up', propertyId, clientId, kind, acts, engines, badges, words, document FROM entries LIMIT 1`,
    );
    const { differing } = await marit.verifyRecords();
    expect(differing.map(({ table, kept, derived }) => [table, kept !== null, derived !== null])).toEqual(
      expect.arrayContaining([
        ['standings', true, true],
        ['yard_rows', false, true],
        ['entries', true, false],
      ]),
    );
    expect(differing).toHaveLength(3);
    await spoil(`INSERT INTO stale SELECT id, random() FROM properties WHERE true ON CONFLICT DO NOTHING`);
    await marit.addClient({ body: { name: 'Anybody' } });
    expect((await marit.verifyRecords()).differing).toEqual([]);
  });

  it('marks whatever is written as stale, whoever writes it', async () => {
    await marit.yard();
    // Written past the service's own functions: the records themselves see it.
    await spoil(
      `UPDATE enrolments SET missingSince = '2033-05-01T00:00:00.000Z' WHERE engine = 'veldrane' AND reach = 'name'`,
    );
    const [row] = (await EnrolmentRow.sequelize?.query('SELECT COUNT(*) AS count FROM stale'))?.[0] as [
      { count: number },
    ];
    expect(row.count).toBe(1);
    await spoil(`UPDATE enrolments SET missingSince = NULL`);
  });

  it('shows what was written to the one who wrote it', async () => {
    for (let time = 0; time < 5; time += 1) {
      await stage.results(marit.check({ body: { enrolments: ['ferries@house'] } }));
      const [one, two] = [`held-${String(time)}`, `kiln-${String(time)}`];
      await marit.editProperty({
        params: { property: time === 0 ? 'kiln-shop' : `kiln-${String(time - 1)}` },
        body: { handle: two },
      });
      expect(
        (await marit.yard({ query: { match: two } })).items.map(({ property }) => property.handle),
      ).toEqual([two]);
      expect((await marit.yard({ query: { match: one } })).items).toEqual([]);
    }
    await marit.editProperty({ params: { property: 'kiln-4' }, body: { handle: 'kiln-shop' } });
  });

  it('turns by time alone', async () => {
    await stage.results(
      marit.enrol({
        body: {
          properties: ['ferries'],
          engines: ['sundrel'],
          facts: { kind: 'transport', languages: 'fi en' },
        },
      }),
    );
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries@sundrel'] } }));
    const of = async () => kinds(await marit.worklist({ query: { property: 'ferries', engine: 'sundrel' } }));
    expect(await of()).toEqual(['place']);
    await stage.world.advance(15 * DAY);
    expect(await of()).toEqual(['renew-token']);
  });

  it('gathers one cause at one property, and says which engines it touches', async () => {
    const { items } = await marit.worklist({ query: { property: 'kiln' } });
    const enrol = items.filter(({ step }) => step.kind === 'enrol');
    expect(enrol).toHaveLength(1);
    expect(enrol[0]?.engines.length).toBeGreaterThan(2);
    for (const { title } of enrol[0]?.engines ?? []) expect(enrol[0]?.step.says).toContain(title);
  });

  it('gathers what many properties want of one engine, and does it in one go', async () => {
    const { items, counts } = await marit.worklist({ query: { kind: 'enrol' } });
    expect(counts).toEqual({ enrol: items.length });
    const many = items.find(({ engines }) => engines[0]?.id === 'veldrane');
    expect([many?.properties, many?.engines.length]).toEqual([4, 1]);
    expect(many?.step.says).toMatch(/^Enrol 4 properties with Veldrane/);
    const results = await stage.results(
      marit.enrol({ body: { missing: true, client: 'kiln', engines: ['veldrane'] } }),
    );
    expect(results.filter(({ problem }) => problem === undefined)).toHaveLength(4);
    const left = (await marit.worklist({ query: { kind: 'enrol' } })).items;
    expect(left.filter(({ engines }) => engines[0]?.id === 'veldrane')).toEqual([]);
    expect(await stage.results(marit.enrol({ body: { missing: true, engines: ['veldrane'] } }))).toEqual([]);
  });

  it.each([1, 2, 3, 7])('skips nothing and shows nothing twice, %s at a time', async (limit) => {
    const whole = await marit.worklist({ query: { limit: 500 } });
    const all = whole.items.map((one) => JSON.stringify(one));
    const seen: string[] = [];
    let after: string | null = null;
    do {
      const page: Worklist = await marit.worklist({ query: { limit, ...(after === null ? {} : { after }) } });
      expect(page.items.length).toBeLessThanOrEqual(limit);
      expect(page.counts).toEqual(whole.counts);
      seen.push(...page.items.map((one) => JSON.stringify(one)));
      after = page.next;
    } while (after !== null);
    expect(seen).toEqual(all);
    expect(Object.values(whole.counts).reduce((sum, count) => sum + count, 0)).toBe(all.length);
  });

  test.each([
    [
      'of a client',
      { client: 'kiln' },
      ({ property }: Worklist['items'][number]) => property.client.handle === 'kiln',
    ],
    [
      'at an engine',
      { engine: 'house' },
      ({ engines }: Worklist['items'][number]) => engines.some(({ id }) => id === 'house'),
    ],
    ['of a kind', { kind: 'get-token' }, ({ step }: Worklist['items'][number]) => step.kind === 'get-token'],
    [
      'that are up to us',
      { acts: 'us' as const },
      ({ step }: Worklist['items'][number]) => step.acts === 'us',
    ],
    [
      'with a badge at an engine',
      { engine: 'veldrane', badge: 'bare' as const },
      ({ enrolments }: Worklist['items'][number]) =>
        enrolments.some(({ badge, engine }) => badge === 'bare' && engine === 'veldrane'),
    ],
    [
      'with a text',
      { match: 'Saltmarsh' },
      ({ property }: Worklist['items'][number]) => property.client.handle === 'saltmarsh',
    ],
  ])('shows those %s, and no others', async (_, query, fits) => {
    const { items, counts } = await marit.worklist({ query });
    expect(items.length).toBeGreaterThan(0);
    expect(items.every(fits)).toBe(true);
    expect(Object.values(counts).reduce((sum, count) => sum + count, 0)).toBe(items.length);
    if ('engine' in query && 'badge' in query) return;
    const others = (await marit.worklist({ query: { limit: 500 } })).items.filter(
      (one) => one.properties === 1 && fits(one),
    );
    expect(items.filter(({ properties }) => properties === 1)).toHaveLength(others.length);
  });

  it('counts badges beside the yard, whatever the page', async () => {
    const { counts, items, next } = await marit.yard({ query: { limit: 1 } });
    expect([items.length, counts['all'], next]).toEqual([1, 5, 'ferries']);
    expect(counts['bare']).toBe(4);
    const some = await marit.yard({ query: { badge: 'bare', engine: 'veldrane' } });
    expect(some.items.map(({ property }) => property.handle)).toEqual([
      'kiln',
      'kiln-museum',
      'kiln-school',
      'kiln-shop',
    ]);
    expect(
      (await marit.yard({ query: { kind: 'renew-token' } })).items.map(({ property }) => property.handle),
    ).toEqual(['ferries']);
  });

  it('shows all else where the profile of one engine is gone', async () => {
    await spoil(`UPDATE enrolments SET engine = 'gone' WHERE engine = 'sundrel'`);
    await marit.addClient({ body: { name: 'Somebody' } });
    const { items } = await marit.yard();
    expect(items).toHaveLength(5);
    const ferries = items.find(({ property }) => property.handle === 'ferries');
    expect(ferries?.enrolments.map(({ engine }) => engine.id)).toEqual(['house', 'veldrane', 'veldrane']);
    await spoil(`UPDATE enrolments SET engine = 'sundrel' WHERE engine = 'gone'`);
  });

  it('forgets what is archived, and derives all anew where an engine’s rules are others', async () => {
    await marit.archiveProperty({ params: { property: 'kiln-school' } });
    expect((await marit.yard({ query: { match: 'school' } })).items).toEqual([]);
    await marit.editClient({ params: { client: 'kiln' }, body: { audience: ['BR'] } });
    const before = (await marit.yard({ query: { match: 'kiln-museum' } })).items[0]?.fits;
    await marit.editClient({ params: { client: 'kiln' }, body: { audience: ['FI'] } });
    expect((await marit.yard({ query: { match: 'kiln-museum' } })).items[0]?.fits).not.toEqual(before);
  });
});
