import { BlockList, isIP } from 'node:net';
import ipaddr from 'ipaddr.js';

/**
 * What IANA's registries of special-purpose addresses (RFC 6890) do not call globally reachable, and what reaches another
 * address than it says (6to4, Teredo), or many (multicast). IPv4; the rest of it may be dialled.
 */
const NOT_GLOBAL_4 = [
  '0.0.0.0/8',
  '10.0.0.0/8',
  '100.64.0.0/10',
  '127.0.0.0/8',
  '169.254.0.0/16',
  '172.16.0.0/12',
  '192.0.0.0/24',
  '192.0.2.0/24',
  '192.88.99.0/24',
  '192.168.0.0/16',
  '198.18.0.0/15',
  '198.51.100.0/24',
  '203.0.113.0/24',
  '224.0.0.0/4',
  '240.0.0.0/4',
];

/** IPv6: of what is in 2000::/3, the one block from which unicast addresses are given out (RFC 4291 §2.4, RFC 3587). */
const GLOBAL_6 = '2000::/3';
const NOT_GLOBAL_6 = [
  // Protocol assignments, Teredo among them. A few small ones within are reachable; no website stands there.
  '2001::/23',
  '2001:db8::/32',
  '2002::/16',
  '3fff::/20',
];

/**
 * Tells which addresses may be dialled or asked: globally reachable unicast ones, and those that the configuration allows.
 * It is asked with the resolved address of every hop, so that neither a redirect nor a changed DNS answer gets inside.
 */
export class AddressGuard {
  private readonly allowed: [ipaddr.IPv4 | ipaddr.IPv6, number][];
  private readonly refused = listOf([...NOT_GLOBAL_4, ...NOT_GLOBAL_6]);
  private readonly global6 = listOf([GLOBAL_6]);

  /** @param allow ranges in CIDR form; throws Error on anything else */
  constructor(allow: readonly string[]) {
    this.allowed = allow.map((range) => ipaddr.parseCIDR(range));
  }

  permits(address: string): boolean {
    const family = isIP(address);
    if (family === 0) return false;
    // An address with a zone is one of a link of this machine (RFC 4007).
    if (address.includes('%')) return false;
    if (this.isAllowed(address)) return true;
    if (family === 4) return !this.refused.check(address, 'ipv4');
    return this.global6.check(address, 'ipv6') && !this.refused.check(address, 'ipv6');
  }

  private isAllowed(address: string): boolean {
    if (this.allowed.length === 0) return false;
    // `process` turns an IPv4-mapped IPv6 address into the IPv4 one that it reaches (RFC 4291 §2.5.5.2).
    const parsed = ipaddr.process(address);
    return this.allowed.some(([base, bits]) => base.kind() === parsed.kind() && parsed.match(base, bits));
  }
}

function listOf(ranges: readonly string[]): BlockList {
  const list = new BlockList();
  for (const range of ranges) {
    const [base = '', bits = ''] = range.split('/');
    list.addSubnet(base, Number(bits), isIP(base) === 4 ? 'ipv4' : 'ipv6');
  }
  return list;
}
