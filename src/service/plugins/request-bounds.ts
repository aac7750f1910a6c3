import type { FastifyRequest } from 'fastify';
import type Joi from 'joi';
import type { RouteName } from '../../api/routes.js';
import { Problem } from '../../api/problems.js';
import { schemas } from '../../api/requests.js';
import { faultInWords } from '../../core/input/input-faults.js';

/** How much may be sent to a route: bytes of the body, and values in it, of which an array of ten has eleven. */
export interface Room {
  readonly bytes: number;
  readonly values: number;
}

const USUAL: Room = { bytes: 64 * 1024, values: 500 };
/** For lists of thousands of references. */
const LONG: Room = { bytes: 2 * 1024 * 1024, values: 25_000 };
/** For lists of fifty thousand addresses. */
const LISTS: Room = { bytes: 16 * 1024 * 1024, values: 65_000 };

const ROOMS: Readonly<Partial<Record<RouteName, Room>>> = {
  // The one body that is read before it is known who sends it.
  signIn: { bytes: 4 * 1024, values: 20 },
  addEngine: { bytes: 512 * 1024, values: 20 },
  pasteToken: { bytes: 128 * 1024, values: 20 },
  makeSitemap: LISTS,
  editRecipe: LISTS,
  lookAtVariants: LONG,
  enrol: LONG,
  getTokens: LONG,
  check: LONG,
  claim: LONG,
  lookUp: LONG,
  askVisit: LONG,
  submitSitemap: LONG,
  withdrawSitemaps: LONG,
};

export function roomFor(name: RouteName): Room {
  return ROOMS[name] ?? USUAL;
}

/** Nothing that is asked for lies deeper than a few levels. */
const DEEPEST = 12;
/** Up to so many values all faults are told at once; of more only the first. */
const ALL_FAULTS = 200;

type Place = 'path' | 'query' | 'body';

/**
 * What a request brings, after its schema has passed it.
 * @throws Problem `bad-input` that names each fault by its place
 */
export function takenIn(name: RouteName, request: FastifyRequest): Record<string, unknown> {
  const { params, query, body } = schemas[name];
  const faults: { at: string; says: string }[] = [];
  const read = (place: Place, schema: Joi.ObjectSchema | undefined, data: unknown): unknown => {
    if (!schema) return {};
    const values = requirePlain(place, data, roomFor(name).values);
    const { value, error } = schema.validate(data ?? {}, {
      abortEarly: values > ALL_FAULTS,
      errors: { wrap: { label: false } },
    });
    for (const detail of error?.details ?? [])
      faults.push({ at: [place, ...detail.path].join('.'), says: faultInWords(detail) });
    return value as unknown;
  };
  const input = {
    params: read('path', params, request.params),
    query: read('query', query, request.query),
    body: read('body', body, request.body),
  };
  if (faults.length > 0)
    throw new Problem('bad-input', { says: faults.map((one) => one.says).join(' ') }, { faults });
  return input;
}

/** Refuses what is too much or too deep to be looked at, and text that no record can hold. @returns how many values there are */
function requirePlain(place: Place, data: unknown, most: number): number {
  const held: { value: unknown; depth: number }[] = [{ value: data, depth: 0 }];
  let values = 0;
  for (let next = held.pop(); next; next = held.pop()) {
    const { value, depth } = next;
    values += 1;
    if (values > most) throw new Problem('too-many-values', { place, most });
    if (depth > DEEPEST) throw new Problem('too-deep', { place });
    if (typeof value === 'string' && value.includes('\0')) throw new Problem('holds-nul', { place });
    if (typeof value !== 'object' || value === null) continue;
    const inner = Array.isArray(value) ? (value as unknown[]) : Object.values(value);
    if (inner.length > most) throw new Problem('too-many-values', { place, most });
    for (const one of inner) held.push({ value: one, depth: depth + 1 });
  }
  return values;
}

/**
 * The versions that an edit may have been made against, by If-Match (RFC 9110 §13.1.1); null where the caller did not say, or
 * takes any. A weak tag never matches, nor does what is no tag at all.
 */
export function ifMatch(request: FastifyRequest): readonly number[] | null {
  const header = request.headers['if-match'];
  if (header === undefined || header.trim() === '*') return null;
  return header
    .split(',')
    .map((tag) => /^\s*"(\d{1,15})"\s*$/.exec(tag)?.[1])
    .filter((version) => version !== undefined)
    .map(Number);
}
