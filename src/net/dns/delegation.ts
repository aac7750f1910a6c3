import { registrableOf } from '../../core/address/host.js';
import type { DnsAnswer } from './query.js';
import { serverNames } from './records.js';
import type { Asker } from './asker.js';

/** A zone and the servers to which its parent delegates it. */
export interface Delegation {
  readonly zone: string;
  readonly servers: readonly NamedServer[];
}

export interface NamedServer {
  readonly name: string;
  readonly addresses: readonly string[];
}

/** Delegations that follow one upon another below a registrable name; more than this is somebody's trick. */
const DEEPEST = 6;
const MOST_SERVERS = 8;
const MOST_ADDRESSES = 2;

/**
 * Walks from the zone above the registrable name down to the one that holds a name, as a resolver would, without asking
 * any to recurse: each step follows the referral of the one before (RFC 1034 §5.3.3).
 * @returns null where the walk finds no servers to ask
 */
export async function delegationOf(asker: Asker, name: string): Promise<Delegation | null> {
  let at = await parentOf(asker, name);
  for (let depth = 0; at !== null && depth < DEEPEST; depth += 1) {
    const answer = await firstAnswer(asker, at.servers, name);
    const next = answer && referral(answer, at.zone, name);
    if (!next) return depth === 0 && answer === null ? null : at;
    at = { zone: next.zone, servers: await located(asker, next.names, answer) };
  }
  return at;
}

/** The zone above the registrable name, with its servers, as the resolver knows them. */
async function parentOf(asker: Asker, name: string): Promise<Delegation | null> {
  const labels = registrableOf(name).split('.');
  for (let from = 1; from <= labels.length; from += 1) {
    const zone = labels.slice(from).join('.');
    const answer = await asker.recursive(zone === '' ? '.' : zone, 'NS');
    const names = answer === null ? [] : serverNames(answer.packet.answers);
    if (names.length > 0) return { zone, servers: await located(asker, names, answer) };
  }
  return null;
}

async function firstAnswer(
  asker: Asker,
  servers: readonly NamedServer[],
  name: string,
): Promise<DnsAnswer | null> {
  for (const { addresses } of servers.slice(0, 3))
    for (const address of addresses) {
      const answer = await asker.direct(address, name, 'TXT');
      if (
        answer.kind === 'answer' &&
        (answer.answer.rcode === 'NOERROR' || answer.answer.rcode === 'NXDOMAIN')
      )
        return answer.answer;
    }
  return null;
}

/** The zone that an answer refers to, if it is one that lies between the zone that was asked and the name. */
function referral(
  { packet }: DnsAnswer,
  from: string,
  name: string,
): { zone: string; names: string[] } | null {
  if (packet.flag_aa || (packet.answers ?? []).length > 0) return null;
  const records = (packet.authorities ?? []).filter((record) => record.type === 'NS');
  const zone = records[0]?.name.toLowerCase().replace(/\.$/u, '');
  const isBelow = (lower: string, upper: string) =>
    lower === upper || upper === '' || lower.endsWith(`.${upper}`);
  if (zone === undefined || zone === from || !isBelow(zone, from) || !isBelow(name, zone)) return null;
  return { zone, names: serverNames(records) };
}

/** Servers with their addresses: out of the answer that named them where it tells (glue), else looked up. */
export async function located(
  asker: Asker,
  names: readonly string[],
  answer: DnsAnswer | null,
): Promise<NamedServer[]> {
  const glue = answer?.packet.additionals ?? [];
  return Promise.all(
    [...new Set(names)].slice(0, MOST_SERVERS).map(async (name) => {
      const told = glue.flatMap((record) =>
        (record.type === 'A' || record.type === 'AAAA') && record.name.toLowerCase() === name
          ? [record.data]
          : [],
      );
      const addresses = told.length > 0 ? told : await asker.addresses(name);
      return { name, addresses: addresses.slice(0, MOST_ADDRESSES) };
    }),
  );
}
