/** A piece of a text, and whether the other text has it too. */
export interface Piece {
  readonly text: string;
  readonly same: boolean;
}

export interface Marked {
  readonly should: readonly Piece[];
  readonly stands: readonly Piece[];
}

/**
 * Marks where two texts differ, for people to see at a glance: the common beginning and end are the same, or the one
 * lies whole within the other.
 * @example markDifference('abcdef', 'abXdef') → should: ab·c·def, stands: ab·X·def
 */
export function textDifference(should: string, stands: string): Marked {
  const within = (outer: string, inner: string): Piece[] | null => {
    const at = inner === '' ? -1 : outer.indexOf(inner);
    return at === -1 ? null : pieces([outer.slice(0, at), inner, outer.slice(at + inner.length)]);
  };
  const extra = within(stands, should);
  if (extra) return { should: pieces(['', should, '']), stands: extra };
  const cut = within(should, stands);
  if (cut) return { should: cut, stands: pieces(['', stands, '']) };
  let start = 0;
  while (start < Math.min(should.length, stands.length) && should[start] === stands[start]) start += 1;
  let end = 0;
  const room = Math.min(should.length, stands.length) - start;
  while (end < room && should.at(-1 - end) === stands.at(-1 - end)) end += 1;
  const middle = (text: string): Piece[] =>
    [
      { text: text.slice(0, start), same: true },
      { text: text.slice(start, text.length - end), same: false },
      { text: text.slice(text.length - end), same: true },
    ].filter((one) => one.text !== '');
  return { should: middle(should), stands: middle(stands) };
}

function pieces([before = '', same = '', after = '']: readonly string[]): Piece[] {
  return [
    { text: before, same: false },
    { text: same, same: true },
    { text: after, same: false },
  ].filter((one) => one.text !== '');
}
