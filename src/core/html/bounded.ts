import { defaultTreeAdapter, Parser, type DefaultTreeAdapterMap } from 'parse5';

/** What a page has more of than is read of any. */
export type Beyond = 'depth' | 'elements' | 'attributes' | 'work';

/** The same in words. */
export const BEYOND: Readonly<Record<Beyond, string>> = {
  depth: 'levels of elements within one another',
  elements: 'elements',
  attributes: 'attributes in one tag',
  work: 'markup to work through',
};

/**
 * How much of a page is read. Formatting elements that are still open are opened again by each new paragraph (HTML standard
 * §13.2.4.3), so that a short text can ask for elements without end. Browsers and engines have bounds of their own: elements deeper than 512 are no longer nested by
 * those that most people use, and a page of a hundred thousand elements is none that anybody wrote.
 */
const DEEPEST = 512;
const MOST_ELEMENTS = 100_000;
const MOST_ATTRIBUTES = 1_000;
/** The tokenizer compares each attribute of a tag with all before it; between pieces of so many letters they are counted. */
const PIECE = 2_048;

/** What the parser does not show of itself, and what bounds have to be held against; a test of the bounds would notice a change. */
interface Inside {
  readonly tokenizer: { readonly currentToken: { readonly attrs?: readonly unknown[] } | null };
}

/** Ends the reading: at a bound, or where as much was read as was wanted. */
class Enough extends Error {
  constructor(readonly beyond: Beyond | null) {
    super(beyond ?? 'as much as was wanted');
  }
}

/** How much of a page is wanted: all of it, or what stands before its body. */
export type Wanted = 'page' | 'head';

/** Elements by which the head of a page is over for good (HTML standard §13.2.6.4.6). */
const BEHIND_HEAD = new Set(['body', 'frameset']);

export interface BoundedDocument {
  readonly document: DefaultTreeAdapterMap['document'];
  /** What there is too much of; null for a page that was read to its end. What comes before the bound is there. */
  readonly beyond: Beyond | null;
  /** The piece of the text in which reading ended, by its letters: a head ends somewhere in it. */
  readonly last: { readonly from: number; readonly to: number };
}

/**
 * Builds the tree of a page as the HTML standard does (§13.2.6), within bounds of depth and number, so that no page costs more
 * than its length allows.
 * @param locations whether nodes know their lines and columns
 * @param scripting whether scripts run: what a `noscript` is depends on it (§13.2.6.4.4)
 * @param wanted for the head alone, nothing is read beyond the piece in which the body begins
 */
export function parseBounded(
  text: string,
  locations: boolean,
  scripting: boolean,
  wanted: Wanted = 'page',
): BoundedDocument {
  let elements = 0;
  let last = { from: 0, to: 0 };
  const requireRoom = (): void => {
    elements += 1;
    if (elements > MOST_ELEMENTS) throw new Enough('elements');
    if (parser.openElements.stackTop > DEEPEST) throw new Enough('depth');
  };
  const parser = new Parser<DefaultTreeAdapterMap>({
    sourceCodeLocationInfo: locations,
    scriptingEnabled: scripting,
    treeAdapter: {
      ...defaultTreeAdapter,
      createElement(...given) {
        requireRoom();
        if (wanted === 'head' && BEHIND_HEAD.has(given[0])) throw new Enough(null);
        return defaultTreeAdapter.createElement(...given);
      },
    },
  });
  const inside = parser as unknown as Inside;
  const { document, tokenizer } = parser;
  try {
    for (let from = 0; from < text.length || from === 0; from += PIECE) {
      last = { from, to: Math.min(from + PIECE, text.length) };
      tokenizer.write(text.slice(from, last.to), last.to === text.length);
      if ((inside.tokenizer.currentToken?.attrs?.length ?? 0) > MOST_ATTRIBUTES)
        throw new Enough('attributes');
    }
    return { document, beyond: null, last };
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
    return { document, beyond: error.beyond, last };
  }
}
