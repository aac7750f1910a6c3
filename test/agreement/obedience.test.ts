import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { remedyActOf } from '../../src/core/findings/catalogue.js';
import type { Finding } from '../../src/core/findings/finding.js';
import { REHEARSAL_ENGINES, type EngineRules } from '../../src/rehearsal/engines/rules.js';
import { placed, tokenLike, type Ground } from './ground.js';
import { obey } from './obeying.js';
import { inLanes, openStage, PROFILES, type Row, type Stage } from './stage.js';

/**
 * Remedies are followed blindly. Every scene times every engine's rules, with the tokens of all other engines standing beside, and one of
 * another holder at the same engine: whoever does exactly what is asked takes nothing away from anybody, and has ours accepted.
 */
interface Neighbour {
  readonly who: string;
  readonly rules: EngineRules;
  readonly at: Pick<Row, 'reach' | 'target'>;
  readonly token: string;
}

interface Obeyed {
  readonly row: Row;
  readonly codes: readonly string[];
  /** What was asked that a developer could not do, or what was to be asked first. */
  readonly last: Finding | null;
  readonly held: boolean;
  readonly lost: readonly string[];
}

/** How often somebody comes back to the next remedy. */
const ROUNDS = 4;

/** Puts something beside what a scene has there, wherever that is a page, a folder or a zone. */
function put(ground: Ground, neighbour: Row['ground']['placement']): void {
  const { state, bare } = ground;
  const sites = state.sites.filter(({ host, aliases }) => host === bare || aliases.includes(bare));
  if (neighbour.method === 'dns') state.txt.push({ name: neighbour.place, value: neighbour.value });
  for (const site of sites) {
    if (neighbour.method === 'file')
      site.files[neighbour.path] ??= { content: neighbour.content, type: 'text/plain' };
    if (neighbour.method !== 'meta') continue;
    site.head.push(neighbour.tag);
    for (const answer of Object.values(site.answers))
      if (answer.base64 !== true && answer.body !== undefined)
        answer.body = answer.body.replace('<meta charset="utf-8">', `<meta charset="utf-8">${neighbour.tag}`);
  }
}

/** Tokens of all other engines at the same place, and one of somebody else's at this one. */
function neighboursOf({ ground, method, reach, target, rules }: Row, number: number): Neighbour[] {
  const others = PROFILES.filter(({ id }) => id !== rules.id).map((profile, at) => ({ profile, at }));
  const same = PROFILES.filter(({ id }) => id === rules.id).map((profile) => ({ profile, at: 9 }));
  // Beside a token of the same engine ours may stand only where it reads any of several.
  const { placement } = ground;
  const isBeside = placement.method === 'dns' || (placement.method === 'meta' && placement.many === 'any');
  return [...others, ...(isBeside ? same : [])].flatMap(({ profile, at }) => {
    const token = tokenLike(profile, 900_000 + number * 10 + at);
    const theirs =
      reach === 'name' && !profile.reaches.includes('name')
        ? { reach: 'address' as const, target: `https://${target}/` }
        : { reach, target };
    const beside = placed(profile, theirs.reach, theirs.target, method, token);
    const own = REHEARSAL_ENGINES.find(({ id }) => id === profile.id);
    if (!beside || !own) return [];
    put(ground, beside);
    const who = profile.id === rules.id ? `another holder at ${profile.title}` : profile.title;
    return [{ who, rules: own, at: theirs, token }];
  });
}

describe('whoever follows a remedy blindly', () => {
  let stage: Stage;
  let all: Obeyed[] = [];

  beforeAll(async () => {
    stage = await openStage();
    const held = async (row: Row, some: readonly Neighbour[]) => {
      const verdicts = await Promise.all(
        some.map(async (one) => ({
          one,
          ok: (await stage.verdict(one.rules, one.at, row.method, one.token)).ok,
        })),
      );
      return verdicts.filter(({ ok }) => ok).map(({ one }) => one);
    };
    const follow = async (row: Row, number: number): Promise<Obeyed> => {
      const before = await held(row, neighboursOf(row, number));
      const codes: string[] = [];
      let last: Finding | null = null;
      for (let round = 0; round < ROUNDS; round += 1) {
        const { findings } = await stage.look(row);
        last = findings.find(({ grade }) => grade === 'stops') ?? null;
        if (last === null) break;
        codes.push(last.code);
        if (!obey(last.remedy, row.ground)) break;
      }
      const after = await held(row, before);
      return {
        row,
        codes,
        last,
        held: (await stage.verdict(row.rules, row, row.method, row.ground.token)).ok,
        lost: before.filter((one) => !after.includes(one)).map(({ who }) => who),
      };
    };
    const numbered = stage.rows
      .filter(({ scene }) => !OUT_OF_SIGHT.test(scene.what))
      .map((row, number) => ({ row, number }));
    all = await inLanes(numbered, 12, ({ row, number }) => follow(row, number));
  }, 600_000);
  afterAll(() => stage.close());

  it('takes nothing away from anybody', () => {
    const harmed = all.filter(({ lost }) => lost.length > 0);
    expect(
      harmed.map(({ row, codes, lost }) => `${row.title}: ${codes.join(', ')} cost ${lost.join(', ')}`),
    ).toEqual([]);
    expect(all.length).toBeGreaterThan(400);
  });

  it('has ours accepted, unless somebody has to be asked first, or it is not to be placed by them', () => {
    const left = all.filter(
      ({ held, last }) =>
        !held && !(last && (remedyActOf(last.code) === 'ask' || NOT_PLACED.test(last.code))),
    );
    expect(
      left.map(({ row, codes, last }) => `${row.title}: ${codes.join(', ')}; ${last?.remedy ?? 'accepted'}`),
    ).toEqual([]);
    const count = (fits: (one: Obeyed) => boolean) => all.filter(fits).length;
    process.stdout.write(
      `\nremedies followed: ${String(all.length)} placements, ${String(count(({ held }) => held))} accepted, ${String(count(({ last }) => last !== null && remedyActOf(last.code) === 'ask'))} to be asked about first, ${String(count(({ lost }) => lost.length > 0))} with harm\n`,
    );
  });

  it('is never told to change or take away what is not ours', () => {
    for (const { row, last } of all)
      if (last && remedyActOf(last.code) === 'ask')
        expect([row.title, last.remedy]).toEqual([
          row.title,
          expect.stringMatching(/leave|beside|Please tell us/u),
        ]);
  });
});

/** Behind more than anybody reads nobody knows what stands, and whether ours is the only one. */
const OUT_OF_SIGHT = /no answer in time|behind two megabytes/u;

/** What stops although the token stands or could: the way to the website, what it says to engines, and what only time ends. */
const NOT_PLACED =
  /^reach\.|^dns\.(remembered|servers-disagree|server-fails|no-answer)$|^(meta|file)\.stale-copy$|^meta\.(not-html|depends-on-scripts)$/u;
