import LinkHeader from 'http-link-header';

/** More of a Link header than this nobody sends. */
const LONGEST_LINK = 8_192;

/** The target of the relation “canonical” in a Link header (RFC 8288); null where there is none, or none that can be read. */
export function canonicalOf(header: string | undefined): string | null {
  try {
    return LinkHeader.parse((header ?? '').slice(0, LONGEST_LINK)).rel('canonical')[0]?.uri ?? null;
  } catch {
    return null;
  }
}
