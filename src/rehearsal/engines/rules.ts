/** How an engine of the rehearsal behaves. Its own data in its own words: the product's profile of it is another file. */
export interface EngineRules {
  readonly id: string;
  readonly reaches: readonly ('name' | 'address')[];
  readonly meta: { readonly name: string; readonly anyHostOfDomain: boolean };
  readonly file: { readonly path: (token: string) => string; readonly content: (token: string) => string };
  readonly dns: { readonly owner: (name: string) => string; readonly value: (token: string) => string };
  readonly lookEveryHours: number;
  readonly graceHours: number;
  readonly sitemapForm: 'path' | 'address';
  /** Hours after submission at which it tries to read; the first tries may come to nothing. */
  readonly readsAfterHours: readonly number[];
  readonly failedFirstTries: number;
}

export const VELDRANE: EngineRules = {
  id: 'veldrane',
  reaches: ['name', 'address'],
  meta: { name: 'veldrane-mooring', anyHostOfDomain: true },
  file: { path: (token) => `/veldrane-${token}.txt`, content: (token) => `veldrane-mooring: ${token}` },
  dns: { owner: (name) => name, value: (token) => `veldrane-mooring=${token}` },
  lookEveryHours: 120,
  graceHours: 48,
  sitemapForm: 'path',
  readsAfterHours: [2, 20],
  failedFirstTries: 1,
};
