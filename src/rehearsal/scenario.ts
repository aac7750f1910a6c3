import { domainToASCII } from 'node:url';
import { nothingOdd, plainNames, type SiteState, type WorldState } from './state.js';
import { machineClock } from '../net/time/machine-clock.js';

/** The rehearsal's addresses are from the documentation ranges (RFC 5737); connections to them are rerouted to loopback. */
export const SITE_ADDRESS = '192.0.2.10';
export const ENGINE_ADDRESSES: Readonly<Record<string, string>> = {
  veldrane: '192.0.2.61',
  ostrime: '192.0.2.62',
  sundrel: '192.0.2.63',
};
/** The name servers: the registry's for `example`, the two of every zone, and a host's that was left long ago. */
export const SERVERS: Readonly<
  Record<'registry' | 'ns1' | 'ns2' | 'attic', { name: string; address: string }>
> = {
  registry: { name: 'ns.example-registry.example', address: '192.0.2.50' },
  ns1: { name: 'ns1.harbour-names.example', address: '192.0.2.53' },
  ns2: { name: 'ns2.harbour-names.example', address: '192.0.2.54' },
  attic: { name: 'ns1.attic-hosting.example', address: '192.0.2.55' },
};
/** Where an engine stands that somebody brings along. */
export const GUEST_ADDRESS = '192.0.2.69';

/** Where a program of the agency's own gets the alerts. */
export const HOOKS_ADDRESS = '192.0.2.70';

export function engineAddress(engine: string): string {
  return ENGINE_ADDRESSES[engine] ?? GUEST_ADDRESS;
}

/** A website with nothing odd about it but what is told. */
export function site(host: string, title: string, words: string, more: Partial<SiteState> = {}): SiteState {
  return {
    host,
    aliases: [],
    title,
    words,
    head: [],
    body: [],
    files: {},
    sitemaps: {},
    serves: 'pages',
    ...nothingOdd(),
    ...more,
  };
}

/** The seed growers' host has an accent. */
export const SEEDS = domainToASCII('hallig-sämerei.example');

/** The clients' websites, as their developers left them: nothing of ours is placed anywhere yet. */
export function sites(): SiteState[] {
  return [
    site('www.saltmarsh-ferries.example', 'Saltmarsh Ferries', 'Crossings to the islands, every tide.', {
      aliases: ['saltmarsh-ferries.example'],
      sitemaps: { '/sitemap.xml': 0, '/sitemaps/crossings.xml': 124, '/sitemaps/harbours.xml': 38 },
    }),
    site('tidewell-clocks.example', 'Tidewell Clocks', 'Pendulums mended, chimes tuned.', {
      aliases: ['www.tidewell-clocks.example'],
      sitemaps: { '/sitemap.xml': 57 },
    }),
    site('www.button-museum.example', 'The Button Museum', 'Nine thousand buttons under one roof.', {
      aliases: ['button-museum.example'],
      sitemaps: { '/sitemap.xml': 412 },
    }),
    site(SEEDS, 'Hallig-Sämerei', 'Salzwiesensaat und Strandroggen.', {
      aliases: [`www.${SEEDS}`],
      sitemaps: { '/sitemap.xml': 86 },
    }),
    site('www.bollard-ropes.example', 'Bollard Ropeworks', 'Hemp, sisal and steel, by the fathom.', {
      aliases: ['bollard-ropes.example'],
      sitemaps: { '/sitemap.xml': 233 },
    }),
    // Before it moved to https and www: everything leads to the plain bare name.
    site('www.pebble-rye.example', 'Pebble & Rye', 'Sourdough, out of the oven with the first ferry.', {
      aliases: ['pebble-rye.example'],
      sitemaps: { '/sitemap.xml': 19 },
      variants: {
        'http://pebble-rye.example': { how: 'page' },
        'https://pebble-rye.example': { how: 'redirect', to: 'http://pebble-rye.example/' },
        'http://www.pebble-rye.example': { how: 'redirect', to: 'http://pebble-rye.example/' },
        'https://www.pebble-rye.example': { how: 'redirect', to: 'http://pebble-rye.example/' },
      },
    }),
    site('compass-tea.example', 'The Compass Tearooms', 'Seven teas, one for each sea.', {
      aliases: ['www.compass-tea.example'],
      sitemaps: { '/sitemap.xml': 31 },
    }),
  ];
}

/**
 * @param shown where the fast clock begins
 * @param more websites beside the usual ones
 */
export function newWorld(shown: Date, more: readonly SiteState[] = []): WorldState {
  return {
    clock: { from: machineClock.now().toISOString(), shown: shown.toISOString(), rate: 1 },
    sites: [...sites(), ...more],
    txt: [...sites(), ...more].map(({ host }) => ({
      name: host.replace(/^www\./, ''),
      value: 'v=spf1 -all',
    })),
    names: plainNames(),
    engines: {},
  };
}
