import { createServer as createPlain, type IncomingMessage, type Server } from 'node:http';
import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import { createSecureContext, type SecureContext } from 'node:tls';
import type { Authority } from '../authority.js';
import type { WorldFile } from '../state.js';
import { answerSite, siteOf } from './answer.js';

export interface SiteServers {
  readonly http: number;
  readonly https: number;
  /** Ends connections that are only kept open, as a server does that is given another certificate. */
  closeIdle(): void;
  /** Who wants to know of each request, by its whole address. */
  readonly listeners: Set<(url: string) => void>;
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
  file: Pick<WorldFile, 'state' | 'now'>,
  authority: Authority,
  ports: { http: number; https: number },
): Promise<SiteServers> {
  const contexts = new Map<string, Promise<SecureContext>>();
  const contextFor = (name: string): Promise<SecureContext> => {
    const site = siteOf(file.state, name);
    const hosts = site ? [site.host, ...site.aliases] : ['nobody.example'];
    const kind = site?.variants[`https://${name}`]?.certificate ?? site?.certificate ?? 'good';
    const key = `${kind} ${hosts.join()}`;
    const known = contexts.get(key) ?? authority.issue(hosts, kind).then(createSecureContext);
    contexts.set(key, known);
    return known;
  };
  const listeners = new Set<(url: string) => void>();
  const tell = (scheme: string, { headers, url }: IncomingMessage) => {
    for (const listener of listeners) listener(`${scheme}://${headers.host ?? ''}${url ?? '/'}`);
  };
  const plain = createPlain((request, response) => {
    tell('http', request);
    answerSite(file.state, file.now(), false, request, response);
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
      tell('https', request);
      answerSite(file.state, file.now(), true, request, response);
    },
  );
  const [http, https] = await Promise.all([listen(plain, ports.http), listen(secure, ports.https)]);
  return {
    http,
    https,
    listeners,
    closeIdle: () => {
      secure.closeIdleConnections();
    },
    close: async () => {
      for (const server of [plain, secure]) {
        server.closeAllConnections();
        await new Promise((resolve) => server.close(resolve));
      }
    },
  };
}
