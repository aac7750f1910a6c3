/** How the product goes out. Every field comes from the configuration's `net` part. */
export interface NetSettings {
  /** `address:port` of the recursive resolver, or null for the system's. */
  readonly resolver: string | null;
  /** Private or special ranges that may be fetched all the same, in CIDR form. */
  readonly allow: readonly string[];
  /** Rerouting of connections, HTTP and DNS alike; the first match wins. */
  readonly connect: readonly Reroute[];
  /** PEM text of authorities trusted beside the built-in ones. */
  readonly ca: string | null;
  /** What we call ourselves in `User-Agent` (RFC 9110 §10.1.5). */
  readonly agent: string;
  readonly bounds: NetBounds;
}

export interface Reroute {
  /** `host:port` or `address:port`; `*` for any. */
  readonly from: string;
  readonly to: string;
}

export interface NetBounds {
  /** Milliseconds for dialling and for the TLS handshake. */
  readonly connectMs: number;
  /** Milliseconds for one hop from asking to the last byte. */
  readonly hopMs: number;
  /** Bytes of a page or file, unpacked. */
  readonly bodyBytes: number;
  readonly headerBytes: number;
  /** Milliseconds for one DNS question to one server. */
  readonly dnsMs: number;
}

export const DEFAULT_BOUNDS: NetBounds = {
  connectMs: 5_000,
  hopMs: 15_000,
  bodyBytes: 2 * 1024 * 1024,
  headerBytes: 32 * 1024,
  dnsMs: 3_000,
};

export interface Endpoint {
  readonly host: string;
  readonly port: number;
}

/** Splits `host:port`, with IPv6 in brackets. Throws RangeError on anything else. */
export function parseEndpoint(text: string): Endpoint {
  const match = /^(?:\[([0-9a-f:.]+)\]|([^:]+)):(\d{1,5}|\*)$/i.exec(text);
  const host = match?.[1] ?? match?.[2];
  if (!match || host === undefined) throw new RangeError(`“${text}” is not host:port`);
  return { host, port: match[3] === '*' ? 0 : Number(match[3]) };
}

/**
 * Where a connection really goes.
 * @param name the host that was asked for, if there was one besides the address
 */
export function reroute(rules: readonly Reroute[], address: string, port: number, name?: string): Endpoint {
  for (const rule of rules) {
    const from = parseEndpoint(rule.from);
    const hostFits = from.host === '*' || from.host === address || from.host === name;
    if (hostFits && (from.port === 0 || from.port === port)) return parseEndpoint(rule.to);
  }
  return { host: address, port };
}
