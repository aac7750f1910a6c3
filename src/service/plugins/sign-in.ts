import cookie from '@fastify/cookie';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { Role } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { Callers } from '../../desk/people/callers.js';
import type { SignedIn } from '../../desk/people/persons.js';

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
export function requireRole(callers: Callers, role: Role): (request: FastifyRequest) => Promise<void> {
  return async (request) => {
    const found = await callerOf(callers, request);
    if (!found) throw new Problem('not-signed-in');
    if (found.via === 'session') await requireOwnPage(request);
    if (RANK[found.person.role] < RANK[role]) {
      throw new Problem('not-allowed', { role, person: found.person.name, own: found.person.role });
    }
    request.signedIn = found;
  };
}

/** Who a request comes from, by its bearer key or its cookie; null where that is nobody. */
export async function callerOf(callers: Callers, request: FastifyRequest): Promise<SignedIn | null> {
  const bearer = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
  if (bearer !== undefined) return callers.of(bearer, 'key');
  const session = request.cookies[COOKIE];
  return session === undefined ? null : callers.of(session, 'session');
}

const READS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses a change that another site has a browser send. SameSite=Strict keeps the cookie at home already; where the browser
 * sends no Fetch Metadata, its Origin header (RFC 6454 §7) is the second lock.
 */
export function requireOwnPage(request: FastifyRequest): Promise<void> {
  const site = request.headers['sec-fetch-site'];
  const { origin } = request.headers;
  const isOwn =
    site === undefined
      ? origin === undefined || isOwnOrigin(request, origin)
      : site === 'same-origin' || site === 'none';
  if (READS.has(request.method) || isOwn) return Promise.resolve();
  return Promise.reject(new Problem('cross-site'));
}

/** Whether a page's origin is the host that it asks: its Host header was held against the list of ours already. */
function isOwnOrigin(request: FastifyRequest, origin: string): boolean {
  return URL.canParse(origin) && new URL(origin).host === request.host;
}

/** @param isSecure whether people come over HTTPS: then the cookie goes no other way */
export function setSession(reply: FastifyReply, secret: string, expires: Date, isSecure: boolean): void {
  void reply.setCookie(COOKIE, secret, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    expires,
    secure: isSecure,
  });
}

export function clearSession(reply: FastifyReply, isSecure: boolean): void {
  void reply.clearCookie(COOKIE, { path: '/', secure: isSecure });
}

/** Who is asking; only for routes that need a sign-in. */
export function personOf(request: FastifyRequest): SignedIn {
  if (!request.signedIn) throw new Problem('not-signed-in');
  return request.signedIn;
}
