import ipaddr from 'ipaddr.js';

/** Bits of an IPv6 address that one person may have all of (RFC 6177 §2: a /64 at least), in groups of sixteen. */
const GROUPS = 4;
const LONGEST = 64;

/**
 * By what requests are counted: an IPv4 address, however it is written, and of IPv6 the network that one person may have.
 * @param ip as the connection or a trusted proxy tells it
 */
export function networkOf(ip: string): string {
  const [plain = ''] = ip.split('%');
  if (!ipaddr.isValid(plain)) return ip.slice(0, LONGEST);
  // An IPv4 address that is mapped into IPv6 (RFC 4291 §2.5.5.2) is that address.
  const address = ipaddr.process(plain);
  return address.kind() === 'ipv4'
    ? address.toString()
    : address.toNormalizedString().split(':').slice(0, GROUPS).join(':');
}
