import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';

describe('variants from the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);

  beforeAll(async () => {
    stage = await openStage();
    await cli('client', 'add', 'Harbour', '--handle', 'harbour');
    await cli('property', 'add', 'tar-barrel.example', '--client', 'harbour', '--handle', 'tar');
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it('prints one table, then what was found with the sentence to send', async () => {
    const { out, status } = await cli('variants', 'tar');
    expect(status).toBe(0);
    const rows = out.split('\n').map((line) => line.split(/ {2,}/u).slice(0, 3));
    expect(rows.slice(0, 5)).toEqual([
      ['variant', 'role', 'what it does'],
      ['https://tar-barrel.example/', 'front door', 'where visitors end up'],
      ['http://tar-barrel.example/', 'leads, temporary', 'leads to the front door by a temporary redirect'],
      ['http://www.tar-barrel.example/', 'leads, refresh', 'leads to the front door by a meta refresh'],
      ['https://www.tar-barrel.example/', 'leads, script', 'leads to the front door by a script'],
    ]);
    expect(out).toContain(
      '→ Please let http://tar-barrel.example/ redirect to https://tar-barrel.example/ with status 301 or 308',
    );
  });

  it('explains what was seen', async () => {
    const { out } = await cli('variants', 'tar', '--explain');
    expect(out).toMatch(/302 temporary +→ https:\/\/tar-barrel\.example\//);
    expect(out).toMatch(
      /certificate +for tar-barrel\.example, www\.tar-barrel\.example, by Rehearsal Authority/,
    );
  });

  it('has every host that is added, and none that is taken off', async () => {
    await cli('rehearsal', 'new-site', 'tar-shop.example', 'Tar Shop');
    expect((await cli('variants', 'tar', '--add-host', 'tar-shop.example')).out).toContain(
      'https://tar-shop.example/',
    );
    expect((await cli('variants', 'tar', '--drop-host', 'tar-shop.example')).out).not.toContain('tar-shop');
    expect(await cli('variants', 'tar', '--drop-host', 'tar-shop.example')).toMatchObject({ status: 2 });
    expect((await cli('variants', 'tar', '--add-host', '192.0.2.1')).err).toContain('IP address');
  });

  it('shows the plan without following it, and follows it', async () => {
    const shown = await cli('enrol', 'tar', '--fitting', '--show');
    expect(shown.out).toContain('address, to enrol');
    expect((await stage.marit.listEnrolments({ query: { property: 'tar' } })).items).toEqual([]);
    const done = await cli('enrol', 'tar', '--fitting');
    expect(done.status).toBe(0);
    const { items } = await stage.marit.listEnrolments({ query: { property: 'tar' } });
    expect(items.map(({ engine, target }) => [engine.id, target])).toEqual([
      ['house', 'https://tar-barrel.example/'],
      ['ostrime', 'https://tar-barrel.example/'],
      ['veldrane', 'https://tar-barrel.example/'],
    ]);
    const again = await cli('enrol', 'tar', '--fitting');
    expect(again.out).toContain('is enrolled already');
    expect((await stage.marit.listEnrolments({ query: { property: 'tar' } })).items).toHaveLength(3);
  });

  it('takes the name where the zone is at hand', async () => {
    await cli('property', 'add', 'twin-lights.example', '--client', 'harbour', '--handle', 'twin');
    await cli('property', 'edit', 'twin', '--zone', 'yes');
    const { out } = await cli('enrol', 'twin', '--fitting', '--show');
    expect(out).toMatch(/veldrane +name, to enrol +twin-lights\.example/);
    const plans = JSON.parse((await cli('enrol', 'twin', '--fitting', '--show', '--json')).out) as {
      items: { engine: { id: string }; plan: unknown[] }[];
    };
    expect(plans.items.find(({ engine }) => engine.id === 'ostrime')?.plan).toHaveLength(4);
  });

  it('looks at all in one job, and ends with 1 where engines are kept out', async () => {
    await cli('property', 'add', 'puffin-print.example', '--client', 'harbour', '--handle', 'print');
    const all = await cli('variants', '--all');
    expect(all.out).toContain('forbids engines to fetch');
    expect(await cli('variants', 'print')).toMatchObject({ status: 1 });
    expect((await cli('next', '--client', 'harbour')).out.split('\n')[1]).toMatch(/^mend-site +print {2}/);
  });

  it('says what is expected', async () => {
    expect((await cli('variants')).err).toContain('Name a property, or give --all');
    expect((await cli('variants', 'tar', '--all')).status).toBe(2);
    expect((await cli('enrol', 'tar', '--engine', 'veldrane', '--show')).err).toContain('--fitting');
  });
});
