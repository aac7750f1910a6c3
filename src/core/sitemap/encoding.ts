/** How a file's bytes become text, and what said so. */
export interface Encoding {
  /** A label of the Encoding standard. */
  readonly label: string;
  readonly by: 'mark' | 'header' | 'declaration' | 'default';
}

const MARKS: readonly (readonly [bytes: readonly number[], label: string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xfe, 0xff], 'utf-16be'],
  [[0xff, 0xfe], 'utf-16le'],
];

/**
 * The encoding of a sitemap, by RFC 7303 §3: a byte order mark before all, then the charset of the media type, then the
 * file's own XML declaration, else UTF-8, which the protocol asks for.
 * @param head the first bytes
 * @param contentType the Content-Type header
 */
export function encodingOf(head: Uint8Array, contentType: string | null): Encoding {
  for (const [bytes, label] of MARKS)
    if (bytes.every((byte, at) => head[at] === byte)) return { label, by: 'mark' };
  const charset = /charset\s*=\s*"?([^";\s]+)/iu.exec(contentType ?? '')?.[1];
  if (charset !== undefined && isKnown(charset)) return { label: charset.toLowerCase(), by: 'header' };
  const text = String.fromCharCode(...head.subarray(0, 200));
  const declared = /^\s*<\?xml[^>]*\sencoding\s*=\s*["']([^"']+)["']/u.exec(text)?.[1];
  if (declared !== undefined && isKnown(declared))
    return { label: declared.toLowerCase(), by: 'declaration' };
  return { label: 'utf-8', by: 'default' };
}

function isKnown(label: string): boolean {
  try {
    return new TextDecoder(label).encoding !== '';
  } catch {
    return false;
  }
}

/** Whether a file is packed by gzip, told by its first bytes and not by its name (RFC 1952 §2.3.1). */
export function isGzip(head: Uint8Array): boolean {
  return head[0] === 0x1f && head[1] === 0x8b;
}
