import { ESLint } from 'eslint';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { posix } from 'node:path';
import { expect, test } from 'vitest';

const { floors, withoutRings } = (await import('../eslint.config.js' as string)) as {
  readonly floors: readonly (readonly string[])[];
  readonly withoutRings: readonly string[];
};
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
    "export { propertyIn } from '../desk/checks/view.js';",
    1,
  ],
  [
    'the desk does not fetch',
    'src/desk/checks/view.ts',
    "export const page = fetch('https://quay.example/');",
    1,
  ],
  [
    'the desk may ask core',
    'src/desk/checks/view.ts',
    "export { judge } from '../../core/badge/judge/judge.js';",
    0,
  ],
  [
    'checks may not reach the sitemaps above them',
    'src/desk/checks/view.ts',
    "export { viewSitemaps } from '../sitemaps/view.js';",
    1,
  ],
  [
    'nor history the variants on its own floor',
    'src/desk/history/evidence.ts',
    "export { lookAtVariants } from '../variants/variants-work.js';",
    1,
  ],
  [
    'checks may reach the tokens below them',
    'src/desk/checks/view.ts',
    "export { placementFor } from '../tokens/placements.js';",
    0,
  ],
  ['no file comes round to itself', 'src/desk/claims/view.ts', "export { claimWork } from './claims.js';", 1],
])('%s', async (_, file, code, count) => {
  expect(await faults(file, code)).toHaveLength(count);
});

function sourceOf(file: string, path: string): string {
  return posix.join(posix.dirname(file), path).replace(/\.js$/u, '.ts');
}

/** What lies directly below a folder, with what of it each imports; types count. */
function neighbours(base: string): Map<string, Set<string>> {
  const roomOf = (path: string) => path.slice(base.length + 1).split('/')[0] ?? '';
  const found = new Map<string, Set<string>>();
  for (const name of readdirSync(base, { recursive: true, encoding: 'utf8' })) {
    if (!/\.tsx?$/u.test(name)) continue;
    const file = `${base}/${name}`;
    const room = roomOf(file);
    const own = found.get(room) ?? new Set<string>();
    found.set(room, own);
    for (const [, path = ''] of readFileSync(file, 'utf8').matchAll(
      /\b(?:from|import)\s*\(?\s*'(\.[^']+)'/gu,
    )) {
      const plain = sourceOf(file, path);
      const to = existsSync(plain) ? plain : `${plain}x`;
      if (to.startsWith(`${base}/`) && roomOf(to) !== room) own.add(roomOf(to));
    }
  }
  return found;
}

test.each(withoutRings)('nothing below %s comes round to itself', (base) => {
  const rest = neighbours(base);
  // What imports nothing of the rest goes, floor by floor; what is left imports each other.
  for (let before = -1; before !== rest.size;) {
    before = rest.size;
    for (const [room, to] of rest) if (![...to].some((one) => rest.has(one))) rest.delete(room);
  }
  expect([...rest.keys()]).toEqual([]);
});

test('every folder of the desk has its floor', () => {
  const folders = readdirSync('src/desk', { withFileTypes: true }).flatMap((one) =>
    one.isDirectory() ? [one.name] : [],
  );
  expect(floors.flat().sort()).toEqual(folders.sort());
});

// The bench's children are plain JavaScript over what is built: no compiler sees what they import.
test.each(readdirSync('bench').filter((name) => name.endsWith('.js')))(
  'what bench/%s imports is there by that name',
  (name) => {
    const imports = /import \{([^}]+)\} from '\.\.\/dist\/([^']+)\.js'/gu;
    for (const [, names = '', path = ''] of readFileSync(posix.join('bench', name), 'utf8').matchAll(
      imports,
    )) {
      const source = readFileSync(`src/${path}.ts`, 'utf8');
      for (const one of names.split(',').map((each) => each.trim()))
        expect(source).toMatch(new RegExp(`export [\\w ]*\\b${one}\\b|export \\{[^}]*\\b${one}\\b`, 'u'));
    }
  },
);
