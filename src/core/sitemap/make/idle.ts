/** So many values of a parameter show the same as the address without it: then it makes no difference there. */
const SHOWN_BY_BASE = 8;
/** So many where the address without it was never seen. */
const SHOWN_ALONE = 50;
/** Places that are told apart, and addresses that are kept back to be gone to after all. */
const MOST_PLACES = 50_000;
const MOST_KEPT_BACK = 20_000;

interface Shown {
  same: number;
  /** Whether the address without it was among those that showed the same. */
  hasBase: boolean;
  other: boolean;
  /** Addresses from which it was taken off. */
  taken: number;
  keptBack: string[];
}

/**
 * Which parameters make no difference, and where: at one path, or at the paths of one folder, never by their name alone. What was shown is
 * tried again now and then, at the sixteenth, the thirty-second, the sixty-fourth address and so on; once one shows something else, all
 * that was kept back is gone to.
 */
export class IdleParameters {
  private readonly places = new Map<string, Shown>();
  private keptBack = 0;

  /**
   * Whether a parameter may be taken off an address. Says no to one that serves to try it again.
   * @param text the address with it
   */
  mayGo(url: URL, name: string, text: string): boolean {
    const shown = placesOf(url, name)
      .map((place) => this.places.get(place))
      .find((one) => one !== undefined && isShown(one));
    if (!shown) return false;
    shown.taken += 1;
    // A power of two, from sixteen on.
    if (shown.taken >= 16 && (shown.taken & (shown.taken - 1)) === 0) return false;
    if (this.keptBack < MOST_KEPT_BACK) {
      shown.keptBack.push(text);
      this.keptBack += 1;
    }
    return true;
  }

  /**
   * Learns what one value of a parameter shows.
   * @param isBase whether that was held against the address without the parameter
   * @returns addresses that were kept back wrongly
   */
  learn(url: URL, name: string, isSame: boolean, isBase: boolean): string[] {
    const [path = '', folder = ''] = placesOf(url, name);
    const own = this.at(path);
    const around = this.at(folder);
    if (!isSame) return [...this.refute(own), ...this.refute(around)];
    own.same += 1;
    // A folder has as many witnesses as there are paths in it for which it was shown.
    if (isBase && !own.hasBase) {
      around.same += 1;
      around.hasBase = true;
    }
    own.hasBase ||= isBase;
    return [];
  }

  private refute(shown: Shown): string[] {
    shown.other = true;
    const { keptBack } = shown;
    shown.keptBack = [];
    this.keptBack -= keptBack.length;
    return keptBack;
  }

  private at(place: string): Shown {
    const known = this.places.get(place);
    if (known) return known;
    const made = { same: 0, hasBase: false, other: false, taken: 0, keptBack: [] };
    if (this.places.size < MOST_PLACES) this.places.set(place, made);
    return made;
  }
}

function isShown({ same, hasBase, other }: Shown): boolean {
  return !other && same >= (hasBase ? SHOWN_BY_BASE : SHOWN_ALONE);
}

/** The path with the parameter, and its folder with it. */
function placesOf({ pathname }: URL, name: string): string[] {
  return [
    `${pathname} ${name}`,
    `${pathname.slice(0, pathname.lastIndexOf('/') + 1).replace(/\d+/gu, '#')}* ${name}`,
  ];
}
