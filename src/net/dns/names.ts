/** A domain name as it is compared: without regard to case, and to the dot of the root (RFC 4343, RFC 1034 §3.1). */
export function plain(name: string): string {
  return name.toLowerCase().replace(/\.$/u, '');
}
