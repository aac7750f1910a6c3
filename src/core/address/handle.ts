/**
 * A handle made from a name or a host: `Saltmarsh Ferries Oy` → `saltmarsh-ferries-oy`, `www.möwenfang.example` → `moewenfang`.
 * The owner can give a better one; this one need only be readable.
 */
export function handleFrom(text: string): string {
  const spelled = text
    .toLowerCase()
    .replace(/ä/g, 'ae')
    .replace(/ö/g, 'oe')
    .replace(/ü/g, 'ue')
    .replace(/ß/g, 'ss')
    .replace(/å/g, 'aa')
    .replace(/ø/g, 'oe');
  const plain = spelled.normalize('NFD').replace(/\p{M}/gu, '');
  return (
    plain
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 50) || 'unnamed'
  );
}
