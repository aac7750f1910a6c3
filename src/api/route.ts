import type { Role } from './documents.js';

export interface Input {
  params?: Record<string, string>;
  query?: object;
  body?: object;
}

export interface PageQuery {
  after?: string;
  limit?: number;
}

/** What most lists can be narrowed to. */
export interface Narrow {
  client?: string;
  /** An engine's id. */
  engine?: string;
  /** A part of a handle, an address or a name. */
  match?: string;
}

/** One route of the API: what goes in and comes out is carried in the types, checked by the schemas of the same name. */
export interface Route<In extends Input, Out> {
  readonly method: 'GET' | 'POST' | 'PATCH' | 'DELETE';
  /** Below `/api/v1`. */
  readonly path: string;
  /** The least role that may call it; `anyone` needs no sign-in. */
  readonly role: Role | 'anyone';
  readonly status: 200 | 201 | 202 | 204;
  readonly summary: string;
  readonly types?: { in: In; out: Out };
}

export function route<In extends Input, Out>(spec: Omit<Route<In, Out>, 'types'>): Route<In, Out> {
  return spec;
}
