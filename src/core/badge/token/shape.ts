import { excerpt } from '../../findings/excerpt.js';
import type { EngineProfile, Method, TokenShape } from '../../profile/profile.js';

const SIGNS: Readonly<Record<TokenShape['signs'], { readonly fits: RegExp; readonly words: string }>> = {
  hex: { fits: /^[0-9a-f]+$/, words: 'the digits 0–9 and letters a–f' },
  alphanumeric: { fits: /^[0-9A-Za-z]+$/, words: 'letters and digits' },
  base64url: { fits: /^[\w-]+$/, words: 'letters, digits, “-” and “_”' },
};

/** Why a text is no token of an engine, as its profile has them; null where it may be one. For what a person pasted. */
export function shapeFault({ title, token: { shape } }: EngineProfile, token: string): string | null {
  if (token.length < 4 || token.length > 500)
    return `“${excerpt(token, 60)}” has ${String(token.length)} characters; a token has between 4 and 500.`;
  if (/…|\.\.\.$/.test(token))
    return `“${excerpt(token, 60)}” was cut short where it was copied: copy the whole of it.`;
  if (!shape) return null;
  const { fits, words } = SIGNS[shape.signs];
  if (!fits.test(token))
    return `“${excerpt(token, 60)}” is not ${title}’s token: those are made of ${words}.`;
  if (token.length === shape.length) return null;
  const less = token.length < shape.length;
  return `“${excerpt(token, 60)}” has ${String(token.length)} characters, ${title}’s tokens have ${String(shape.length)}: ${less ? 'was it cut short' : 'was something more copied'}?`;
}

/**
 * What a token is made of that goes onto somebody's website, whatever its engine says: nothing that ends a line, a tag, a quoted string or
 * a part of a path, and nothing that is read as another address (RFC 3986 §2.3, with the signs of base64, RFC 4648 §4).
 */
const PLAIN = /^[\w.~+/=:-]+$/u;

/**
 * Why a token that an engine issued is not one to be put anywhere; null where it is. An engine decides what its token is, and not what is
 * put on a client's website besides.
 */
export function issuedFault(profile: EngineProfile, method: Method, token: string): string | null {
  const shape = shapeFault(profile, token);
  if (shape !== null) return shape;
  const isInPath = method === 'file' && profile.methods.file?.path.includes('{token}') === true;
  const isPlain = PLAIN.test(token) && /[A-Za-z0-9]/u.test(token) && !token.includes('..');
  if (isPlain && !(isInPath && token.includes('/'))) return null;
  return `“${excerpt(token, 60)}” holds signs that no token has: expected letters, digits and “-._~+=:”${isInPath ? '' : ' and “/”'}.`;
}
