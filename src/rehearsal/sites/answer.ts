import { existsSync, readFileSync, statSync } from 'node:fs';
import { join, normalize, sep } from 'node:path';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';
import type { AnswerState, SiteState, VariantState, WorldState } from '../state.js';
import { sendManyPages } from './many-pages.js';
import { framePage, homePage, notFound, refreshPage, scriptPage, sitemapText } from './pages.js';

/** The website that answers for a host. */
export function siteOf(state: WorldState, host: string): SiteState | undefined {
  return state.sites.find((site) => site.host === host || site.aliases.includes(host));
}

function send(response: ServerResponse, status: number, type: string, body: string): void {
  response.writeHead(status, { 'content-type': type, 'content-length': Buffer.byteLength(body) }).end(body);
}

/** An answer that was arranged, whatever it is: odd bytes, odd headers, slowness, a cut connection. */
function sendArranged(answer: AnswerState, request: IncomingMessage, response: ServerResponse): void {
  if (answer.cut === true) return void request.socket.destroy();
  const plain = Buffer.from(answer.body ?? '', answer.base64 === true ? 'base64' : 'utf8');
  const body = answer.gzip === true ? gzipSync(plain) : plain;
  const headers = {
    'content-type': 'text/html; charset=utf-8',
    ...(answer.gzip === true ? { 'content-encoding': 'gzip' } : {}),
    ...answer.headers,
  };
  const reply = () => void response.writeHead(answer.status, headers).end(body);
  if (answer.delayMs === undefined) return reply();
  const timer = setTimeout(reply, answer.delayMs);
  response.on('close', () => {
    clearTimeout(timer);
  });
}

/** A cache before the website hands out its copy, unless it is asked past it. */
function sendCopy(site: SiteState, request: IncomingMessage, response: ServerResponse, now: Date): boolean {
  const { copy } = site;
  const isPast = request.headers['cache-control'] === 'no-cache' || (request.url ?? '').includes('?');
  const path = (request.url ?? '/').split('?')[0];
  if (!copy || isPast || path !== (copy.path ?? '/')) return false;
  const age = Math.round((now.getTime() - Date.parse(copy.at)) / 1000);
  if (age >= copy.seconds) return false;
  const headers = {
    age: String(age),
    'cache-control': `public, max-age=${String(copy.seconds)}`,
    via: '1.1 harbour-cache',
  };
  response
    .writeHead(copy.status ?? 200, { 'content-type': 'text/html; charset=utf-8', ...headers })
    .end(copy.html);
  return true;
}

/** What one origin does in place of the usual. @returns false where it shows the website itself */
function sendVariant(
  site: SiteState,
  variant: VariantState,
  request: IncomingMessage,
  response: ServerResponse,
): boolean {
  const html = (page: string) => {
    send(response, 200, 'text/html; charset=utf-8', page);
    return true;
  };
  const path = request.url ?? '/';
  switch (variant.how) {
    case 'redirect':
      response.writeHead(variant.status ?? 301, { location: new URL(path, variant.to).href }).end();
      return true;
    case 'refresh':
      return html(refreshPage(variant.to));
    case 'script':
      return html(scriptPage(variant.to));
    case 'frame':
      return html(framePage(site, variant.to));
    case 'status':
      send(response, variant.status, 'text/plain', 'no\n');
      return true;
    case 'down':
      request.socket.destroy();
      return true;
    case 'page':
      if (path !== '/') return false;
      return html(
        homePage({
          ...site,
          words: variant.words ?? site.words,
          head: [...site.head, ...(variant.head ?? [])],
        }),
      );
  }
}

/** Answers for every website of the rehearsal, by the Host that is asked for. */
export function answerSite(
  state: WorldState,
  now: Date,
  secure: boolean,
  request: IncomingMessage,
  response: ServerResponse,
): void {
  const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
  const site = siteOf(state, host);
  const path = (request.url ?? '/').split('?')[0] ?? '/';
  if (!site || site.serves === 'down') return void request.socket.destroy();
  if (site.serves === 'errors') return send(response, 500, 'text/plain', 'the cupboard is bare\n');
  if (site.wall && !/Mozilla/.test(request.headers['user-agent'] ?? ''))
    return send(response, 403, 'text/html', '<!doctype html><title>Are you a person?</title>');
  const variant = site.variants[`${secure ? 'https' : 'http'}://${host}`];
  for (const [name, value] of Object.entries(variant?.headers ?? {})) response.setHeader(name, value);
  if (variant && sendVariant(site, variant, request, response)) return;
  if (!variant && !site.plain && (!secure || host !== site.host)) {
    response.writeHead(301, { location: `https://${site.host}${request.url ?? '/'}` }).end();
    return;
  }
  const arranged =
    site.answers[path] ??
    (site.files[path] || site.sitemaps[path] !== undefined ? undefined : site.answers['*']);
  if (arranged) return sendArranged(arranged, request, response);
  if (sendCopy(site, request, response, now)) return;
  if (site.webRoot !== undefined && sendFile(site.webRoot, path, response)) return;
  if (site.pages && !site.files[path] && sendManyPages(site.pages, site, now, request, response)) return;
  sendUsual(site, path, now, response);
}

/** What stands in the web root of a website. @returns false where nothing does */
function sendFile(root: string, path: string, response: ServerResponse): boolean {
  const file = join(root, normalize(path));
  if (!file.startsWith(root + sep) || !existsSync(file) || !statSync(file).isFile()) return false;
  const type = file.endsWith('.xml') ? 'application/xml' : 'text/plain; charset=utf-8';
  response.writeHead(200, { 'content-type': file.endsWith('.html') ? 'text/html; charset=utf-8' : type });
  response.end(readFileSync(file));
  return true;
}

function sendUsual(site: SiteState, path: string, now: Date, response: ServerResponse): void {
  const file = site.files[path];
  if (file) return send(response, 200, file.type, file.content);
  const listed = site.sitemaps[path];
  if (listed !== undefined)
    return send(response, 200, 'application/xml', sitemapText(site, path, listed, now));
  if (path === '/' || (!site.pages && /\/page-\d+$/.test(path)))
    return send(response, 200, 'text/html; charset=utf-8', homePage(site));
  if (path === '/robots.txt') {
    const text = `User-agent: *\nAllow: /\nSitemap: https://${site.host}/sitemap.xml\n`;
    return send(response, 200, 'text/plain', text);
  }
  send(response, 404, 'text/html; charset=utf-8', notFound(site));
}
