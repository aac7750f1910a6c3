const OFFSET = 0x811c9dc5;
const PRIME = 0x01000193;

/**
 * FNV-1a in 32 bits, over the code units of a text. @param from what came out for the texts before it, where there are several
 * @returns a signed integer
 */
export function fnv1a(text: string, from = OFFSET): number {
  let value = from;
  for (let at = 0; at < text.length; at += 1) value = Math.imul(value ^ text.charCodeAt(at), PRIME);
  return value;
}
