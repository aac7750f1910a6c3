import { Hash } from '../set/hash.js';
import { likeness, type Likeness, type PageFace } from './face.js';
import { Faces, keyOf } from './faces.js';
import { IdleParameters } from './idle.js';

/** Addresses that are held against others with a parameter more. */
const MOST = 50_000;

/** What a page turned out to be beside those that were read before it. */
export interface Learnt {
  readonly likeness: Likeness;
  /** Addresses that are worth going to after all. */
  readonly back: readonly string[];
}

/** Tells pages of one website that show the same, and which parameters make no difference. */
export class Doubles {
  readonly idle = new IdleParameters();
  private readonly hash = new Hash();
  private readonly faces = new Faces();
  /** Numbers of faces: by the address in its plain form, by the address, by the address without a parameter, and by what is shown. */
  private readonly byPlain = new Map<number, number>();
  private readonly byAddress = new Map<number, number>();
  private readonly without = new Map<number, number>();
  private readonly shown = new Set<number>();

  /**
   * Learns from a page that was read which parameters make no difference.
   * @returns `same` for what was seen at an address that differs in a parameter, in case, in a slash at the end or in a usual file name alone
   */
  learn(text: string, face: PageFace | null): Learnt {
    const url = new URL(text);
    const nth = this.faces.keep(face);
    const found: Likeness[] = [];
    const back: string[] = [];
    for (const name of new Set(url.searchParams.keys())) {
      const less = new URL(url);
      less.searchParams.delete(name);
      const key = this.key(less.href);
      const base = this.byAddress.get(key);
      const there = base ?? this.without.get(key);
      if (there === undefined) {
        if (this.without.size < MOST) this.without.set(key, nth);
        continue;
      }
      const known = this.faces.of(there);
      if (known === null || face === null) continue;
      const like = likeness(known, face);
      found.push(like);
      back.push(...this.idle.learn(url, name, like === 'same', base !== undefined));
    }
    if (this.byAddress.size < MOST) this.byAddress.set(this.key(url.href), nth);
    if (!found.includes('same')) found.push(this.byForm(url, face, nth));
    return { likeness: (['same', 'alike'] as const).find((one) => found.includes(one)) ?? 'other', back };
  }

  /** How a page stands to that of an address which differs in case, in a slash at the end or in a usual file name alone. */
  private byForm(url: URL, face: PageFace | null, nth: number): Likeness {
    const plain = `${url.pathname
      .toLowerCase()
      .replace(/\/(?:index|default|home)\.\w{3,5}$/u, '/')
      .replace(/\/$/u, '')}${url.search}`;
    const key = this.key(plain);
    const known = this.byPlain.get(key);
    if (known !== undefined) return likeness(this.faces.of(known), face);
    this.byPlain.set(key, nth);
    return 'other';
  }

  /** Whether a page shows word for word what one before it did, whatever their addresses. */
  isShownBefore(face: PageFace): boolean {
    if (face.isShell) return false;
    const key = (face.name & 0x1fffff) * 4_294_967_296 + face.text;
    if (this.shown.has(key)) return true;
    if (this.shown.size < MOST * 4) this.shown.add(key);
    return false;
  }

  private key(text: string): number {
    return keyOf(this.hash.of(text));
  }
}
