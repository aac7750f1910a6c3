import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import helmet from '@fastify/helmet';
import serveFiles from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { Problem } from '../../api/problems.js';
import { answerProblem } from './problems.js';

/** The built console, whether this runs from `src` or from `dist`. */
const CONSOLE = fileURLToPath(new URL('../../../dist/console/', import.meta.url));

/** Parts of the console whose names say what is in them; its page names those of today, and is asked for anew each time. */
const NAMED_BY_CONTENT = join(CONSOLE, 'assets/');
const FOR_EVER = 'public, max-age=31536000, immutable';

/** Security headers for everything: only our own scripts, styles and data; no framing. */
export async function headers(app: FastifyInstance): Promise<void> {
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'"],
        // The primitives place popovers by style attributes; no style element and no script may be inline.
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // Sent by the proxy that ends TLS, if there is one; on plain loopback it would be wrong.
    strictTransportSecurity: false,
    // For browsers and plug-ins that nobody has any more: they would go with each of the many answers of a page.
    xDnsPrefetchControl: false,
    xDownloadOptions: false,
    xPermittedCrossDomainPolicies: false,
    xXssProtection: false,
  });
  // What is answered to one person is kept by nobody on the way.
  app.addHook('onRequest', (request, reply, done) => {
    if (request.url.startsWith('/api/')) void reply.header('cache-control', 'no-store');
    done();
  });
}

/** The console's files, and its one page for every address that is no file and no API. */
export async function pages(app: FastifyInstance): Promise<void> {
  const built = existsSync(CONSOLE);
  if (built)
    await app.register(serveFiles, {
      root: CONSOLE,
      wildcard: false,
      cacheControl: false,
      preCompressed: true,
      setHeaders(reply, path) {
        reply.setHeader('cache-control', path.startsWith(NAMED_BY_CONTENT) ? FOR_EVER : 'no-cache');
      },
    });
  app.setNotFoundHandler((request, reply) => {
    const wantsPage =
      request.method === 'GET' &&
      !request.url.startsWith('/api/') &&
      (request.headers.accept ?? '').includes('text/html');
    if (built && wantsPage)
      return reply
        .header('cache-control', 'no-cache')
        .sendFile('index.html', { maxAge: 0, cacheControl: false });
    return answerProblem(
      reply,
      new Problem('no-such-route', { route: `${request.method} ${request.url.split('?')[0] ?? ''}` }),
    );
  });
}
