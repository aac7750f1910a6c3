import type { PageEncoding } from '../../html/encoding.js';

/** Why a request got no answer, told apart as far as the network tells. */
export type ReachFailure =
  | 'name-missing'
  | 'no-address'
  | 'resolver-fails'
  | 'refused'
  | 'unreachable'
  | 'timed-out'
  | 'cut'
  | 'guarded'
  | 'tls-expired'
  | 'tls-name'
  | 'tls-self-signed'
  | 'tls-chain'
  | 'tls-untrusted'
  | 'tls-failed'
  | 'headers-too-large'
  | 'not-http';

/** The certificate that a server showed, trusted or not (RFC 5280). */
export interface CertificateSeen {
  readonly subject: string;
  readonly issuer: string;
  /** The DNS names that it is for (RFC 9525 §2). */
  readonly names: readonly string[];
  /** RFC 3339. */
  readonly validFrom: string;
  readonly validUntil: string;
}

/** One request and its answer on the way to a page. */
export interface Hop {
  readonly url: string;
  /** The IP address that was dialled, if it came to that. */
  readonly address: string | null;
  readonly status: number | null;
  /** Where a redirect points, resolved against this hop; null where there is none. */
  readonly location: string | null;
  /** The few response headers that matter, names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
  /** Null where the connection was not a secure one, or never came about. */
  readonly certificate: CertificateSeen | null;
  readonly failure: ReachFailure | null;
  /** What the system said of the failure, for the one who digs deeper. */
  readonly detail: string | null;
  /** Milliseconds from asking to the last byte read. */
  readonly ms: number;
}

/** Why following redirects ended before an answer that is not a redirect. */
export type WalkEnd = 'answered' | 'failed' | 'loop' | 'too-many-hops';

export interface Body {
  /** As unpacked, up to the bound. `textOf` makes a text of it. */
  readonly raw: Uint8Array;
  /** What its bytes are to be read by, declared or detected, by the name that the Encoding standard has for it. */
  readonly charset: string;
  /** Size as unpacked, in bytes. */
  readonly bytes: number;
  /** True when the bound was met and the rest was not read. */
  readonly cut: boolean;
  readonly mediaType: string | null;
  /** Of a page: how its bytes became text, and what said so. */
  readonly encoding?: PageEncoding;
}

/** One way from an address to what answers. */
export interface PageSeen {
  readonly hops: readonly Hop[];
  readonly end: WalkEnd;
  readonly body: Body | null;
}

/** Why another address was looked at besides the right one. */
export type ElsewhereKind =
  | 'property-folder'
  | 'folder-above'
  | 'root'
  | 'well-known'
  | 'other-case'
  | 'other-ending'
  | 'other-variant'
  /** Where a page sends its visitors on to. */
  | 'sent-on';

export interface ElsewhereSeen extends PageSeen {
  readonly url: string;
  readonly kind: ElsewhereKind;
}

/** Everything seen while asking for one address. */
export interface PageEvidence extends PageSeen {
  readonly kind: 'page';
  /** Whether a failure was met again at a second try, so that it is none that passes by itself. */
  readonly again: boolean;
  /** The name servers of a host that could not be looked up, as far as the zone above it tells. */
  readonly delegated?: readonly string[];
  /** The same address fetched past every cache; null where that was not worth it. */
  readonly fresh: PageSeen | null;
  /** What a browser-like agent got where we were kept out. */
  readonly asBrowser: { readonly status: number | null } | null;
  /** What a made-up neighbour of the file answers: a themed “not found” with 200 shows by it. */
  readonly madeUp: PageSeen | null;
  /** What stands at the likely wrong places. */
  readonly elsewhere: readonly ElsewhereSeen[];
}

export interface TxtRecord {
  /** The character strings of the record, joined as RFC 7208 §3.3 and common practice do. */
  readonly value: string;
  /** Seconds. */
  readonly ttl: number;
}

/** How a name server came to be asked: the parent delegates to it, the zone names it, or it was seen at an earlier look. */
export const SERVER_ROLES = ['delegated', 'self-named', 'former'] as const;
export type ServerRole = (typeof SERVER_ROLES)[number];

/** What one server of the zone said of the name, asked directly and without recursion. */
export interface ServerSeen {
  readonly name: string;
  readonly address: string | null;
  readonly role: ServerRole;
  /** False for one that answers without being responsible for the zone (lame delegation). */
  readonly authoritative: boolean;
  readonly rcode: string | null;
  readonly records: readonly TxtRecord[];
  readonly alias: string | null;
  /** Of the zone's SOA there (RFC 1035 §3.3.13). */
  readonly serial: number | null;
  /** Seconds until a lagging server asks its primary again. */
  readonly refresh: number | null;
  readonly via: 'udp' | 'tcp';
  readonly failure: 'timed-out' | 'unreachable' | 'guarded' | null;
}

/** Why another name was asked for besides the right one. */
export type NearbyKind = 'doubled' | 'label-doubled' | 'www' | 'parent' | 'other-label' | 'no-label';

export interface NearbySeen {
  readonly name: string;
  readonly kind: NearbyKind;
  readonly records: readonly TxtRecord[];
}

/** Everything seen while asking for the TXT records at one name. */
export interface DnsEvidence {
  readonly kind: 'dns';
  readonly name: string;
  /** `NOERROR`, `NXDOMAIN`, `SERVFAIL`, …; null when no server answered. */
  readonly rcode: string | null;
  readonly records: readonly TxtRecord[];
  /** The alias chain that led to the answer, first to last. */
  readonly aliases: readonly string[];
  /** Seconds for which a resolver may remember that there is nothing (RFC 2308 §5); null when unknown. */
  readonly negativeTtl: number | null;
  readonly via: 'udp' | 'tcp';
  readonly server: string;
  readonly failure: 'timed-out' | 'unreachable' | null;
  /** The zone that the delegation leads to; null where it could not be walked. */
  readonly zone: string | null;
  readonly servers: readonly ServerSeen[];
  /** What stands at the likely wrong names. */
  readonly nearby: readonly NearbySeen[];
  /** Whether a name that nobody made up answers too, so that a wildcard record speaks (RFC 4592). */
  readonly wildcard: boolean;
  /**
   * The addresses that the name's host has from a wildcard record alone: whatever is put at or below it ends that (RFC 4592 §2.2.1). Empty
   * where it has none, or has records of its own.
   */
  readonly wildAddresses: readonly string[];
}

export type Evidence = PageEvidence | DnsEvidence;
