import type { KnownAt } from '../../src/core/sitemap/at-engine.js';

/** A sitemap as one engine knows it, with what a case says otherwise. */
export function known(id: string, url: string, more: Partial<KnownAt> = {}): KnownAt {
  return {
    id,
    engine: { id: 'veldrane', title: 'Veldrane' },
    reach: 'address',
    url,
    kind: 'urlset',
    children: [],
    ...more,
  };
}
