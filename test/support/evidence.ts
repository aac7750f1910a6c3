import type {
  DnsEvidence,
  Hop,
  PageEvidence,
  ServerSeen,
  TxtRecord,
} from '../../src/core/badge/probe/evidence.js';

/** One hop that went well, with what a case says otherwise. */
export function hop(more: Partial<Hop> = {}): Hop {
  return {
    url: 'https://quay.example/',
    address: '192.0.2.1',
    status: 200,
    location: null,
    headers: {},
    certificate: null,
    failure: null,
    detail: null,
    ms: 12,
    ...more,
  };
}

export function page(
  text: string | null,
  more: Partial<PageEvidence> & { mediaType?: string } = {},
  hops: readonly Hop[] = [hop()],
): PageEvidence {
  const { mediaType = 'text/html', ...rest } = more;
  const raw = Buffer.from(text ?? '');
  const body = text === null ? null : { raw, charset: 'utf-8', bytes: raw.length, cut: false, mediaType };
  const alone = { again: false, fresh: null, asBrowser: null, madeUp: null, elsewhere: [] };
  return { kind: 'page', hops, end: 'answered', body, ...alone, ...rest };
}

export function dns(more: Partial<DnsEvidence> = {}): DnsEvidence {
  return {
    kind: 'dns',
    name: 'quay.example',
    rcode: 'NOERROR',
    records: [],
    aliases: [],
    negativeTtl: 60,
    via: 'udp',
    server: '127.0.0.1:53',
    failure: null,
    zone: null,
    servers: [],
    nearby: [],
    wildcard: false,
    wildAddresses: [],
    ...more,
  };
}

/** What a name server of the zone said, as most do, with what a case says otherwise. */
export function nameServer(
  name: string,
  records: readonly TxtRecord[],
  more: Partial<ServerSeen> = {},
): ServerSeen {
  return {
    name,
    address: '192.0.2.53',
    role: 'delegated',
    authoritative: true,
    rcode: 'NOERROR',
    records,
    alias: null,
    serial: 7,
    refresh: 3600,
    via: 'udp',
    failure: null,
    ...more,
  };
}
