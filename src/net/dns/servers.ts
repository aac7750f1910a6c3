import type {
  NearbyKind,
  NearbySeen,
  ServerRole,
  ServerSeen,
  TxtRecord,
} from '../../core/badge/probe/evidence.js';
import type { Asked, Asker } from './asker.js';
import { delegationOf, located, type Delegation, type NamedServer } from './delegation.js';
import { aliasesIn, serverNames, txtRecords } from './records.js';

/** What the servers of a zone say of a name, each by itself. */
export interface ZoneSeen {
  readonly zone: string | null;
  readonly servers: readonly ServerSeen[];
}

const NO_ZONE: ZoneSeen = { zone: null, servers: [] };

/**
 * Asks every server of the zone that holds a name: those to which the parent delegates, those that the zone itself
 * names besides, and those that an earlier look knew.
 * @param former servers that were delegated to at an earlier look
 */
export async function zoneSeen(
  asker: Asker,
  name: string,
  former: readonly NamedServer[],
): Promise<ZoneSeen> {
  const delegation = await delegationOf(asker, name);
  if (delegation === null || delegation.servers.length === 0) return NO_ZONE;
  const { zone } = delegation;
  const delegated = await Promise.all(
    delegation.servers.map((one) => serverSeen(asker, zone, name, one, 'delegated')),
  );
  const others = await besides(asker, delegation, former);
  const aside = await Promise.all(
    others.map(({ server, role }) => serverSeen(asker, zone, name, server, role)),
  );
  return { zone, servers: [...delegated, ...aside] };
}

/** Servers that may have been edited although nobody is sent to them. */
async function besides(
  asker: Asker,
  { zone, servers }: Delegation,
  former: readonly NamedServer[],
): Promise<{ server: NamedServer; role: ServerRole }[]> {
  const named = await asker.server(
    servers.flatMap(({ addresses }) => addresses),
    zone,
    'NS',
  );
  const names = named.kind === 'answer' ? serverNames(named.answer.packet.answers) : [];
  const known = new Set(servers.map(({ name }) => name));
  const own = await located(
    asker,
    names.filter((name) => !known.has(name)),
    named.kind === 'answer' ? named.answer : null,
    zone,
  );
  for (const { name } of own) known.add(name);
  return [
    ...own.map((server) => ({ server, role: 'self-named' as const })),
    ...former.filter(({ name }) => !known.has(name)).map((server) => ({ server, role: 'former' as const })),
  ];
}

async function serverSeen(
  asker: Asker,
  zone: string,
  name: string,
  { name: server, addresses }: NamedServer,
  role: ServerRole,
): Promise<ServerSeen> {
  const asked = await asker.server(addresses, name, 'TXT');
  const base = { name: server, role, address: asked.address };
  if (asked.kind === 'failed' || asked.address === null)
    return { ...base, ...nothing(asked.kind === 'failed' ? asked.failure : 'unreachable') };
  const soa = await asker.direct(asked.address, zone, 'SOA');
  const { answer } = asked;
  return {
    ...base,
    authoritative: answer.packet.flag_aa,
    rcode: answer.rcode,
    records: txtRecords(answer),
    alias: aliasesIn(answer)[0] ?? null,
    ...startOfAuthority(soa),
    via: answer.via,
    failure: null,
  };
}

function nothing(failure: ServerSeen['failure']): Omit<ServerSeen, 'name' | 'role' | 'address'> {
  return {
    authoritative: false,
    rcode: null,
    records: [],
    alias: null,
    serial: null,
    refresh: null,
    via: 'udp',
    failure,
  };
}

function startOfAuthority(asked: Asked): Pick<ServerSeen, 'serial' | 'refresh'> {
  const all = asked.kind === 'answer' ? [...(asked.answer.packet.answers ?? [])] : [];
  const soa = all.find((record) => record.type === 'SOA');
  return { serial: soa?.data.serial ?? null, refresh: soa?.data.refresh ?? null };
}

/**
 * What stands at other names, asked of a server of the zone where one answers: a resolver would remember for a while
 * that there is nothing.
 * @param recursive asks the resolver, where no server of the zone answers
 */
export async function namesSeen(
  asker: Asker,
  names: readonly { readonly name: string; readonly kind: NearbyKind }[],
  servers: readonly ServerSeen[],
  recursive: (name: string) => Promise<readonly TxtRecord[]>,
): Promise<NearbySeen[]> {
  const address = servers.find((one) => one.authoritative && one.address !== null)?.address ?? null;
  const seen = await Promise.all(
    names.map(async ({ name, kind }) => ({
      name,
      kind,
      records: address === null ? await recursive(name) : await recordsAt(asker, address, name),
    })),
  );
  return seen.filter(({ records }) => records.length > 0);
}

async function recordsAt(asker: Asker, address: string, name: string): Promise<readonly TxtRecord[]> {
  const asked = await asker.direct(address, name, 'TXT');
  return asked.kind === 'answer' ? txtRecords(asked.answer) : [];
}
