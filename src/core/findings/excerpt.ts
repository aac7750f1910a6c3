/**
 * A piece of foreign text that is safe to keep and to show: no control or direction-changing characters, bounded.
 * @param limit characters at most
 */
export function excerpt(text: string, limit = 120): string {
  const plain = text.replace(/\s+/gu, ' ').replace(/\p{C}/gu, '').trim();
  return plain.length > limit ? `${plain.slice(0, limit)}…` : plain;
}
