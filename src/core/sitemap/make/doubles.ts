import { Hash } from '../set/hash.js';
import { Faces, keyOf } from './faces.js';
import { isSameSketch } from './sketch.js';

/** Addresses that are held against others with a parameter more, and parameters that are told apart. */
const MOST = 50_000;
/** A parameter that made no difference so often, and hardly ever one, makes none. */
const IDLE_AFTER = 8;
const IDLE_SHARE = 0.9;

/** Tells pages of one website that show the same, and which parameters make no difference. */
export class Doubles {
  private readonly hash = new Hash();
  private readonly idle = new Map<string, { same: number; other: number }>();
  private readonly faces = new Faces();
  /** Numbers of sketches, by the address in its plain form, and by that without a parameter. */
  private readonly byPlain = new Map<number, number>();
  private readonly without = new Map<number, number>();

  /** Whether a parameter made no difference so often that it makes none. */
  isIdle(name: string): boolean {
    const known = this.idle.get(name);
    return (
      known !== undefined && known.same >= IDLE_AFTER && known.same / (known.same + known.other) >= IDLE_SHARE
    );
  }

  /**
   * Learns from a page that was read which parameters make no difference.
   * @param face the same for pages that show the same
   * @returns whether it is a double: what was seen at an address that differs in a parameter, in case, in a slash at the end or in a
   *   usual file name alone
   */
  learn(text: string, face: string | null): boolean {
    const url = new URL(text);
    const names = [...new Set(url.searchParams.keys())];
    let isSame = false;
    let kept: number | null = null;
    // A page has several addresses here, and one sketch.
    const nth = () => (kept ??= this.faces.keep(face));
    for (const name of names) isSame = this.compare(url, name, face, nth) || isSame;
    if (isSame) return true;
    if (names.length === 0) this.remember(url.href, nth);
    const plain = `${url.pathname
      .toLowerCase()
      .replace(/\/(?:index|default|home)\.\w{3,5}$/u, '/')
      .replace(/\/$/u, '')}${url.search}`;
    const key = this.key(plain);
    const known = this.byPlain.get(key);
    if (known !== undefined) return isSameSketch(this.faces.of(known), face);
    this.byPlain.set(key, nth());
    return false;
  }

  /** @returns whether the page is what was seen without that parameter, or with another value of it */
  private compare(url: URL, name: string, face: string | null, nth: () => number): boolean {
    const less = new URL(url);
    less.searchParams.delete(name);
    const key = this.key(less.href);
    const there = this.without.get(key);
    if (there === undefined) {
      this.remember(less.href, nth);
      return false;
    }
    const known = this.faces.of(there);
    if (known === null || face === null) return false;
    const counts = this.idle.get(name) ?? { same: 0, other: 0 };
    const isSame = isSameSketch(known, face);
    if (isSame) counts.same += 1;
    else counts.other += 1;
    if (this.idle.size < MOST) this.idle.set(name, counts);
    return isSame;
  }

  private remember(text: string, nth: () => number): void {
    if (this.without.size < MOST) this.without.set(this.key(text), nth());
  }

  private key(text: string): number {
    return keyOf(this.hash.of(text));
  }
}
