import { isIP } from 'node:net';
import type { FastifyInstance } from 'fastify';
import { Problem } from '../../api/problems.js';
import type { Settings } from '../settings/schema.js';

/**
 * Answers only under names that are ours: a page of somebody else's, whose name was made to lead here, gets nothing (DNS
 * rebinding). An IP address cannot be made to lead elsewhere, and is let pass.
 */
export function hosts(
  app: FastifyInstance,
  { listen, publicUrl }: Pick<Settings, 'listen' | 'publicUrl'>,
): void {
  const own = new Set(['localhost', listen.host.toLowerCase()]);
  if (publicUrl !== null) own.add(new URL(publicUrl).hostname);
  app.addHook('onRequest', (request, _reply, done) => {
    // Two of them are read by each on the way as it likes (RFC 9112 §3.2).
    if ((request.raw.headersDistinct['host'] ?? []).length !== 1) {
      done(new Problem('one-host'));
      return;
    }
    const name = nameIn(request.headers.host ?? '');
    if (isIP(name) !== 0 || own.has(name)) {
      done();
      return;
    }
    done(new Problem('other-host'));
  });
}

/** The host of a Host header, without port and brackets (RFC 9110 §7.2). */
function nameIn(host: string): string {
  const bracketed = /^\[([^\]]*)\]/u.exec(host)?.[1];
  return (bracketed ?? host.replace(/:\d*$/u, '')).toLowerCase().replace(/\.$/u, '');
}
