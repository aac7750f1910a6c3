import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { BASE, MADE_FILES } from '../../api/routes.js';
import { Problem } from '../../api/problems.js';
import { handOut, versionFile } from '../../desk/making/hand-out.js';
import type { Callers } from '../../desk/people/callers.js';
import { networkOf } from './network.js';
import { requireRole } from './sign-in.js';

/** Engines and proxies ask often; nobody asks for one file more often than this. */
const MOST_A_MINUTE = 600;
const TYPES: readonly (readonly [RegExp, string])[] = [
  [/\.gz$/u, 'application/gzip'],
  [/\.atom$/u, 'application/atom+xml; charset=utf-8'],
  [/\.rss$/u, 'application/rss+xml; charset=utf-8'],
  [/\.txt$/u, 'text/plain; charset=utf-8'],
];

/** The files of made sitemaps as they are: to people who are signed in, and to whoever knows the word of one that is handed out. */
export async function made(app: FastifyInstance, callers: Callers): Promise<void> {
  app.get<{ Params: { version: string; name: string } }>(
    BASE + MADE_FILES,
    { onRequest: requireRole(callers, 'onlooker') },
    async ({ params }, reply) => {
      const { bytes } = await versionFile(params.version, params.name);
      return send(reply, params.name, bytes);
    },
  );
  await app.register(async (scope) => {
    await scope.register(rateLimit, {
      max: MOST_A_MINUTE,
      timeWindow: '1 minute',
      keyGenerator: ({ ip }) => networkOf(ip),
    });
    scope.get<{ Params: { handle: string; name: string } }>(
      '/made/:handle/:name',
      async ({ params, headers }, reply) => {
        const file = await handOut(params.handle, params.name);
        if (!file) throw new Problem('no-such-file', { name: params.name, version: 'what is handed out' });
        const tag = `"${file.sum}"`;
        void reply
          .header('etag', tag)
          .header('cache-control', 'public, max-age=300')
          .header('last-modified', new Date(file.at).toUTCString());
        if (headers['if-none-match'] === tag) return reply.status(304).send();
        return send(reply, params.name, file.bytes);
      },
    );
  });
}

function send(reply: FastifyReply, name: string, bytes: Buffer): FastifyReply {
  const type = TYPES.find(([pattern]) => pattern.test(name))?.[1] ?? 'application/xml; charset=utf-8';
  return reply.type(type).send(bytes);
}
