const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** A text as it stands in HTML. */
export function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (sign) => ENTITIES[sign] ?? sign);
}
