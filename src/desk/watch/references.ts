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
    const domain = registrableOf(new URL(url).hostname);
    if (!doubted.domains.has(domain)) doors.set(domain, url);
  }
  const found = await Promise.all(
    [...doors].slice(0, MOST).map(async ([domain, url]): Promise<Reference> => {
      const answer = await desk.net.resolver.addresses(new URL(url).hostname);
      return { domain, url, address: answer.kind === 'found' ? (answer.addresses[0] ?? null) : null };
    }),
  );
  return spread(found, doubted.addresses);
}

/** One of each network that nobody doubts, then others, then those in a network or at an address that failed; those without an address last. */
function spread(all: readonly Reference[], doubted: ReadonlySet<string>): Reference[] {
  const met = new Set<string>();
  const networks = new Set([...doubted].map(networkOf));
  const rank = ({ address }: Reference) => {
    if (address === null) return 4;
    if (doubted.has(address)) return 3;
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
