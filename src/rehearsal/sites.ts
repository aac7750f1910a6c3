import {
  createServer as createPlain,
  type IncomingMessage,
  type Server,
  type ServerResponse,
} from 'node:http';
import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import { createSecureContext, type SecureContext } from 'node:tls';
import type { Authority } from './authority.js';
import type { SiteState, WorldState } from './state.js';

function siteOf(state: WorldState, host: string): SiteState | undefined {
  return state.sites.find((site) => site.host === host || site.aliases.includes(host));
}

function homePage(site: SiteState): string {
  return `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <title>${site.title}</title>
${site.head.map((tag) => `    ${tag}\n`).join('')}  </head>
  <body>
    <h1>${site.title}</h1>
    <p>${site.words}</p>
${site.body.map((tag) => `    ${tag}\n`).join('')}  </body>
</html>
`;
}

function notFound(site: SiteState): string {
  return `<!doctype html>\n<html><head><title>Not found – ${site.title}</title></head><body><h1>Nothing at this mooring</h1></body></html>\n`;
}

function sitemap(site: SiteState, path: string, count: number): string {
  const origin = `https://${site.host}`;
  const others = Object.keys(site.sitemaps).filter((one) => one !== path);
  const open = (root: string) =>
    `<?xml version="1.0" encoding="UTF-8"?>\n<${root} xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n`;
  if (path === '/sitemap.xml' && others.length > 0) {
    return `${open('sitemapindex')}${others.map((one) => `  <sitemap><loc>${origin}${one}</loc></sitemap>\n`).join('')}</sitemapindex>\n`;
  }
  const folder = path.slice(0, path.lastIndexOf('/') + 1);
  const lines = Array.from({ length: count }, (_, at) => {
    const day = String(1 + (at % 28)).padStart(2, '0');
    return `  <url><loc>${origin}${folder}page-${String(at + 1)}</loc><lastmod>2026-10-${day}</lastmod></url>\n`;
  });
  return `${open('urlset')}${lines.join('')}</urlset>\n`;
}

function send(response: ServerResponse, status: number, type: string, body: string): void {
  response.writeHead(status, { 'content-type': type, 'content-length': Buffer.byteLength(body) }).end(body);
}

/** Answers for every website of the rehearsal, by the Host that is asked for. */
export function answerSite(
  state: WorldState,
  secure: boolean,
  request: IncomingMessage,
  response: ServerResponse,
): void {
  const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
  const site = siteOf(state, host);
  const path = (request.url ?? '/').split('?')[0] ?? '/';
  if (!site || site.serves === 'down') return void request.socket.destroy();
  if (site.serves === 'errors') return send(response, 500, 'text/plain', 'the cupboard is bare\n');
  if (!secure || host !== site.host) {
    response.writeHead(301, { location: `https://${site.host}${request.url ?? '/'}` }).end();
    return;
  }
  const file = site.files[path];
  if (file) return send(response, 200, file.type, file.content);
  const listed = site.sitemaps[path];
  if (listed !== undefined) return send(response, 200, 'application/xml', sitemap(site, path, listed));
  if (path === '/' || /\/page-\d+$/.test(path))
    return send(response, 200, 'text/html; charset=utf-8', homePage(site));
  if (path === '/robots.txt') {
    return send(
      response,
      200,
      'text/plain',
      `User-agent: *\nAllow: /\nSitemap: https://${site.host}/sitemap.xml\n`,
    );
  }
  send(response, 404, 'text/html; charset=utf-8', notFound(site));
}

export interface SiteServers {
  readonly http: number;
  readonly https: number;
  close(): Promise<void>;
}

async function listen(server: Server, port: number): Promise<number> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return (server.address() as AddressInfo).port;
}

/** Serves all websites over HTTP and HTTPS on two ports; certificates are made when a name is first asked for. */
export async function startSites(
  state: WorldState,
  authority: Authority,
  ports: { http: number; https: number },
): Promise<SiteServers> {
  const contexts = new Map<string, Promise<SecureContext>>();
  const contextFor = (name: string): Promise<SecureContext> => {
    const site = siteOf(state, name);
    const hosts = site ? [site.host, ...site.aliases] : ['nobody.example'];
    const key = hosts.join();
    const known = contexts.get(key) ?? authority.issue(hosts).then(createSecureContext);
    contexts.set(key, known);
    return known;
  };
  const plain = createPlain((request, response) => {
    answerSite(state, false, request, response);
  });
  const secure = createSecure(
    {
      SNICallback: (name, done) => {
        contextFor(name).then(
          (context) => {
            done(null, context);
          },
          (error: Error) => {
            done(error);
          },
        );
      },
    },
    (request, response) => {
      answerSite(state, true, request, response);
    },
  );
  const [http, https] = await Promise.all([listen(plain, ports.http), listen(secure, ports.https)]);
  return {
    http,
    https,
    close: async () => {
      for (const server of [plain, secure]) {
        server.closeAllConnections();
        await new Promise((resolve) => server.close(resolve));
      }
    },
  };
}
