import { ESLint } from 'eslint';
import { expect, test } from 'vitest';

const eslint = new ESLint({ overrideConfig: { rules: { '@typescript-eslint/no-unused-vars': 'off' } } });

async function faults(file: string, code: string): Promise<string[]> {
  const [result] = await eslint.lintText(code, { filePath: file });
  return (result?.messages ?? [])
    .map(({ ruleId }) => ruleId ?? 'parse')
    .filter((rule) => /^(import-x\/)?no-(restricted|cycle)/.test(rule));
}

test.each<readonly [string, string, string, number]>([
  [
    'core may not reach the store',
    'src/core/badge/judge/judge.ts',
    "export { Store } from '../../../store/store.js';",
    1,
  ],
  ['core has no network', 'src/core/badge/judge/judge.ts', "export { connect } from 'node:net';", 1],
  ...['fetch', 'setTimeout', 'setInterval', 'setImmediate', 'process'].map(
    (name) =>
      [
        `core has no ${name}`,
        'src/core/badge/judge/judge.ts',
        `export const one: unknown = ${name};`,
        1,
      ] as const,
  ),
  [
    'schemas name their type',
    'src/api/checks/schema.ts',
    "import Joi from 'joi';\nexport const one = Joi.object({ a: Joi.string() });",
    1,
  ],
  [
    'what is waited for is not held by a weak reference',
    'src/net/http/hop.ts',
    'export const signal = AbortSignal.timeout(5);',
    1,
  ],
  ['core has no clock', 'src/core/badge/judge/judge.ts', 'export const now = new Date();', 1],
  [
    'the engines of the rehearsal may not judge with core',
    'src/rehearsal/engines/judging.ts',
    "export { judge } from '../../core/badge/judge/judge.js';",
    1,
  ],
  [
    'the console works on the client alone',
    'src/console/app.tsx',
    "export { lookAt } from '../desk/checks/look.js';",
    1,
  ],
  [
    'the desk does not fetch',
    'src/desk/checks/look.ts',
    "export const page = fetch('https://quay.example/');",
    1,
  ],
  [
    'the desk may ask core',
    'src/desk/checks/look.ts',
    "export { judge } from '../../core/badge/judge/judge.js';",
    0,
  ],
  ['no file comes round to itself', 'src/desk/claims/view.ts', "export { claimWork } from './claims.js';", 1],
])('%s', async (_, file, code, count) => {
  expect(await faults(file, code)).toHaveLength(count);
});
