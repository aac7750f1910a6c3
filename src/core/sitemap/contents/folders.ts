/** A folder of a website as a sitemap shows it: how many addresses stand right in it, and how many in it and below. */
export interface Folder {
  readonly id: number;
  /** The folder that holds it; null for a host. */
  readonly parent: number | null;
  /** `https://quay.example/tides/` */
  readonly path: string;
  readonly own: number;
  readonly total: number;
  readonly depth: number;
  /** Folders stand in the order of their paths, those below one right behind it: from its own place to that of the last of them. */
  readonly place: number;
  readonly last: number;
}

/** Folders that are told apart; what is found beyond goes to the host’s own. Nobody looks through more. */
export const MOST_FOLDERS = 100_000;
/** Deeper ones go to the one that is as deep. */
const DEEPEST = 12;

interface Node {
  readonly id: number;
  readonly name: string;
  readonly path: string;
  readonly parent: Node | null;
  readonly depth: number;
  own: number;
  readonly below: Map<string, Node>;
}

/** The folders of a sitemap's addresses, gathered as they come. */
export class FolderTree {
  private readonly hosts = new Map<string, Node>();
  private readonly none: Node;
  private count = 0;

  constructor() {
    this.none = this.node('', '', null);
  }

  /** @param address as it is written; what cannot be read as one has a place of its own @returns the folder's number */
  add(address: string): number {
    const node = this.nodeOf(address);
    node.own += 1;
    return node.id;
  }

  /** All of them in order, each with what is in it and below it. */
  folders(): Folder[] {
    const found: Folder[] = [];
    const visit = (node: Node): number => {
      const place = found.length;
      found.push({
        id: node.id,
        parent: node.parent?.id ?? null,
        path: node.path,
        own: node.own,
        total: 0,
        depth: node.depth,
        place,
        last: place,
      });
      let total = node.own;
      for (const [, child] of [...node.below].sort(([a], [b]) => (a < b ? -1 : 1))) total += visit(child);
      const here = found[place];
      if (here) found[place] = { ...here, total, last: found.length - 1 };
      return total;
    };
    const roots = [...this.hosts.values()].sort((a, b) => (a.path < b.path ? -1 : 1));
    for (const root of this.none.own > 0 ? [...roots, this.none] : roots) visit(root);
    return found;
  }

  private nodeOf(address: string): Node {
    const [, origin, path = '/'] = /^(https?:\/\/[^/?#\s]+)([^?#]*)/iu.exec(address) ?? [];
    if (origin === undefined) return this.none;
    const host = this.hosts.get(origin) ?? this.host(origin);
    if (!host) return this.none;
    let node: Node = host;
    const names = path.split('/').slice(1, -1);
    for (const name of names.slice(0, DEEPEST)) {
      const next: Node | null = node.below.get(name) ?? this.below(node, name);
      if (!next) return node;
      node = next;
    }
    return node;
  }

  private host(origin: string): Node | null {
    if (this.count >= MOST_FOLDERS) return null;
    const made = this.node(origin, `${origin}/`, null);
    this.hosts.set(origin, made);
    return made;
  }

  private below(node: Node, name: string): Node | null {
    if (this.count >= MOST_FOLDERS) return null;
    const made = this.node(name, `${node.path}${name}/`, node);
    node.below.set(name, made);
    return made;
  }

  private node(name: string, path: string, parent: Node | null): Node {
    this.count += 1;
    const depth = parent === null ? 0 : parent.depth + 1;
    return { id: this.count, name, path, parent, depth, own: 0, below: new Map() };
  }
}
