/** Encodings for which an address is written in UTF-8 all the same (https://url.spec.whatwg.org/#query-state). */
const AS_UTF_8 = /^(?:utf-?8|utf-?16|replacement|x-user-defined|iso-2022-jp|gb18030)/iu;

/** What the bytes of an encoding stand for, the other way round; made once for each that is met. */
const tables = new Map<string, ReadonlyMap<string, readonly number[]>>();
const MOST_TABLES = 40;

interface Decoder {
  decode(bytes: Uint8Array): string;
}

function tableOf(encoding: string): ReadonlyMap<string, readonly number[]> {
  const known = tables.get(encoding);
  if (known) return known;
  const table = new Map<string, readonly number[]>();
  const learn = (decoder: Decoder, bytes: readonly number[]) => {
    try {
      const text = decoder.decode(Uint8Array.from(bytes));
      if ([...text].length === 1 && !table.has(text)) table.set(text, bytes);
    } catch {
      // These bytes are none of a sign there.
    }
  };
  const decoder = new TextDecoder(encoding, { fatal: true });
  for (let one = 0x80; one < 0x100; one += 1) learn(decoder, [one]);
  // What has no signs of half the bytes that are not ASCII has signs of two bytes.
  if (table.size < 64)
    for (let one = 0x81; one < 0xff; one += 1)
      for (let two = 0x40; two < 0xff; two += 1) learn(decoder, [one, two]);
  if (tables.size < MOST_TABLES) tables.set(encoding, table);
  return table;
}

/**
 * A link as it is written in a page of some encoding, with its query escaped in that encoding: there alone an address depends on the page in
 * which it stands (https://url.spec.whatwg.org/#query-state).
 * @param encoding the page's, by the name that the Encoding standard has for it
 */
export function inEncoding(link: string, encoding: string): string {
  const from = link.indexOf('?');
  if (from === -1 || AS_UTF_8.test(encoding) || !/[^\x00-\x7f]/u.test(link.slice(from))) return link;
  const to = link.indexOf('#', from);
  const query = link.slice(from, to === -1 ? undefined : to);
  let table: ReadonlyMap<string, readonly number[]>;
  try {
    table = tableOf(encoding);
  } catch {
    return link;
  }
  const escaped = query.replace(/[^\x00-\x7f]/gu, (sign) => {
    const bytes = table.get(sign);
    // What the encoding does not have is written by its number, escaped (https://url.spec.whatwg.org/#percent-encode-after-encoding).
    if (!bytes) return `%26%23${String(sign.codePointAt(0) ?? 0)}%3B`;
    return bytes.map(escapedByte).join('');
  });
  return link.slice(0, from) + escaped + (to === -1 ? '' : link.slice(to));
}

/** A byte of a sign: one that is a plain sign of an address stays as it is. */
function escapedByte(byte: number): string {
  const sign = String.fromCharCode(byte);
  return byte < 0x7f && !/["#<>'\s]/u.test(sign)
    ? sign
    : `%${byte.toString(16).toUpperCase().padStart(2, '0')}`;
}
