/** From where FNV-1a begins, in 32 bits. */
export const FNV_OFFSET = 0x811c9dc5;
const PRIME = 0x01000193;

/** One step of FNV-1a in 32 bits: a code unit, or a whole hash in place of one. */
export function fnv1aOver(value: number, unit: number): number {
  return Math.imul(value ^ unit, PRIME);
}

/**
 * FNV-1a in 32 bits, over the code units of a text. @param from what came out for the texts before it, where there are several
 * @returns a signed integer
 */
export function fnv1a(text: string, from = FNV_OFFSET): number {
  let value = from;
  for (let at = 0; at < text.length; at += 1) value = fnv1aOver(value, text.charCodeAt(at));
  return value;
}
