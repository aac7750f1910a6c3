/** The part of a shared link that opens it, wherever it stands in a text. */
const CODE = /(\/shared\/)[\w-]{20,}/gu;

/** A text without what opens the shared links in it: whoever reads it again is shown that there was one, and no more. */
export function withoutCodes(text: string): string {
  return text.replace(CODE, '$1…');
}
