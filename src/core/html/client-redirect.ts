/** Where a page sends its visitors on by itself, after it was answered with 200. */
export interface ClientRedirect {
  readonly kind: 'refresh' | 'script';
  readonly url: string;
}

/** A refresh that lets people read first is no redirect; in seconds. */
const LONGEST_REFRESH = 10;
/** A page with more letters than this is one of its own, whatever its scripts do. */
const FEW_LETTERS = 200;
/** Letters of a page's scripts that are looked through. */
export const MOST_SCRIPT = 20_000;
const SCRIPTED =
  /(?:^|[;{}\s(.])location(?:\.href)?\s*=\s*["']([^"']{1,2000})["']|\blocation\.(?:replace|assign)\s*\(\s*["']([^"']{1,2000})["']/u;

/** What of a page tells where it sends its visitors. */
export interface SendingParts {
  /** The content of its first refresh pragma. */
  readonly refresh: string | undefined;
  readonly script: string;
  /** Letters that people could read. */
  readonly letters: number;
  /** Against what addresses in it are resolved. */
  readonly base: string;
}

export function clientRedirectOf({ refresh, script, letters, base }: SendingParts): ClientRedirect | null {
  return refreshed(refresh, base) ?? (letters <= FEW_LETTERS ? scripted(script, base) : null);
}

/** Where a refresh leads (HTML standard §4.2.5.3); null for one that only loads the page again or lets people read first. */
function refreshed(content: string | undefined, base: string): ClientRedirect | null {
  const [, seconds, target] =
    /^\s*(\d+)(?:\.[\d.]*)?\s*[;,\s]\s*(?:url\s*=\s*)?["']?([^"']+)/iu.exec(content ?? '') ?? [];
  const url = resolved(target?.trim() ?? null, base);
  if (url === null || Number(seconds) > LONGEST_REFRESH || url === base) return null;
  return { kind: 'refresh', url };
}

function scripted(script: string, base: string): ClientRedirect | null {
  const [, set, called] = SCRIPTED.exec(script) ?? [];
  const url = resolved(set ?? called ?? null, base);
  return url === null || url === base ? null : { kind: 'script', url };
}

/** A web address out of a page; null where it is none. What stands behind # belongs to the page. */
export function resolved(text: string | null, base: string): string | null {
  if (text === null || text.trim() === '' || text.length > 2048) return null;
  try {
    const url = new URL(text.trim(), base);
    url.hash = '';
    return url.protocol === 'http:' || url.protocol === 'https:' ? url.href : null;
  } catch {
    return null;
  }
}
