import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Forecast } from '../../src/core/badge/judge/judge.js';
import { inLanes, openStage, PROFILES, type Row, type Stage } from './stage.js';

/**
 * Every scene times every engine's rules: what our own check says beforehand is held against what the rehearsal's
 * engines, which judge by code of their own, say of the same website and name server.
 */
interface Outcome extends Row {
  readonly forecast: Forecast;
  readonly verdict: boolean;
  readonly reason: string;
  readonly first: string;
  readonly expected: string;
  readonly unfilled: readonly string[];
}

describe('forecast and verdict', () => {
  let stage: Stage;
  let outcomes: Outcome[] = [];

  beforeAll(async () => {
    stage = await openStage();
    const look = async (row: Row): Promise<Outcome> => {
      const { ground, scene } = row;
      const { findings, forecast } = await stage.look(row);
      const verdict = await stage.verdict(row.rules, row, row.method, ground.token);
      return {
        ...row,
        forecast,
        verdict: verdict.ok,
        reason: verdict.reason,
        first: findings[0]?.code ?? 'nothing',
        expected: typeof scene.first === 'string' ? scene.first : scene.first(ground),
        unfilled: findings
          .flatMap(({ says, remedy }) => [says, remedy])
          .filter((text) => /\{\w+\}/.test(text)),
      };
    };
    // A website that is slow because the machine is busy is looked at once more, with nothing beside.
    outcomes = await inLanes(stage.rows, 12, look);
    for (const [at, one] of outcomes.entries())
      if (one.first === 'reach.slow' && one.expected !== one.first) outcomes[at] = await look(one);
  }, 600_000);
  afterAll(() => stage.close());

  const agrees = ({ forecast, verdict }: Outcome) =>
    forecast === 'unsure' || (forecast === 'accept') === verdict;

  it('agree wherever the forecast is not unsure', () => {
    process.stdout.write(`\n${report(outcomes, agrees)}\n`);
    const apart = outcomes.filter((one) => !agrees(one));
    expect(
      apart.map(
        ({ title, forecast, first, verdict, reason }) =>
          `${title}: ${forecast} (${first}), engine ${verdict ? 'confirmed' : reason}`,
      ),
    ).toEqual([]);
    expect(outcomes.length).toBeGreaterThan(400);
  });

  it('leave under 5 % unsure, and are not all alike', () => {
    const share = (forecast: Forecast) =>
      outcomes.filter((one) => one.forecast === forecast).length / outcomes.length;
    expect(share('unsure')).toBeLessThan(0.05);
    expect(share('unsure')).toBeGreaterThan(0);
    expect(share('accept')).toBeGreaterThan(0.1);
  });

  it('rest on the finding that is the cause, told first and in full sentences', () => {
    const wrong = outcomes.filter(({ first, expected }) => first !== expected);
    expect(wrong.map(({ title, first, expected }) => `${title}: ${first} in place of ${expected}`)).toEqual(
      [],
    );
    expect(outcomes.flatMap(({ unfilled }) => unfilled)).toEqual([]);
  });
});

/** The agreement, by method and engine, as the test's output shows it. */
function report(outcomes: readonly Outcome[], agrees: (one: Outcome) => boolean): string {
  const line = (cells: readonly (string | number)[]) =>
    cells.map((cell, at) => (at === 0 ? String(cell).padEnd(22) : String(cell).padStart(12))).join('');
  const counted = (what: string, some: readonly Outcome[]) =>
    line([
      what,
      some.length,
      some.filter((one) => one.forecast !== 'unsure' && agrees(one)).length,
      some.filter((one) => !agrees(one)).length,
      some.filter(({ forecast }) => forecast === 'unsure').length,
    ]);
  const groups = (['meta', 'file', 'dns'] as const).flatMap((method) =>
    PROFILES.map(({ title }) => ({
      title,
      method,
      some: outcomes.filter((one) => one.method === method && one.engine === title),
    })),
  );
  return [
    line(['forecast and verdict', 'placements', 'agree', 'apart', 'unsure']),
    ...groups
      .filter(({ some }) => some.length > 0)
      .map(({ title, method, some }) => counted(`${method} at ${title}`, some)),
    counted('all', outcomes),
  ].join('\n');
}
