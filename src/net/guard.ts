import ipaddr from 'ipaddr.js';

/**
 * Tells which addresses may be dialled: public unicast ones, and those that the configuration allows.
 * It is asked with the resolved address of every hop, so that neither a redirect nor a changed DNS answer gets inside.
 */
export class AddressGuard {
  private readonly allowed: [ipaddr.IPv4 | ipaddr.IPv6, number][];

  /** @param allow ranges in CIDR form; throws Error on anything else */
  constructor(allow: readonly string[]) {
    this.allowed = allow.map((range) => ipaddr.parseCIDR(range));
  }

  permits(address: string): boolean {
    if (!ipaddr.isValid(address)) return false;
    // `process` turns an IPv4-mapped IPv6 address into the IPv4 one that it reaches (RFC 4291 §2.5.5.2).
    const parsed = ipaddr.process(address);
    if (parsed.range() === 'unicast') return true;
    return this.allowed.some(([base, bits]) => base.kind() === parsed.kind() && parsed.match(base, bits));
  }
}
