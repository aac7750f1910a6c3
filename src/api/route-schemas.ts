import type Joi from 'joi';

/** The schemas of one route, for what comes in by its three ways and for what goes out. */
export interface RouteSchemas {
  readonly params?: Joi.ObjectSchema;
  readonly query?: Joi.ObjectSchema;
  readonly body?: Joi.ObjectSchema;
  /** Absent where nothing is answered. */
  readonly answer?: Joi.ObjectSchema;
}

type Types<One> = One extends { readonly types?: infer T } ? NonNullable<T> : never;
type In<One> = Types<One> extends { in: infer I } ? I : never;

/** What a route answers. */
export type OutOf<One> = Types<One> extends { out: infer Out } ? Out : never;

/** What a route takes as its body, its query or the places of its path: what a schema of it has the keys of. */
export type BodyOf<One> = In<One> extends { body?: infer Body } ? NonNullable<Body> : never;
export type QueryOf<One> = In<One> extends { query?: infer Query } ? NonNullable<Query> : never;
export type ParamsOf<One> = In<One> extends { params?: infer Params } ? NonNullable<Params> : never;
