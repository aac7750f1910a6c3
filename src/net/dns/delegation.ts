import { registrableOf } from '../../core/address/host.js';
import type { DnsAnswer } from './query.js';
import { byTurns, serverNames } from './records.js';
import type { Asker } from './asker.js';
import { plain } from './names.js';

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
const MOST_ADDRESSES = 4;

/**
 * Walks from the zone above the registrable name down to the one that holds a name, as a resolver would, without asking
 * any to recurse: each step follows the referral of the one before (RFC 1034 §5.3.3). A zone that lies on the servers of the
 * one above it is referred to by nobody; it shows by the owner of its SOA record.
 * @returns null where the walk finds no servers to ask
 */
export async function delegationOf(asker: Asker, name: string): Promise<Delegation | null> {
  let at = await parentOf(asker, name);
  for (let depth = 0; at !== null && depth < DEEPEST; depth += 1) {
    const reached = await firstAnswer(asker, at.servers, name);
    if (reached === null) return depth === 0 ? null : at;
    const next = referral(reached.answer, at.zone, name) ?? (await cutBelow(asker, reached, at.zone, name));
    if (next === null) return at;
    at = { zone: next.zone, servers: await located(asker, next.names, next.told, at.zone) };
  }
  return at;
}

/** A zone below the one that was asked, the names of its servers, and the answer that told them. */
interface Step {
  readonly zone: string;
  readonly names: readonly string[];
  readonly told: DnsAnswer;
}

interface Reached {
  readonly address: string;
  readonly answer: DnsAnswer;
}

/** The zone above the registrable name, with its servers, as the resolver knows them. */
async function parentOf(asker: Asker, name: string): Promise<Delegation | null> {
  const labels = registrableOf(name).split('.');
  for (let from = 1; from <= labels.length; from += 1) {
    const zone = labels.slice(from).join('.');
    const answer = await asker.recursive(zone === '' ? '.' : zone, 'NS');
    const names = answer === null ? [] : serverNames(answer.packet.answers);
    if (names.length > 0) return { zone, servers: await located(asker, names, answer, zone) };
  }
  return null;
}

/**
 * The names of the servers to which the zone above a registrable name delegates it. None of them is asked, so that it costs the same
 * where none of them answers.
 */
export async function delegatedTo(asker: Asker, name: string): Promise<string[]> {
  const domain = registrableOf(name);
  const parent = await parentOf(asker, domain);
  const reached = parent && (await firstAnswer(asker, parent.servers, domain));
  const step = reached && referral(reached.answer, parent.zone, domain);
  return step ? [...step.names].sort() : [];
}

async function firstAnswer(
  asker: Asker,
  servers: readonly NamedServer[],
  name: string,
): Promise<Reached | null> {
  for (const { addresses } of servers.slice(0, 3))
    for (const address of addresses) {
      const asked = await asker.direct(address, name, 'TXT');
      if (asked.kind === 'answer' && SAYS.has(asked.answer.rcode)) return { address, answer: asked.answer };
    }
  return null;
}

const SAYS = new Set(['NOERROR', 'NXDOMAIN']);

/** The zone that an answer refers to, if it is one that lies between the zone that was asked and the name. */
function referral(told: DnsAnswer, from: string, name: string): Step | null {
  const { packet } = told;
  if (packet.flag_aa || (packet.answers ?? []).length > 0) return null;
  const records = (packet.authorities ?? []).filter((record) => record.type === 'NS');
  const zone = records[0] && plain(records[0].name);
  if (zone === undefined || !isBetween(zone, from, name)) return null;
  // Of several zones in one referral only the first counts; the others are not what was asked.
  return { zone, names: serverNames(records.filter((record) => plain(record.name) === zone)), told };
}

/**
 * The zone that begins below another one on the same servers, told by whose SOA they answer with for the name: as the answer
 * where the name is its apex, else beside an answer that there is none (RFC 2308 §2).
 */
async function cutBelow(
  asker: Asker,
  { address, answer }: Reached,
  from: string,
  name: string,
): Promise<Step | null> {
  if (!answer.packet.flag_aa) return null;
  const asked = await asker.direct(address, name, 'SOA');
  if (asked.kind !== 'answer' || !asked.answer.packet.flag_aa) return null;
  const { answers, authorities } = asked.answer.packet;
  const zones = [...(answers ?? []), ...(authorities ?? [])]
    .filter(({ type }) => type === 'SOA')
    .map((record) => plain(record.name));
  const zone = zones.find((one) => isBetween(one, from, name));
  if (zone === undefined) return null;
  const named = await asker.direct(address, zone, 'NS');
  const names = named.kind === 'answer' ? serverNames(named.answer.packet.answers) : [];
  return named.kind === 'answer' && names.length > 0 ? { zone, names, told: named.answer } : null;
}

/** Whether a zone lies below another and holds a name. */
function isBetween(zone: string, from: string, name: string): boolean {
  return zone !== from && isWithin(zone, from) && isWithin(name, zone);
}

function isWithin(lower: string, upper: string): boolean {
  return lower === upper || upper === '' || lower.endsWith(`.${upper}`);
}

/**
 * Servers with their addresses: out of the answer that named them where it may tell (glue), else looked up.
 * @param within the zone for which the answer speaks: of a name outside it, it may say what it likes, and is not believed
 */
export async function located(
  asker: Asker,
  names: readonly string[],
  answer: DnsAnswer | null,
  within: string,
): Promise<NamedServer[]> {
  const glue = answer?.packet.additionals ?? [];
  return Promise.all(
    [...new Set(names)].slice(0, MOST_SERVERS).map(async (name) => {
      const told = isWithin(name, within)
        ? glue.flatMap((record) =>
            (record.type === 'A' || record.type === 'AAAA') && plain(record.name) === name
              ? [record.data]
              : [],
          )
        : [];
      const addresses = told.length > 0 ? byTurns(told) : await asker.addresses(name);
      return { name, addresses: addresses.slice(0, MOST_ADDRESSES) };
    }),
  );
}
