/** How a file's bytes become text, and what said so. */
export interface Encoding {
  /** A label of the Encoding standard. */
  readonly label: string;
  readonly by: 'mark' | 'header' | 'declaration' | 'default';
  /** What its header or its declaration says, though its bytes cannot be that. */
  readonly misdeclared: string | null;
}

/** How many bytes tell the encoding: a mark or a declaration stands in them, or nowhere. */
export const TELLING_BYTES = 200;

const MARKS: readonly (readonly [bytes: readonly number[], label: string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xfe, 0xff], 'utf-16be'],
  [[0xff, 0xfe], 'utf-16le'],
  // Without a mark: the beginning of “<?xml” itself (XML 1.0, appendix F.1).
  [[0x00, 0x3c, 0x00, 0x3f], 'utf-16be'],
  [[0x3c, 0x00, 0x3f, 0x00], 'utf-16le'],
];

/**
 * The encoding of a sitemap, by RFC 7303 §3: a byte order mark before all, then the charset of the media type, then the
 * file's own XML declaration, else UTF-8, which the protocol asks for. UTF-16 is not believed of a file that begins with
 * two letters of one byte each: it is read by what comes next.
 * @param head the first `TELLING_BYTES`
 * @param contentType the Content-Type header
 */
export function encodingOf(head: Uint8Array, contentType: string | null): Encoding {
  for (const [bytes, label] of MARKS)
    if (bytes.every((byte, at) => head[at] === byte)) return { label, by: 'mark', misdeclared: null };
  const charset = /charset\s*=\s*"?([^";\s]+)/iu.exec(contentType ?? '')?.[1];
  const text = String.fromCharCode(...head.subarray(0, TELLING_BYTES));
  const declared = /^\s*<\?xml[^>]*?\sencoding\s*=\s*["']([^"']+)["']/u.exec(text)?.[1];
  const isNarrow = head[0] !== 0 && head[1] !== 0;
  let misdeclared: string | null = null;
  for (const [by, label] of [
    ['header', charset],
    ['declaration', declared],
  ] as const) {
    const encoding = label === undefined ? null : known(label);
    if (encoding === null || label === undefined) continue;
    if (!isNarrow || !encoding.startsWith('utf-16')) return { label: label.toLowerCase(), by, misdeclared };
    misdeclared ??= label;
  }
  return { label: 'utf-8', by: 'default', misdeclared };
}

/** The name that the Encoding standard has for a label; null where it has none. */
function known(label: string): string | null {
  try {
    return new TextDecoder(label).encoding;
  } catch {
    return null;
  }
}

/** Whether a file is packed by gzip, told by its first bytes and not by its name (RFC 1952 §2.3.1). */
export function isGzip(head: Uint8Array): boolean {
  return head[0] === 0x1f && head[1] === 0x8b;
}
