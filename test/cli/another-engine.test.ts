import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Enrolment } from '../../src/api/documents.js';
import { SUNDREL, type EngineRules } from '../../src/rehearsal/engines/rules.js';
import { runCli, type Ran } from '../support/built.js';
import { openStage, placeAll, type Stage } from '../support/stage.js';

/** An engine that neither the product nor the rehearsal knows: its rules live in this test alone. */
const GANNET: EngineRules = {
  ...SUNDREL,
  id: 'gannet',
  title: 'Gannet',
  asks: ['ships'],
  token: { make: (random) => random.toString('hex').slice(0, 40), sharedByAccount: false, livesHours: 48 },
  meta: { name: 'gannet-perch', takes: 'any' },
  file: { path: (token) => `/perches/${token.slice(0, 40)}.perch`, content: (token) => `perch ${token}` },
  dns: { owner: (name) => `_gannet.${name}`, value: (token) => `perch:${token}` },
  follows: 'host',
  lookEveryHours: 24,
  sitemapForm: 'path',
};

const PROFILE = `
id: gannet
title: Gannet
audience: [IS, FO]
share: { IS: 31 }
worked: { how: link, base: 'http://link.gannet.example/' }
reaches: [address]
facts: [{ id: ships, title: How many ships it has }]
token: { per: enrolment, livesUnclaimed: P2D, shape: { signs: hex, length: 40 } }
methods:
  meta: { name: gannet-perch, compare: exact, redirects: host }
  file: { path: '/perches/{token}.perch', content: 'perch {token}', compare: exact }
  dns: { label: _gannet, value: 'perch:{token}', compare: exact, reaches: [address] }
keeps: { looksEvery: P1D, grace: PT0S }
sitemaps: { form: path, formats: [urlset, index], limit: 20, firstReading: P2D }
`;

describe('another engine, by its profile alone', () => {
  let stage: Stage;
  const cli = (...args: string[]): Promise<Ran> =>
    runCli(args, { YARDBADGE_URL: stage.url, YARDBADGE_KEY: stage.key }, '', stage.folder);

  beforeAll(async () => {
    stage = await openStage({}, [GANNET]);
    await cli('client', 'add', 'Saltmarsh Ferry Line', '--handle', 'saltmarsh', '--audience', 'IS');
    await cli('property', 'add', 'saltmarsh-ferries.example', '--client', 'saltmarsh', '--handle', 'ferries');
  });
  afterAll(() => stage.close());

  it('is known nowhere in the program', () => {
    const src = fileURLToPath(new URL('../../src', import.meta.url));
    expect(() => execFileSync('grep', ['-ril', 'gannet', src])).toThrow();
  });

  it('is refused with file and key while its profile does not fit', async () => {
    const file = join(stage.folder, 'gannet.yaml');
    writeFileSync(file, PROFILE.replace('P1D', 'one day').replace('exact, redirects: host', 'fuzzy'));
    const refused = await cli('engine', 'add', file);
    expect(refused.status).toBe(2);
    expect(refused.err).toContain('gannet.yaml: “keeps.looksEvery”: “one day” is not an ISO 8601 duration');
    expect(refused.err).toContain(
      'gannet.yaml: “fuzzy” does not fit “methods.meta.compare”; expected exact or trimmed',
    );
    expect((await cli('engine', 'add', join(stage.folder, 'nothing.yaml'))).err).toContain(
      'there is no such file',
    );
  });

  it('is added, given a key from a file, and told in words', async () => {
    const file = join(stage.folder, 'gannet.yaml');
    writeFileSync(file, PROFILE);
    const added = await cli('engine', 'add', file);
    expect(added.status).toBe(0);
    expect(added.out).toContain('Looks again every 1 day; withdraws at once when the token is gone.');
    expect(added.out).toContain('key none');
    const key = stage.world.keys['gannet']?.['agency'] ?? '';
    writeFileSync(join(stage.folder, 'gannet.key'), `${key}\n`, { mode: 0o600 });
    const given = await cli(
      'account',
      'key',
      'gannet/agency',
      '--key-file',
      join(stage.folder, 'gannet.key'),
    );
    expect(given.out).toContain('kept sealed');
    expect(given.out + given.err).not.toContain(key);
  });

  it('fits its audience, asks its question once, and enrols', async () => {
    expect((await cli('engine', 'fit', 'ferries')).out).toContain(
      'Matters in IS, where its audience is (31 % in IS)',
    );
    const asked = await cli('enrol', 'ferries', '--fitting');
    expect(asked.status).toBe(1);
    expect(asked.out).toContain('How many ships it has (ships)');
    const enrolled = await cli('enrol', 'ferries', '--engine', 'gannet', '--fact', 'ships=7');
    expect(enrolled.out).toContain('Enrolled at Gannet by address: https://www.saltmarsh-ferries.example/');
  });

  it('is proven, claimed and held, and stays so when it looks again', async () => {
    const token = await cli('token', 'ferries@gannet', '--json');
    const { placements } = JSON.parse(token.out) as { placements: Enrolment['placements'] };
    expect(placements.map(({ method }) => method)).toEqual(['meta', 'file', 'dns']);
    await placeAll(stage, [{ placements } as Enrolment]);
    const checked = await cli('check', 'ferries@gannet');
    expect(checked.status).toBe(0);
    expect(checked.out.match(/✓ accept/g)).toHaveLength(3);
    const claimed = await cli('claim', 'ferries@gannet', '--method', 'dns');
    expect(claimed.out).toContain('Gannet confirmed ferries@gannet:address: held.');
    const submitted = await cli('sitemap', 'submit', 'ferries', 'sitemap.xml', '--to', 'ferries@gannet');
    expect(submitted.out).toContain('Submitted to Gannet as /sitemap.xml');
    await stage.world.advance(3 * 86_400_000);
    expect((await cli('check', 'ferries@gannet', '--method', 'dns')).status).toBe(0);
    expect((await cli('sitemap', 'read', 'ferries')).out).toContain('equal');
    expect((await cli('yard')).out).toMatch(/Gannet[\s\S]*● held/);
  });

  it('loses its badge when its record goes, as its rules say', async () => {
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'txt' });
    await stage.world.advance(26 * 3_600_000);
    await cli('check', 'ferries@gannet', '--method', 'dns');
    expect((await cli('yard')).out).toMatch(/✕ lost/);
  });
});
