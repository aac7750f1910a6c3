/** Addresses in one file, and bytes of it unpacked, at most: sitemaps.org protocol, "Sitemap file limits". */
export const MAX_ADDRESSES = 50_000;
export const MAX_BYTES = 52_428_800;
/** An address must be shorter than 2,048 characters: sitemaps.org protocol, `loc`. */
export const MAX_LOCATION = 2_048;

export const NAMESPACE = 'http://www.sitemaps.org/schemas/sitemap/0.9';
/** RFC 4287 §2. */
export const ATOM = 'http://www.w3.org/2005/Atom';
/** HTML standard's namespace, in which `link` elements name siblings in other languages. */
export const XHTML = 'http://www.w3.org/1999/xhtml';
