import { Hash } from '../set/hash.js';
import { keyOf } from './faces.js';
import { likeness, type PageFace } from './face.js';

/** Parts of a path that nobody would write by hand: what tells a visit, or a thing by its number. */
const RANDOM = /\/(?=[\w-]*\d)(?=[\w-]*[a-z])[\w-]{16,}(?=\/|$)/iu;
/** So often the same page came under another such part before the part counts as a visit's. */
const SURE_AFTER = 5;
const MOST = 20_000;

interface Place {
  /** The part that was met first: under that one its pages are kept. */
  readonly first: string;
  same: number;
  other: number;
}

/**
 * Tells paths in which each visitor gets a part of their own, so that one page has as many addresses as there are visits.
 */
export class PathSessions {
  private readonly hash = new Hash();
  private readonly places = new Map<string, Place>();
  private readonly pages = new Map<number, PageFace>();

  /** Whether an address is one more visit's of a place that has shown the same under several. */
  isAnother(pathname: string): boolean {
    const found = RANDOM.exec(pathname);
    const place = found && this.places.get(pathname.slice(0, found.index));
    return place != null && found?.[0] !== place.first && place.same >= SURE_AFTER && place.other === 0;
  }

  /** Learns from a page that was read. @returns whether it is what another visit's address has shown */
  learn(pathname: string, face: PageFace | null): boolean {
    const found = RANDOM.exec(pathname);
    if (!found || face === null) return false;
    const prefix = pathname.slice(0, found.index);
    const place = this.places.get(prefix) ?? { first: found[0], same: 0, other: 0 };
    if (this.places.size < MOST) this.places.set(prefix, place);
    const key = keyOf(this.hash.of(`${prefix}/*${pathname.slice(found.index + found[0].length)}`));
    const known = this.pages.get(key);
    if (!known) {
      if (this.pages.size < MOST) this.pages.set(key, face);
      return false;
    }
    const isSame = likeness(known, face) === 'same';
    if (isSame) place.same += 1;
    else place.other += 1;
    return isSame;
  }
}
