/** Words by which a page asks engines not to show it. */
const STAY_AWAY = /(^|[\s,;])(noindex|none)([\s,;]|$)/iu;
/** Words by which a page asks that its links be left alone. */
const NO_FOLLOW = /(^|[\s,;])(nofollow|none)([\s,;]|$)/iu;
/** Directives that have a colon of their own, so that what stands before it is no agent. */
const WITH_VALUE = new Set(['max-snippet', 'max-image-preview', 'max-video-preview', 'unavailable_after']);

/** Whether the content of a robots meta tag asks the reader to stay away. */
export function asksToStayAway(content: string): boolean {
  return STAY_AWAY.test(content);
}

/** Whether the content of a robots meta tag asks the reader not to follow the page's links. */
export function asksNotToFollow(content: string): boolean {
  return NO_FOLLOW.test(content);
}

/**
 * The part of an X-Robots-Tag header that keeps an agent out: several headers come joined by commas, and each may begin
 * with the name of the agent that it is for.
 * @param agent null for one that is not known, to which only what is for everyone applies
 * @returns the directives, as written; null where none of them keeps it out
 */
export function stayAwayHeader(header: string, agent: string | null): string | null {
  return directiveFor(header, agent, asksToStayAway);
}

/** Whether an X-Robots-Tag header asks everyone not to follow the page's links. */
export function asksNotToFollowHeader(header: string): boolean {
  return directiveFor(header, null, asksNotToFollow) !== null;
}

function directiveFor(
  header: string,
  agent: string | null,
  asks: (content: string) => boolean,
): string | null {
  let isForUs = true;
  for (const piece of header.split(',')) {
    const [, name, rest] = /^([\w-]+)\s*:(.*)$/su.exec(piece.trim()) ?? [];
    const isNamed = name !== undefined && !WITH_VALUE.has(name.toLowerCase());
    if (isNamed) isForUs = name.toLowerCase() === agent?.toLowerCase();
    const directive = isNamed ? (rest ?? '') : piece;
    if (isForUs && asks(directive.trim())) return piece.trim();
  }
  return null;
}
