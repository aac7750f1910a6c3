import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';
import { createNodeResolver, importX } from 'eslint-plugin-import-x';
import regexp from 'eslint-plugin-regexp';

/**
 * Each layer and the layers that it may import. Arrows only point down; a layer that is missing from a
 * row may not be imported there. ARCHITECTURE.md draws the same table.
 */
export const layers = {
  core: [],
  cancellation: [],
  net: ['core', 'cancellation'],
  readers: ['core'],
  engines: ['core', 'net'],
  store: ['core', 'cancellation'],
  desk: ['core', 'cancellation', 'net', 'readers', 'engines', 'store', 'api'],
  api: ['core'],
  service: ['core', 'desk', 'api', 'store', 'engines', 'net', 'readers'],
  client: ['api'],
  cli: ['api', 'client'],
  console: ['api', 'client'],
  rehearsal: ['net', 'client', 'api'],
};

/** Entry points that start another layer: named one by one, so that none is added unseen. */
const doors = {
  cli: [
    'service/serve.ts',
    'service/start-swept.ts',
    'service/settings',
    'service/persons.ts',
    'rehearsal/command.ts',
    'rehearsal/demo.ts',
  ],
};

/**
 * The floors of the desk: a folder may import those of lower floors, and nothing of its own floor or above. ARCHITECTURE.md has the same
 * table. `works.ts`, which lists all kinds of work, stands above them all.
 */
export const floors = [
  ['engine-book'],
  ['context'],
  ['facts', 'jobs', 'metrics', 'people'],
  ['engines', 'history', 'outbox', 'variants'],
  ['alerts', 'ownership', 'page-lookups', 'tokens'],
  ['checks', 'lists', 'outages'],
  ['claims', 'clients', 'sheet', 'sitemaps'],
  ['contents', 'making', 'robots', 'shared-links', 'projections'],
  ['publishing', 'enrolments', 'handover', 'letters'],
  ['renewals', 'reports', 'wording'],
  ['clock', 'notifications', 'watch'],
];

function floorZones(nth) {
  const above = [...floors.slice(nth).flat(), 'works.ts'];
  return floors[nth].map((folder) => ({
    target: `./src/desk/${folder}`,
    from: above.filter((one) => one !== folder).map((one) => `./src/desk/${one}`),
    message: `desk/${folder} may import the floors below it: see the floors of the desk in ARCHITECTURE.md.`,
  }));
}

/** Other folders whose own folders do not come round to themselves: no two that import each other, nor in a longer ring. */
export const withoutRings = [
  'src/desk',
  'src/core',
  'src/core/sitemap',
  'src/console/pages',
  'src/rehearsal',
];

/** What a layer may not import, each other layer a zone by itself: told by where a file really lies, not by how its path is written. */
function zones(name) {
  return Object.keys(layers)
    .filter((other) => other !== name && !layers[name].includes(other))
    .map((other) => ({
      target: `./src/${name}`,
      from: `./src/${other}`,
      except: (doors[name] ?? [])
        .filter((door) => door.startsWith(`${other}/`))
        .map((door) => `./${door.slice(other.length + 1)}`),
      message: `${name} may import ${layers[name].join(', ') || 'no other layer'}: see the layers in ARCHITECTURE.md.`,
    }));
}

const clockRules = [
  "NewExpression[callee.name='Date'][arguments.length=0]",
  "MemberExpression[object.name='Date'][property.name='now']",
  "CallExpression[callee.name='Date']",
].map((selector) => ({
  selector,
  message: 'Be handed a clock: only net/time/machine-clock reads the machine’s.',
}));

/** `AbortSignal.any` holds what it is made of by weak references: a timeout in it may never fire. */
const signalRules = [
  {
    selector: "MemberExpression[object.name='AbortSignal'][property.name=/^(any|timeout)$/]",
    message: 'It may be tidied away before it fires: use cancellation/cancellation.withPatience.',
  },
];

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', '.yardbadge/', '.tmp/', '.tmp-*/'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      'no-control-regex': 'off',
    },
  },
  {
    // Everything fetched is hostile: no expression may take more than the length of a text allows.
    files: ['src/**/*.{ts,tsx}'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }] },
  },
  {
    // Arrows only point down, and no file comes round to itself.
    files: ['src/**/*.{ts,tsx}'],
    plugins: { 'import-x': importX },
    settings: {
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
      'import-x/extensions': ['.ts', '.tsx', '.js'],
      'import-x/resolver-next': [
        createNodeResolver({
          extensions: ['.ts', '.tsx', '.js'],
          extensionAlias: { '.js': ['.ts', '.tsx', '.js'] },
        }),
      ],
    },
    rules: {
      'import-x/no-cycle': 'error',
      'import-x/no-restricted-paths': [
        'error',
        { zones: [...Object.keys(layers).flatMap(zones), ...floors.flatMap((_, nth) => floorZones(nth))] },
      ],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(node:(?!url$|crypto$|buffer$)|(fs|net|https?|dns)(/|$)|undici|sequelize|fastify)',
              message: 'core has no network, no file system, no database.',
            },
          ],
        },
      ],
    },
  },
  {
    // What reads the machine's clock by itself depends on the day: in core, and in every test.
    ignores: ['src/net/time/machine-clock.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...clockRules, ...signalRules],
    },
  },
  {
    // A schema has the keys of its type, no more and no fewer: the two cannot drift.
    files: ['src/api/**/*.ts', 'src/desk/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...clockRules,
        ...signalRules,
        {
          selector:
            "CallExpression[callee.object.name='Joi'][callee.property.name='object'][arguments.length>0]:not([typeArguments.params.length=2])",
          message: 'Name the type, strictly: Joi.object<T, true>({ … }).',
        },
      ],
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/net/**', 'src/client/**', 'src/rehearsal/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        { name: 'fetch', message: 'Fetches belong in net (the typed client excepted).' },
      ],
    },
  },
  {
    // After the rule for all layers: of two for the same file the later one counts, and the earlier does nothing.
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['fetch', 'setTimeout', 'setInterval', 'setImmediate', 'process'].map((name) => ({
          name,
          message: 'core decides from what it is given: no network, no timers, no environment.',
        })),
      ],
    },
  },
  {
    files: ['src/console/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: hooks.configs.recommended.rules,
  },
  {
    files: ['**/*.js'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly', URL: 'readonly' } },
  },
);
