import { BASE, routes } from '../api/routes.js';
import type { NewKey, ProblemDocument } from '../api/documents.js';
import { ApiProblem, NotReached } from './client.js';

/**
 * Gets a bearer key with a name and a password, for programs that have no cookies: signs in, makes the key, signs out.
 * @throws ApiProblem, NotReached
 */
export async function keyByPassword(
  url: string,
  name: string,
  password: string,
  label: string,
): Promise<string> {
  const json = { 'content-type': 'application/json' };
  const signedIn = await send(url, routes.signIn.path, {
    method: 'POST',
    headers: json,
    body: JSON.stringify({ name, password }),
  });
  const cookie = signedIn.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
  const made = await send(url, routes.addKey.path, {
    method: 'POST',
    headers: { ...json, cookie },
    body: JSON.stringify({ label }),
  });
  const { key } = (await made.json()) as NewKey;
  await send(url, routes.signOut.path, { method: 'DELETE', headers: { cookie } });
  return key;
}

async function send(url: string, path: string, init: RequestInit): Promise<Response> {
  const response = await fetch(`${url}${BASE}${path}`, init).catch(() => {
    throw new NotReached(url);
  });
  if (response.ok) return response;
  throw new ApiProblem((await response.json()) as ProblemDocument);
}
