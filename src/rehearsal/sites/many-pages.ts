import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import type { ManyPages } from '../state.js';

const FOLDERS = ['news', 'tides', 'boats', 'people', 'shop', 'history', 'guides', 'letters'];
/** Pages in one list. */
const ON_A_LIST = 40;
const LINKS_OF_MANY = 1_000_000;
const HUGE_BYTES = 5_000_000_000;
const WORDS =
  'anchor ballast bowline capstan dinghy ebb fathom galley halyard islet jetty keel lagoon mooring narrows oar pontoon quay rudder slack thwart upstream vessel wharf yawl'.split(
    ' ',
  );

/** The website whose pages they are. */
export interface PagesOf {
  readonly host: string;
  /** Tags of its front page. */
  readonly head: readonly string[];
  readonly scheme?: 'http' | 'https';
}

/** Answers for one page. @returns false where there is none of that address */
export function sendManyPages(
  pages: ManyPages,
  { host, head, scheme = 'https' }: PagesOf,
  now: Date,
  request: IncomingMessage,
  response: ServerResponse,
): boolean {
  const url = new URL(request.url ?? '/', `https://${host}`);
  if (pages.traps && sendTrap(host, url, response)) return true;
  const html = pageFor(pages, { host, head, scheme }, url, now);
  if (html === null) return false;
  const changed = new Date(now.getTime() - 86_400_000 * (1 + (numberIn(url.pathname) % 300)));
  response
    .writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'last-modified': changed.toUTCString(),
      date: now.toUTCString(),
    })
    .end(html);
  return true;
}

function pageFor(pages: ManyPages, of: PagesOf, url: URL, now: Date): string | null {
  const { host, head } = of;
  const { pathname } = url;
  if (pathname === '/') return frontPage(pages, host, head);
  const list = /^\/(\w+)\/(?:list\/(\d+))?$/u.exec(pathname);
  if (list && FOLDERS.includes(list[1] ?? ''))
    return listPage(pages, of, list[1] ?? '', Number(list[2] ?? 1));
  const page = /^\/(\w+)\/(\w+)-(\d+)\.html$/u.exec(pathname);
  const number = Number(page?.[3] ?? -1);
  if (!page || number >= pages.count || addressOf(number) !== pathname) return null;
  return ownPage(host, number, now);
}

function addressOf(number: number): string {
  return `/${FOLDERS[number % FOLDERS.length] ?? ''}/${WORDS[(number * 7) % WORDS.length] ?? ''}-${String(number)}.html`;
}

function numberIn(path: string): number {
  return Number(/(\d+)/u.exec(path)?.[1] ?? 0);
}

function frame(host: string, title: string, head: string, body: string): string {
  const menu = FOLDERS.map((folder) => `<a href="/${folder}/">${folder}</a>`).join(' ');
  return `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>${title}</title>${head}</head>
<body><nav>${menu}</nav><main><h1>${title}</h1>${body}</main><footer><p>${host}</p></footer></body>
</html>
`;
}

function frontPage(pages: ManyPages, host: string, head: readonly string[]): string {
  const first = Array.from({ length: Math.min(12, pages.count) }, (_, at) => link(at)).join('');
  const traps = pages.traps
    ? '<p><a href="/calendar/2026/11">calendar</a> <a href="/everything">everything</a> <a href="/maze/1">maze</a> <a href="/huge">huge</a> <a href="/shelf?colour=red&size=1">shelf</a> <a href="round/about/">round</a> <a href="/session?visit=1">session</a></p>'
    : '';
  return frame(host, `Front page of ${host}`, head.join(''), `<ul>${first}</ul>${traps}`);
}

function link(number: number): string {
  return `<li><a href="${addressOf(number)}">${titleOf(number)}</a></li>`;
}

function titleOf(number: number): string {
  return `${WORDS[(number * 7) % WORDS.length] ?? ''} and ${WORDS[(number * 11 + 3) % WORDS.length] ?? ''}, ${String(number)}`;
}

function listPage(pages: ManyPages, { host, scheme }: PagesOf, folder: string, nth: number): string | null {
  const own = FOLDERS.indexOf(folder);
  const total = Math.ceil((pages.count - own) / FOLDERS.length);
  const lists = Math.max(1, Math.ceil(total / ON_A_LIST));
  if (nth < 1 || nth > lists) return null;
  const items = Array.from(
    { length: ON_A_LIST },
    (_, at) => own + FOLDERS.length * ((nth - 1) * ON_A_LIST + at),
  ).filter((number) => number < pages.count);
  const others = Array.from(
    { length: lists },
    (_, at) => `<a href="/${folder}/list/${String(at + 1)}">${String(at + 1)}</a>`,
  );
  const canonical = nth === 1 ? `<link rel="canonical" href="${String(scheme)}://${host}/${folder}/">` : '';
  const next = nth < lists ? `<link rel="next" href="/${folder}/list/${String(nth + 1)}">` : '';
  return frame(
    host,
    `${folder}, ${String(nth)}`,
    canonical + next,
    `<ol>${items.map(link).join('')}</ol><p>${others.join(' ')}</p>`,
  );
}

/** One page with words of its own, and a few things that are not as they should be. */
function ownPage(host: string, number: number, now: Date): string {
  const day = new Date(now.getTime() - 86_400_000 * (2 + (number % 500))).toISOString().slice(0, 10);
  const isArticle = number % FOLDERS.length === 0;
  const data = isArticle
    ? `<script type="application/ld+json">{"@context":"https://schema.org","@type":"NewsArticle","datePublished":"${day}","dateModified":"${day}"}</script>`
    : '';
  const robots = number % 97 === 96 ? '<meta name="robots" content="noindex">' : '';
  const broken = number % 251 === 250 ? `<a href="/gone-${String(number)}.html">once</a>` : '';
  const words = (from: number) =>
    Array.from(
      { length: 45 },
      (_, at) => WORDS[(number * 13 + from + at * (1 + (number % 5))) % WORDS.length] ?? '',
    ).join(' ');
  const paragraphs = Array.from({ length: 9 }, (_, at) => `<p class="tale">${words(at * 7)}.</p>`).join('\n');
  const near = [number + 1, number + FOLDERS.length, number * 2 + 1].map(
    (one) => `<a href="${addressOf(one)}">${titleOf(one)}</a>`,
  );
  return frame(
    host,
    titleOf(number),
    data + robots,
    `<p>Number ${String(number)}.</p>${paragraphs}${tideTables(number)}<img src="/pictures/${String(number % 40)}.jpg" alt=""><p>${number % 10 === 0 ? near.slice(0, 1).join('') : ''}${broken}</p>`,
  );
}

/** Three harbours' tides of a month, as such pages have them: most of a page is what is around its words. */
function tideTables(number: number): string {
  return Array.from({ length: 3 }, (_, harbour) => {
    const rows = Array.from(
      { length: 31 },
      (_, day) =>
        `<tr><th scope="row" class="day">${String(day + 1)}</th><td class="high">${String((day * 49 + harbour) % 12)}:${String((number + day) % 60).padStart(2, '0')}</td><td class="low">${String((day * 49 + harbour + 6) % 12)}:${String((number + day) % 60).padStart(2, '0')}</td><td class="height">${String((day * 7 + harbour) % 5)} m</td></tr>\n`,
    );
    return `<table class="tides"><caption>${WORDS[harbour] ?? ''} harbour</caption><tbody>${rows.join('')}</tbody></table>`;
  }).join('');
}

function sendTrap(host: string, { pathname, searchParams }: URL, response: ServerResponse): boolean {
  const html = (title: string, body: string): true => {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(frame(host, title, '', body));
    return true;
  };
  const month = /^\/calendar\/(\d+)\/(\d+)$/u.exec(pathname);
  if (month) {
    const at = Number(month[1]) * 12 + Number(month[2]);
    const name = `month ${String(at % 12)} of ${String(Math.floor(at / 12))}`;
    return html(
      `Tides of ${name}`,
      `<p>Tides of ${name}</p><a href="/calendar/${String(Math.floor((at + 1) / 12))}/${String((at + 1) % 12)}">next</a>`,
    );
  }
  if (pathname === '/everything') {
    response.writeHead(200, { 'content-type': 'text/html' });
    Readable.from(manyLinks()).pipe(response);
    return true;
  }
  const maze = /^\/maze\/(\d+)$/u.exec(pathname);
  if (maze) {
    response.writeHead(302, { location: `/maze/${String(Number(maze[1]) + 1)}` }).end();
    return true;
  }
  if (pathname === '/huge') {
    response.writeHead(200, { 'content-type': 'text/html', 'content-length': String(HUGE_BYTES) });
    Readable.from(hugePage()).pipe(response);
    return true;
  }
  if (pathname === '/shelf') {
    const more = Array.from(
      { length: 40 },
      (_, at) =>
        `<a href="/shelf?colour=${String(at)}&size=${String((at * 7 + Number(searchParams.get('size') ?? 0)) % 1000)}">more</a>`,
    );
    return html('Shelf', `<p>${[...searchParams.values()].join(' and ')}</p>${more.join('')}`);
  }
  if (pathname.startsWith('/round/'))
    return html(
      `Round ${String(pathname.length)}`,
      `<p>${String(pathname.length)}</p><a href="about/">on</a>`,
    );
  if (pathname === '/session') {
    const visit = Number(searchParams.get('visit') ?? 0);
    const links = Array.from(
      { length: 5 },
      (_, at) => `<a href="/session?visit=${String((visit * 5 + at) % 99_991)}">again</a>`,
    );
    return html('Session', `<p>The same for whoever comes.</p>${links.join('')}`);
  }
  return false;
}

function* manyLinks(): Generator<string> {
  yield '<!doctype html><title>Everything</title><body>';
  for (let at = 0; at < LINKS_OF_MANY; at += 1_000)
    yield Array.from(
      { length: 1_000 },
      (_, one) => `<a href="/everything/${String(at + one)}">${String(at + one)}</a>`,
    ).join('');
}

function* hugePage(): Generator<string> {
  yield '<!doctype html><title>Huge</title><body><p>';
  const piece = 'water '.repeat(10_000);
  for (let at = 0; at < HUGE_BYTES; at += piece.length) yield piece;
}
