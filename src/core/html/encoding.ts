import { mediaTypeOf } from './media-type.js';

/** How a page's bytes become text, and what said so. */
export interface PageEncoding {
  /** By the name that the Encoding standard has for it. */
  readonly name: string;
  readonly by: 'mark' | 'header' | 'meta' | 'default';
  /** What else was said, and passed over; null where nothing disagrees. */
  readonly against: string | null;
}

const MARKS: readonly (readonly [bytes: readonly number[], name: string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xfe, 0xff], 'utf-16be'],
  [[0xff, 0xfe], 'utf-16le'],
];
/** How much of a page is looked through for what it says of itself (HTML standard §13.2.3.2). */
const PRESCANNED = 1_024;
/** Where nothing is said (§13.2.3.2, the last step, for most of the world). */
const DEFAULT = 'windows-1252';

/**
 * The encoding of a page by the HTML standard (§13.2.3.2): a byte order mark before all, then the charset of the media type,
 * then the page's own meta element in its first 1,024 bytes, else windows-1252.
 * @param raw the page as it came, unpacked
 * @param contentType the Content-Type header
 */
export function pageEncoding(raw: Uint8Array, contentType: string | null): PageEncoding {
  const header = known(mediaTypeOf(contentType)?.charset ?? undefined);
  const meta = prescan(Buffer.from(raw.subarray(0, PRESCANNED)).toString('latin1'));
  const mark = MARKS.find(([bytes]) => bytes.every((byte, at) => raw[at] === byte))?.[1] ?? null;
  const other = (chosen: string, ...said: readonly (string | null)[]) =>
    said.find((one) => one !== null && one !== chosen) ?? null;
  if (mark !== null) return { name: mark, by: 'mark', against: other(mark, header, meta) };
  if (header !== null) return { name: header, by: 'header', against: other(header, meta) };
  if (meta !== null) return { name: meta, by: 'meta', against: null };
  return { name: DEFAULT, by: 'default', against: null };
}

/** The name that the Encoding standard has for a label; null where it has none. */
function known(label: string | undefined): string | null {
  if (label === undefined) return null;
  try {
    return new TextDecoder(label).encoding;
  } catch {
    return null;
  }
}

/** What a meta element in the beginning of a page says of its encoding (§13.2.3.2, “prescan a byte stream”). */
function prescan(head: string): string | null {
  const text = head.replace(/<!--[\s\S]*?(?:-->|$)/gu, '');
  for (const [, attributes = ''] of text.matchAll(/<meta[\s/]([^<>]*)/giu)) {
    const values = attributesIn(attributes);
    const isPragma = values.get('http-equiv')?.toLowerCase() === 'content-type';
    const content = /charset\s*=\s*["']?([^"';\s]+)/iu.exec(values.get('content') ?? '')?.[1];
    const said = known(values.get('charset') ?? (isPragma ? content : undefined));
    if (said === null) continue;
    // A page whose meta element can be read at all is not in UTF-16, whatever it says.
    if (said.startsWith('utf-16')) return 'utf-8';
    return said === 'x-user-defined' ? DEFAULT : said;
  }
  return null;
}

function attributesIn(text: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const [, name = '', double, single, bare] of text.matchAll(
    /([^\s"'<>/=]+)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s"'<>]+))/gu,
  ))
    if (!found.has(name.toLowerCase())) found.set(name.toLowerCase(), double ?? single ?? bare ?? '');
  return found;
}
