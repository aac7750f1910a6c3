/** Elements that hold none of their own, or that the next of their kind ends: they nest in nothing, however many there are. */
const FLAT =
  /(?:area|base|br|col|dd|dt|hr|img|input|li|link|meta|option|p|param|source|td|th|tr|track|wbr)(?![a-z0-9-])/iy;
const FRAME = /i?frame/iy;
const END = /\/[a-z]/iy;
const LETTER = /[a-z]/iy;
/** Far below what `bounded` reads, since this counts roughly: depth, tags, and letters of one tag. */
const DEEPEST = 200;
const MOST_TAGS = 20_000;
const LONGEST_TAG = 4_000;

/**
 * Whether a piece of markup holds no frame, and nothing of what reading would stop at: told by one pass over its tags, without
 * building anything. Where in doubt it is not.
 */
export function isPlain(markup: string): boolean {
  let open = 0;
  let tags = 0;
  for (let at = markup.indexOf('<'); at !== -1; at = markup.indexOf('<', at + 1)) {
    if (startsAt(END, markup, at + 1)) {
      if (open > 0) open -= 1;
      continue;
    }
    if (!startsAt(LETTER, markup, at + 1)) continue;
    if (startsAt(FRAME, markup, at + 1)) return false;
    tags += 1;
    if (!startsAt(FLAT, markup, at + 1)) open += 1;
    if (open > DEEPEST || tags > MOST_TAGS || isLong(markup, at)) return false;
  }
  return true;
}

/** Whether a tag goes on for longer than anybody writes, or to the end. */
function isLong(markup: string, at: number): boolean {
  const end = markup.indexOf('>', at);
  return end === -1 || end - at > LONGEST_TAG;
}

function startsAt(pattern: RegExp, text: string, at: number): boolean {
  pattern.lastIndex = at;
  return pattern.test(text);
}
