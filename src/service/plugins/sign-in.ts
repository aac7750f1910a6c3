import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { Role } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { Desk } from '../../desk/parts.js';
import { whoIs, type SignedIn } from '../../desk/persons.js';

export const COOKIE = 'yardbadge';
const RANK: Readonly<Record<Role, number>> = { onlooker: 0, consultant: 1, lead: 2 };

declare module 'fastify' {
  interface FastifyRequest {
    signedIn: SignedIn | null;
  }
}

export async function signInPlugin(app: FastifyInstance): Promise<void> {
  await app.register(cookie);
  app.decorateRequest('signedIn', null);
}

/** Refuses a request whose caller is not signed in, or has not the role; a cookie counts only from our own pages. */
export function requireRole(desk: Desk, role: Role): (request: FastifyRequest) => Promise<void> {
  return async (request) => {
    const bearer = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const session = request.cookies[COOKIE];
    const found =
      bearer !== undefined
        ? await whoIs(desk, bearer, 'key')
        : session !== undefined
          ? await whoIs(desk, session, 'session')
          : null;
    if (!found) throw new Problem('not-signed-in', 'Sign in, or send a bearer key.');
    if (found.via === 'session') requireOwnPage(request);
    if (RANK[found.person.role] < RANK[role]) {
      throw new Problem(
        'not-allowed',
        `This needs the role ${role}; ${found.person.name} is ${found.person.role}.`,
      );
    }
    request.signedIn = found;
  };
}

/** SameSite=Strict already keeps the cookie at home; the Fetch Metadata header is the second lock. */
function requireOwnPage(request: FastifyRequest): void {
  const site = request.headers['sec-fetch-site'];
  if (request.method === 'GET' || site === undefined || site === 'same-origin') return;
  throw new Problem('cross-site', 'Changes are taken only from the console’s own pages.');
}

export function setSession(reply: FastifyReply, secret: string, expires: Date): void {
  void reply.setCookie(COOKIE, secret, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    expires,
    secure: false,
  });
}

export function clearSession(reply: FastifyReply): void {
  void reply.clearCookie(COOKIE, { path: '/' });
}

/** Who is asking; only for routes that need a sign-in. */
export function personOf(request: FastifyRequest): SignedIn {
  if (!request.signedIn) throw new Problem('not-signed-in', 'Sign in first.');
  return request.signedIn;
}
