import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 86_400_000;

describe('how a property stood over its time', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-history-'));
  const cli = cliAt(() => stage, home);
  const check = () => stage.results(stage.marit.check({ body: { enrolments: ['ferries@house'] } }));

  beforeAll(async () => {
    stage = await openStage();
    const enrolments = await takeOnFerries(stage);
    await stage.world.advance(2 * DAY);
    await placeAll(stage, enrolments.slice(0, 1));
    await check();
    await stage.world.advance(3 * DAY);
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@house'] } }));
    await stage.world.advance(10 * DAY);
    for (const what of ['meta', 'files', 'txt'])
      await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what });
    await check();
    await stage.world.advance(DAY);
    await stage.results(stage.marit.endEnrolment({ params: { enrolment: 'ferries@veldrane:name' } }));
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it('has each badge with its time, the front door, and what has ended', async () => {
    const { enrolments, doors, away } = await stage.marit.history({ params: { property: 'ferries' } });
    const house = enrolments.find(({ name }) => name === 'ferries@house:address');
    expect(house?.badges.map(({ badge }) => badge)).toEqual([
      'bare',
      'issued',
      'in-place',
      'held',
      'slipping',
    ]);
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    for (const one of items)
      expect(enrolments.find(({ name }) => name === one.name)?.badges.at(-1)).toMatchObject({
        badge: one.badge,
        until: null,
      });
    for (const { badges } of enrolments)
      badges.slice(1).forEach(({ from }, at) => {
        expect(from).toBe(badges[at]?.until);
      });
    expect(enrolments.find(({ ended }) => ended)?.badges.at(-1)?.until).not.toBeNull();
    expect(doors).toMatchObject([{ address: 'https://www.saltmarsh-ferries.example/', until: null }]);
    expect(away).toEqual([]);
  });

  it('is told at the command line, whole or for one engine', async () => {
    const { out } = await cli('history', 'ferries@House');
    expect(out).toMatch(
      /ferries@house:address\n {2}[·○◔◑●◍✕]{45} {2}the past 90 days\n {2}◍ slipping +from .* to now\n {2}● held/u,
    );
    expect(out).not.toContain('veldrane');
    expect((await cli('history', 'ferries')).out).toContain('ferries@veldrane:address');
    expect(await cli('history', 'ferries@sundrel')).toMatchObject({ status: 2 });
  });
});
