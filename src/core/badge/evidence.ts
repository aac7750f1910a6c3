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
  | 'tls-untrusted'
  | 'tls-failed'
  | 'headers-too-large'
  | 'not-http';

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
  readonly failure: ReachFailure | null;
  /** What the system said of the failure, for the one who digs deeper. */
  readonly detail: string | null;
  /** Milliseconds from asking to the last byte read. */
  readonly ms: number;
}

/** Why following redirects ended before an answer that is not a redirect. */
export type WalkEnd = 'answered' | 'failed' | 'loop' | 'too-many-hops';

export interface Body {
  /** Decoded by the declared or detected encoding. */
  readonly text: string;
  /** Size as unpacked, in bytes. */
  readonly bytes: number;
  /** True when the bound was met and the rest was not read. */
  readonly cut: boolean;
  readonly mediaType: string | null;
}

/** Everything seen while asking for one address. */
export interface PageEvidence {
  readonly kind: 'page';
  readonly hops: readonly Hop[];
  readonly end: WalkEnd;
  readonly body: Body | null;
}

export interface TxtRecord {
  /** The character strings of the record, joined as RFC 7208 §3.3 and common practice do. */
  readonly value: string;
  /** Seconds. */
  readonly ttl: number;
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
}

export type Evidence = PageEvidence | DnsEvidence;
