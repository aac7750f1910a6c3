/** One rule of a group, with the line where it stands. */
export interface RobotsRule {
  readonly allows: boolean;
  /** The path pattern as written, its escapes made alike. */
  readonly pattern: string;
  readonly line: number;
}

/** Rules with a wildcard that are held against each path; a robots.txt with more has them from a machine, and engines stop too. */
const MOST_WILD = 1_000;

/** A pattern cut at its wildcards, once for all paths. */
interface Wild {
  readonly rule: RobotsRule;
  readonly isAnchored: boolean;
  readonly pieces: readonly string[];
}

/**
 * The rules of one group, made ready so that a path is answered by one pass over it, however many rules there are: those
 * without a wildcard are found by the path's own beginnings.
 */
export class Ruleset {
  private readonly plain = new Map<string, RobotsRule>();
  /** The lengths that plain patterns have, longest first. */
  private readonly lengths: readonly number[];
  private readonly wild: readonly Wild[];

  constructor(rules: readonly RobotsRule[]) {
    const wild: Wild[] = [];
    for (const rule of rules) {
      const isAnchored = rule.pattern.endsWith('$');
      if (isAnchored || rule.pattern.includes('*')) {
        const pattern = isAnchored ? rule.pattern.slice(0, -1) : rule.pattern;
        if (wild.length < MOST_WILD) wild.push({ rule, isAnchored, pieces: pattern.split('*') });
      } else {
        const known = this.plain.get(rule.pattern);
        if (!known || (!known.allows && rule.allows)) this.plain.set(rule.pattern, rule);
      }
    }
    this.lengths = [...new Set([...this.plain.keys()].map(({ length }) => length))].sort((a, b) => b - a);
    this.wild = wild.sort((a, b) => b.rule.pattern.length - a.rule.pattern.length);
  }

  /** The rule that decides about a path: the longest that matches, and of two alike the one that allows (RFC 9309 §2.2.2). */
  deciding(path: string): RobotsRule | null {
    const plain = this.longestPlain(path);
    let best = plain;
    for (const { rule, isAnchored, pieces } of this.wild) {
      const longer = rule.pattern.length - (best?.pattern.length ?? -1);
      if (longer < 0) break;
      if (longer === 0 && !(rule.allows && best?.allows === false)) continue;
      if (matches(pieces, isAnchored, path)) best = rule;
    }
    return best;
  }

  private longestPlain(path: string): RobotsRule | null {
    for (const length of this.lengths) {
      const rule = length > path.length ? undefined : this.plain.get(path.slice(0, length));
      if (rule) return rule;
    }
    return null;
  }
}

/** Whether a pattern cut at its `*`, with or without a closing `$`, matches the beginning of a path. Linear in both. */
function matches(pieces: readonly string[], isAnchored: boolean, path: string): boolean {
  const first = pieces[0] ?? '';
  if (!path.startsWith(first)) return false;
  if (pieces.length === 1) return !isAnchored || path === first;
  let at = first.length;
  for (const piece of pieces.slice(1, -1)) {
    const found = path.indexOf(piece, at);
    if (found === -1) return false;
    at = found + piece.length;
  }
  const last = pieces.at(-1) ?? '';
  if (isAnchored) return path.length - last.length >= at && path.endsWith(last);
  return path.indexOf(last, at) !== -1;
}
