import {
  placementOf,
  type DnsPlacement,
  type FilePlacement,
  type MetaPlacement,
  type Placement,
} from '../../src/core/badge/placement.js';
import { parseScope } from '../../src/core/address/reach.js';
import type { KnownToken } from '../../src/core/badge/token/known-token.js';
import type { EngineProfile, Method } from '../../src/core/profile/profile.js';
import { site } from '../../src/rehearsal/scenario.js';
import type { AnswerState, SiteState, WorldState } from '../../src/rehearsal/state.js';

/** One engine's rules meet one website, zone and token: the ground on which a scene is set. */
export class Ground<P extends Placement = Placement> {
  readonly token: string;
  readonly known: KnownToken[];

  constructor(
    readonly state: WorldState,
    readonly profile: EngineProfile,
    readonly bare: string,
    readonly placement: P,
    tokens: { own: string; old: string; others: readonly KnownToken[] },
  ) {
    this.token = tokens.own;
    const base = { method: placement.method, engine: profile.id, engineTitle: profile.title };
    this.known = [
      { ...base, value: tokens.own, property: 'own', replacedAt: null, inUse: true },
      {
        ...base,
        value: tokens.old,
        property: 'own',
        replacedAt: new Date('2026-05-03T08:00:00Z'),
        inUse: false,
      },
      ...tokens.others,
    ];
  }

  /** A website on the bare name, with `www.` leading to it. */
  site(more: Partial<SiteState> = {}): SiteState {
    const made = site(this.bare, 'Quay', 'Words.', { aliases: [`www.${this.bare}`], ...more });
    this.state.sites.push(made);
    return made;
  }

  /** The home page as it is sent. */
  page(head: string, body = '<p>Hello</p>', headers: Record<string, string> = {}): SiteState {
    return this.answer('/', { status: 200, body: html(head, body), headers });
  }

  answer(path: string, answer: AnswerState): SiteState {
    return this.site({ answers: { [path]: answer } });
  }

  txt(name: string, value: string, strings?: string[]): void {
    this.state.txt.push({ name, value, ...(strings ? { strings } : {}) });
  }

  /** The old token of the same engine, and one of another. */
  get old(): string {
    return this.known[1]?.value ?? '';
  }
  get foreign(): string {
    return this.known[2]?.value ?? '';
  }
}

export function html(head: string, body: string): string {
  return `<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>Quay</title>\n${head}\n</head>\n<body>\n${body}\n</body>\n</html>\n`;
}

/** Signs that look like the engine's tokens. @param seed any whole number */
export function tokenLike(profile: EngineProfile, seed: number): string {
  const signs = {
    hex: '0123456789abcdef',
    alphanumeric: 'ABCdefGHJkmnPQRst23456789',
    base64url: 'ABCdef-GHJ_kmnPQRst23456789',
  };
  const shape = profile.token.shape ?? { signs: 'hex' as const, length: 24 };
  const alphabet = signs[shape.signs];
  let state = seed * 2654435761 + 97;
  return Array.from({ length: shape.length }, () => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return alphabet[Math.floor(state / 65536) % alphabet.length] ?? 'a';
  }).join('');
}

export type MetaGround = Ground<MetaPlacement>;
export type FileGround = Ground<FilePlacement>;
export type DnsGround = Ground<DnsPlacement>;

/** What the engine's own rules make of a target; null where it takes no proof by that method for that reach. */
export function placed(
  profile: EngineProfile,
  reach: 'name' | 'address',
  target: string,
  method: Method,
  token: string,
): Placement | null {
  return profile.reaches.includes(reach)
    ? placementOf(profile, parseScope(reach, target), method, token)
    : null;
}
