import { textOf } from '../../core/html/body-text.js';
import { requireGoing, withPatience } from '../../cancellation/cancellation.js';
import type { NetSettings } from '../settings.js';
import type { Dialler } from './dial.js';
import { classify, type Failed } from './failure.js';
import { readBody } from './body.js';

export interface JsonRequest {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly url: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body?: unknown;
}

export type JsonAnswer =
  | {
      readonly kind: 'answer';
      readonly status: number;
      readonly headers: Readonly<Record<string, string>>;
      readonly data: unknown;
    }
  | ({ readonly kind: 'failed' } & Failed);

/** One JSON request and its answer, through the same guard and bounds as every other. Redirects are not followed. */
export async function exchange(
  dialler: Dialler,
  settings: NetSettings,
  request: JsonRequest,
): Promise<JsonAnswer> {
  requireGoing();
  const url = new URL(request.url);
  const dialled = await dialler.dial(url);
  if (dialled.kind === 'failed') return { kind: 'failed', failure: dialled.failure, detail: dialled.detail };
  const { dispatcher } = dialled;
  try {
    return await withPatience(settings.bounds.hopMs, async (signal) => {
      const response = await dispatcher.request({
        origin: url.origin,
        path: url.pathname + url.search,
        method: request.method,
        headers: {
          'user-agent': settings.agent,
          accept: 'application/json, application/problem+json',
          ...(request.body === undefined ? {} : { 'content-type': 'application/json' }),
          ...request.headers,
        },
        ...(request.body === undefined ? {} : { body: JSON.stringify(request.body) }),
        signal,
      });
      const headers = Object.fromEntries(
        Object.entries(response.headers).map(([name, value]) => [name, String(value)]),
      );
      const body = await readBody(response.body, headers, settings.bounds.bodyBytes);
      return { kind: 'answer', status: response.statusCode, headers, data: parsed(textOf(body)) };
    });
  } catch (error) {
    return { kind: 'failed', ...classify(error) };
  }
}

/** No document of a protocol is nested deeper: whoever walks through one may do so by recursion. */
const DEEPEST = 64;

/** A document (RFC 8259); nothing where it is none, or deeper than any is (§9: a reader may bound the depth). */
function parsed(text: string): unknown {
  try {
    return isDeep(text) ? undefined : JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Whether lists and objects lie in one another deeper than they may, by what opens and closes them outside of strings. */
function isDeep(text: string): boolean {
  let depth = 0;
  let inString = false;
  for (let at = 0; at < text.length && depth <= DEEPEST; at += 1) {
    const sign = text.charCodeAt(at);
    if (sign === QUOTE) inString = !inString;
    else if (inString) at += sign === ESCAPE ? 1 : 0;
    else if (OPENING.has(sign)) depth += 1;
    else if (CLOSING.has(sign)) depth -= 1;
  }
  return depth > DEEPEST;
}

const QUOTE = '"'.charCodeAt(0);
const ESCAPE = '\\'.charCodeAt(0);
const OPENING = new Set(['{', '['].map((sign) => sign.charCodeAt(0)));
const CLOSING = new Set(['}', ']'].map((sign) => sign.charCodeAt(0)));
