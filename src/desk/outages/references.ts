import { registrableOf } from '../../core/address/host.js';
import { networkOf } from '../../core/watch/outage.js';
import type { Desk } from '../context/desk.js';

/** A website that is asked to tell whose fault a failure is. */
export interface Reference {
  readonly domain: string;
  /** Its front door: by the scheme, the host and the port by which it was reached. */
  readonly url: string;
  /** Where it stands; null where its name gave no address. */
  readonly address: string | null;
}

/** Front doors that are thought of, whatever their number. */
const MOST = 48;

/** What failed of late: others are asked first, where there are any. */
export interface Doubted {
  readonly domains: ReadonlySet<string>;
  readonly addresses: ReadonlySet<string>;
}

/** Websites to ask, those first that are likeliest to answer, on networks as different as can be. */
export async function chooseReferences(desk: Desk, doubted: Doubted): Promise<Reference[]> {
  const rows = await desk.store.select<{ url: string }>(
    `SELECT coalesce(frontDoor, address) AS url FROM properties WHERE archivedAt IS NULL ORDER BY random() LIMIT 500`,
  );
  const doors = new Map<string, string>();
  for (const { url } of rows) {
    doors.set(registrableOf(new URL(url).hostname), url);
  }
  const isDoubted = ([domain]: readonly [string, string]) => doubted.domains.has(domain);
  const inTurn = [...[...doors].filter((one) => !isDoubted(one)), ...[...doors].filter(isDoubted)];
  const found = await Promise.all(
    inTurn.slice(0, MOST).map(async ([domain, url]): Promise<Reference> => {
      const answer = await desk.net.resolver.addresses(new URL(url).hostname);
      return { domain, url, address: answer.kind === 'found' ? (answer.addresses[0] ?? null) : null };
    }),
  );
  return spread(found, doubted);
}

/**
 * One of each network that nobody doubts, then others, then those in a network or at an address that failed; those without an address, and
 * those that failed themselves, last.
 */
function spread(all: readonly Reference[], { domains, addresses }: Doubted): Reference[] {
  const met = new Set<string>();
  const networks = new Set([...addresses].map(networkOf));
  const rank = ({ address, domain }: Reference) => {
    if (domains.has(domain)) return 5;
    if (address === null) return 4;
    if (addresses.has(address)) return 3;
    const network = networkOf(address);
    if (networks.has(network)) return 2;
    if (met.has(network)) return 1;
    met.add(network);
    return 0;
  };
  return all
    .map((one) => ({ one, rank: rank(one) }))
    .sort((a, b) => a.rank - b.rank)
    .map(({ one }) => one);
}
