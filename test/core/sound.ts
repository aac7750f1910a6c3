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

vi.mock('../../src/core/badge/judge/judge.js', async (original) => {
  const real = await original<typeof import('../../src/core/badge/judge/judge.js')>();
  return {
    ...real,
    judge: (...given: Parameters<typeof real.judge>) => {
      const judgement = real.judge(...given);
      requireSound(judgement.findings);
      return judgement;
    },
  };
});

vi.mock('../../src/core/variants/judge.js', async (original) => {
  const real = await original<typeof import('../../src/core/variants/judge.js')>();
  return {
    ...real,
    judgeVariants: (...given: Parameters<typeof real.judgeVariants>) => {
      const judged = real.judgeVariants(...given);
      requireSound(judged.findings);
      return judged;
    },
  };
});

vi.mock('../../src/core/sitemap/surroundings.js', async (original) => {
  const real = await original<typeof import('../../src/core/sitemap/surroundings.js')>();
  return {
    ...real,
    judgeSurroundings: (...given: Parameters<typeof real.judgeSurroundings>) => {
      const findings = real.judgeSurroundings(...given);
      requireSound(findings);
      return findings;
    },
  };
});

vi.mock('../../src/core/sitemap/at-engine.js', async (original) => {
  const real = await original<typeof import('../../src/core/sitemap/at-engine.js')>();
  return {
    ...real,
    judgeSubmission: (...given: Parameters<typeof real.judgeSubmission>) => {
      const findings = real.judgeSubmission(...given);
      requireSound(findings);
      return findings;
    },
  };
});
