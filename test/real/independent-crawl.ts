import { createHash } from 'node:crypto';
import { get, type Agent, type IncomingHttpHeaders } from 'node:http';
import { Parser } from 'htmlparser2';

/** One page as a person reaches it. */
export interface Reached {
  readonly url: string;
  /** Of its bytes. */
  readonly sum: string;
  readonly links: readonly string[];
  /** The address by which it wants to be known, where that is another one. */
  readonly canonical: string | null;
}

interface Answer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly body: Buffer;
}

/** A website and where it is served on this machine. */
export interface Served {
  readonly origin: string;
  readonly port: number;
  readonly agent: Agent;
}

function answerOf({ port, agent }: Served, url: URL): Promise<Answer> {
  return new Promise((done, fail) => {
    get(
      { host: '127.0.0.1', port, agent, path: url.pathname + url.search, headers: { host: url.host } },
      (response) => {
        const pieces: Buffer[] = [];
        response
          .on('data', (piece: Buffer) => pieces.push(piece))
          .on('end', () => {
            done({
              status: response.statusCode ?? 0,
              headers: response.headers,
              body: Buffer.concat(pieces),
            });
          })
          .on('error', fail);
      },
    ).on('error', fail);
  });
}

/** Links, frames, `base`, canonical address and robots tags of a page, by a parser that the product does not use. */
function readPage(url: string, text: string): Omit<Reached, 'url' | 'sum'> & { readonly isHidden: boolean } {
  const found: string[] = [];
  let base = url;
  let canonical: string | null = null;
  let isHidden = false;
  let sentOn: string | null = null;
  let isClosed = false;
  const parser = new Parser({
    onopentag(name, attributes) {
      const words = (attributes['rel'] ?? '').toLowerCase().split(/\s+/u);
      const link = name === 'frame' || name === 'iframe' ? attributes['src'] : attributes['href'];
      if (name === 'base' && link !== undefined) base = new URL(link, url).href;
      else if (name === 'meta' && attributes['http-equiv']?.toLowerCase() === 'refresh')
        sentOn ??= /^0\s*;\s*url=(.+)$/iu.exec(attributes['content'] ?? '')?.[1] ?? null;
      else if (name === 'meta' && attributes['name']?.toLowerCase() === 'robots') {
        isHidden ||= /noindex|none/iu.test(attributes['content'] ?? '');
        isClosed ||= /nofollow|none/iu.test(attributes['content'] ?? '');
      } else if (name === 'link' && words.includes('canonical') && link !== undefined) canonical = link;
      else if (
        ['a', 'area', 'frame', 'iframe'].includes(name) &&
        link !== undefined &&
        !words.includes('nofollow')
      )
        found.push(link);
    },
  });
  parser.end(text);
  const absolute = (link: string): string[] => {
    try {
      const to = new URL(link.trim(), base);
      to.hash = '';
      return [to.href];
    } catch {
      return [];
    }
  };
  const own = canonical === null ? null : (absolute(canonical)[0] ?? null);
  return {
    links: isClosed ? [] : [...new Set([...found, ...(sentOn === null ? [] : [sentOn])].flatMap(absolute))],
    canonical: own === url ? null : own,
    // What sends its visitors on at once is no page of its own.
    isHidden: isHidden || sentOn !== null,
  };
}

/** Every page of a website that a person reaches from its front page by links, frames and redirects. */
export async function pagesReached(served: Served): Promise<Map<string, Reached>> {
  const reached = new Map<string, Reached>();
  const known = new Set([`${served.origin}/`]);
  const waiting = [...known];
  const go = (url: string): void => {
    if (known.has(url) || !url.startsWith(`${served.origin}/`)) return;
    known.add(url);
    waiting.push(url);
  };
  const lane = async (): Promise<void> => {
    for (let url = waiting.pop(); url !== undefined; url = waiting.pop()) {
      const { status, headers, body } = await answerOf(served, new URL(url));
      const to = headers.location;
      if (status >= 300 && status < 400 && to !== undefined) go(new URL(to, url).href);
      if (status !== 200 || !/\bx?html\b/u.test(headers['content-type'] ?? '')) continue;
      const { links, canonical, isHidden } = readPage(url, body.toString('latin1'));
      if (!isHidden)
        reached.set(url, { url, sum: createHash('sha256').update(body).digest('hex'), links, canonical });
      links.forEach(go);
    }
  };
  // Lanes that run dry while others still read begin again.
  while (waiting.length > 0) await Promise.all(Array.from({ length: 8 }, lane));
  return reached;
}
