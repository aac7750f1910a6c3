import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { JournalEntry } from '../../src/api/documents.js';
import type { InputOf } from '../../src/api/routes.js';
import { ApiProblem } from '../../src/client/client.js';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

type Query = NonNullable<InputOf<'journal'>['query']>;

const HOUR = 3_600_000;

describe('the journal, asked for a part of it', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-journal-'));
  const cli = cliAt(() => stage, home);
  const read = async (query: Query): Promise<JournalEntry[]> =>
    (await stage.marit.journal({ query: { limit: 500, ...query } })).items;
  const kinds = async (query: Query) => [...new Set((await read(query)).map(({ kind }) => kind))].sort();

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    const { client: jonas } = await stage.person('jonas', 'consultant');
    await stage.world.advance(HOUR);
    await jonas.addClient({ body: { name: 'Quay', handle: 'quay' } });
    await stage.world.advance(HOUR);
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.marit.editClient({ params: { client: 'quay' }, body: { contact: 'Aino' } });
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  test.each<[string, Query, string[]]>([
    ['of one kind', { kind: 'client.edited' }, ['client.edited']],
    ['of all kinds that begin alike', { kind: 'client' }, ['client.added', 'client.edited']],
    ['of a kind that is one word', { kind: 'check' }, ['check']],
    ['of a kind that begins another', { kind: 'enrol' }, []],
    ['by one person', { who: 'jonas' }, ['client.added']],
    ['by one person, in another case', { who: 'JONAS' }, ['client.added']],
    ['by one person and of one kind', { who: 'marit', kind: 'client' }, ['client.added', 'client.edited']],
    ['of one client', { client: 'quay' }, ['client.added', 'client.edited']],
  ])('%s', async (_, query, expected) => {
    expect(await kinds(query)).toEqual(expected);
  });

  it('between two times', async () => {
    const all = await read({});
    const added = all.find(({ who }) => who === 'jonas');
    if (!added) throw new Error('jonas did nothing');
    const between = { from: added.at, until: new Date(Date.parse(added.at) + HOUR / 2).toISOString() };
    expect((await read(between)).map(({ seq }) => seq)).toEqual([added.seq]);
    expect(await read({ from: '2999-01-01' })).toEqual([]);
    expect(await read({ until: '2000-01-01' })).toEqual([]);
    expect(await read({ until: '2999-01-01' })).toEqual(all);
    expect([...(await read({ from: added.at })), ...(await read({ until: added.at }))]).toEqual(all);
  });

  it('by pages that skip nothing, whatever it is narrowed to', async () => {
    const seen: number[] = [];
    for (let after: string | undefined; ;) {
      const page = await stage.marit.journal({
        query: { who: 'marit', limit: 3, ...(after === undefined ? {} : { after }) },
      });
      seen.push(...page.items.map(({ seq }) => seq));
      if (page.next === null) break;
      after = page.next;
    }
    expect(seen).toEqual((await read({ who: 'marit' })).map(({ seq }) => seq));
  });

  it('says whom and what it does not know', async () => {
    const refused = async (query: Query) => {
      const error: unknown = await stage.marit.journal({ query }).catch((thrown: unknown) => thrown);
      return error instanceof ApiProblem ? error.problem.detail : '';
    };
    expect(await refused({ who: 'nobody' })).toContain('There is no person “nobody”');
    expect(await refused({ kind: 'All Of It' })).toContain('a kind of happening, such as claim');
    expect(await refused({ from: 'yesterday' })).toContain('“yesterday” is no time');
  });

  it('goes out as JSON lines, all of it', async () => {
    const { out, status } = await cli('journal', '--who', 'marit', '--json-lines');
    const lines = out
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as JournalEntry);
    expect(status).toBe(0);
    expect(lines).toEqual(await read({ who: 'marit' }));
    expect((await cli('journal', '--kind', 'client', '--from', '2020-01-01', '--limit', '2')).out).toMatch(
      /2 newest entries \(client\); as marit sees them\. --limit N or --after p-[\w-]+ shows more\./u,
    );
    expect((await cli('journal', '--from', 'soon')).err).toContain('“soon” is no day');
  });
});
