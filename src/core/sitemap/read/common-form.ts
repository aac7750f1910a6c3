/** What an entry of the common form may have, by the tag that begins it. */
const FIELDS = ['loc', 'lastmod', 'changefreq', 'priority'] as const;
export type CommonField = (typeof FIELDS)[number];

const TAGS = FIELDS.map((name) => ({ name, open: `<${name}>`, close: `</${name}>` }));
/** Letters that are themselves in XML, whoever reads it: no entity, no bracket, nothing that has to be put in one form. */
const PLAIN = /^[\x20-\x25\x27-\x3b\x3d\x3f-\x7e\t\n\u00a0-\ud7ff\ue000-\ufffd]*$/u;
/** The same with the entities that XML itself has. */
const ENTITIES = /&(?:amp|lt|gt|quot|apos);/g;
const MEANS: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&apos;': "'",
};
const TAB = 0x09;
const NEWLINE = 0x0a;
const RETURN = 0x0d;
const BLANK = 0x20;

/** Where in a text the fields of one entry are; used again for each entry, so that reading one makes nothing new. */
export class CommonEntry {
  readonly names: CommonField[] = [];
  readonly texts: string[] = [];
  /** Behind the closing tag of each. */
  readonly ends: number[] = [];
  /** Behind the opening tag of the last. */
  opened = 0;
  /** Behind the entry. */
  end = 0;

  clear(): void {
    this.names.length = 0;
    this.texts.length = 0;
    this.ends.length = 0;
  }
}

/**
 * Reads entries as nearly everybody writes them: `<url><loc>…</loc><lastmod>…</lastmod></url>`, the protocol's own elements without
 * prefix or attribute, blanks between them, plain text in them. It knows no more of XML than that, and takes nothing that a parser could
 * read in another way: where anything else stands, it says no, and the parser reads on from there.
 */
export class CommonForm {
  readonly open: string;
  readonly close: string;
  readonly entry = new CommonEntry();

  /** @param name of the element that is an entry: `url` or `sitemap` */
  constructor(name: string) {
    this.open = `<${name}>`;
    this.close = `</${name}>`;
  }

  /** Reads one entry, with the blanks before it, into `entry`. @returns whether it is all of the common form, and has an address */
  read(text: string, from: number): boolean {
    const { entry, open, close } = this;
    entry.clear();
    let at = pastBlanks(text, from);
    if (!text.startsWith(open, at)) return false;
    at += open.length;
    let hasLocation = false;
    for (;;) {
      at = pastBlanks(text, at);
      if (text.startsWith(close, at)) break;
      const tag = TAGS.find((one) => text.startsWith(one.open, at));
      if (!tag) return false;
      entry.opened = at + tag.open.length;
      const end = text.indexOf('<', entry.opened);
      if (end === -1 || !text.startsWith(tag.close, end)) return false;
      const said = plainText(text.slice(entry.opened, end));
      if (said === null) return false;
      at = end + tag.close.length;
      entry.names.push(tag.name);
      entry.texts.push(said);
      entry.ends.push(at);
      if (tag.name === 'loc') hasLocation = true;
    }
    entry.end = at + close.length;
    return hasLocation;
  }
}

/** Behind the blanks at a place. A carriage return alone is a line of its own to XML, and so is none of the common form. */
function pastBlanks(text: string, from: number): number {
  let at = from;
  for (;;) {
    const code = text.charCodeAt(at);
    if (code === BLANK || code === NEWLINE || code === TAB) at += 1;
    else if (code === RETURN && text.charCodeAt(at + 1) === NEWLINE) at += 2;
    else return at;
  }
}

/** What a text says without blanks around it; null where it takes a parser to tell. */
function plainText(raw: string): string | null {
  if (PLAIN.test(raw)) return raw.trim();
  const said = raw.replace(ENTITIES, '');
  if (!PLAIN.test(said)) return null;
  return raw.replace(ENTITIES, (entity) => MEANS[entity] ?? entity).trim();
}
