import { vi } from 'vitest';
import type { EvidenceValue, Finding } from '../../src/core/findings/finding.js';

/**
 * Whatever the core says in any of its tests is sound: each finding is one of the catalogue, its sentences have all their values,
 * and nothing else stands among findings. Holds for every table at once, so that none has to ask for it.
 */
function requireFilled(
  sentence: string,
  values: Readonly<Record<string, EvidenceValue>>,
  code: string,
): void {
  for (const [, name = ''] of sentence.matchAll(/\{(\w+)\}/g))
    if (values[name] === undefined || values[name] === null)
      throw new Error(`${code} is said without its “${name}”`);
}

function requireSound(findings: readonly unknown[]): void {
  for (const one of findings) {
    const { code, says } = one as Partial<Finding>;
    if (typeof code !== 'string' || typeof says !== 'string' || says === '')
      throw new Error(`this is no finding: ${JSON.stringify(one)}`);
  }
}

vi.mock('../../src/core/findings/catalogue.js', async (original) => {
  const real = await original<typeof import('../../src/core/findings/catalogue.js')>();
  return {
    ...real,
    finding: (...[code, values]: Parameters<typeof real.finding>) => {
      const { says, remedy } = real.CATALOGUE[code];
      // One that is made without any is not for being read.
      if (values) requireFilled(says + remedy, values, code);
      return real.finding(code, values);
    },
  };
});

type Judge = (...given: never[]) => unknown;

/** The findings of what a judge gives back: they themselves, or in a field of that name. */
function findingsOf(judged: unknown): readonly unknown[] {
  if (Array.isArray(judged)) return judged;
  const { findings = [], way = [] } = (judged ?? {}) as { findings?: unknown[]; way?: unknown[] };
  return [...findings, ...way];
}

/** Has every judge of a module give nothing but findings where it gives findings. */
function hold(path: string, judges: readonly string[]): void {
  vi.doMock(path, async (original) => {
    const real = await original<Record<string, unknown>>();
    const held = judges.map((name) => {
      const judge = real[name] as Judge;
      return [
        name,
        (...given: never[]) => {
          const judged = judge(...given);
          requireSound(findingsOf(judged));
          return judged;
        },
      ];
    });
    return { ...real, ...Object.fromEntries(held) };
  });
}

const BADGE = '../../src/core/badge/judge';
hold(`${BADGE}/judge.js`, ['judge']);
hold(`${BADGE}/meta.js`, ['judgeMeta']);
hold(`${BADGE}/file.js`, ['judgeFile']);
hold(`${BADGE}/dns.js`, ['judgeDns']);
hold(`${BADGE}/servers.js`, ['judgeServers']);
hold(`${BADGE}/copy.js`, ['judgeCopy']);
hold(`${BADGE}/keeping-out.js`, ['judgeKeepingOut']);
hold(`${BADGE}/reach.js`, ['judgePage', 'judgeReach']);

const VARIANTS = '../../src/core/variants';
hold(`${VARIANTS}/judge.js`, ['judgeVariants']);
hold(`${VARIANTS}/judge-pages.js`, ['judgePages']);
hold(`${VARIANTS}/judge-ways.js`, ['judgeWays', 'judgeCertificates']);
hold(`${VARIANTS}/keeping-out.js`, ['judgeKeepingOutOf']);

const SITEMAP = '../../src/core/sitemap';
hold(`${SITEMAP}/surroundings.js`, ['judgeSurroundings']);
hold(`${SITEMAP}/at-engine.js`, ['judgeSubmission']);
hold(`${SITEMAP}/locations.js`, ['withLeave']);
hold(`${SITEMAP}/sample.js`, ['judgeSample']);
hold(`${SITEMAP}/reading.js`, ['foldChildren']);
