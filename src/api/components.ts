import Joi from 'joi';
import { jsonSchema, type Json } from './json-schema.js';
import type { RouteSchemas } from './route-schemas.js';

/** A document's name, and the text of its whole schema, by which it is known wherever it stands. */
type Names = ReadonlyMap<string, string>;

/**
 * The documents of the API, each stated once: wherever one stands in an answer or in another document, a reference takes its
 * place, so that generated clients have its type by its name.
 */
export class Components {
  private readonly names: Names;
  readonly schemas: Json;

  constructor(all: Iterable<RouteSchemas>) {
    const named = new Map<string, Json>();
    for (const { answer, body } of all)
      for (const schema of [answer, body])
        if (schema) for (const one of namedIn(schema)) named.set(one.name, one.schema);
    this.names = new Map([...named].map(([name, schema]) => [textOf(schema), name]));
    this.schemas = Object.fromEntries(
      [...named]
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([name, schema]) => [name, this.linkedInside(schema)]),
    );
  }

  /** The schema of something that goes in or comes out, with references in place of documents. */
  of(schema: Joi.Schema): Json {
    return this.linked(whole(schema)) as Json;
  }

  private linked(value: unknown): unknown {
    if (Array.isArray(value)) return value.map((one) => this.linked(one));
    if (typeof value !== 'object' || value === null) return value;
    const name = this.names.get(textOf(value));
    if (name !== undefined) return { $ref: `#/components/schemas/${name}` };
    const some = withoutNull(value as Json);
    const inner = some && this.names.get(textOf(some));
    if (inner !== undefined && inner !== null)
      return { anyOf: [{ $ref: `#/components/schemas/${inner}` }, { type: 'null' }] };
    return this.linkedInside(value);
  }

  private linkedInside(value: object): Json {
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, this.linked(one)]));
  }
}

/** A schema that allows an object or null, without the null; null for any other. */
function withoutNull(schema: Json): Json | null {
  const { type } = schema;
  const isEither =
    Array.isArray(type) && type.length === 2 && type.includes('object') && type.includes('null');
  return isEither ? { ...schema, type: 'object' } : null;
}

/** A schema with everything that it refers to in its place. */
function whole(schema: Joi.Schema): Json {
  const shared: Json = {};
  const own = jsonSchema(schema, shared);
  const put = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(put);
    if (typeof value !== 'object' || value === null) return value;
    const { $ref } = value as { $ref?: unknown };
    if (typeof $ref === 'string') return put(shared[$ref.replace('#/components/schemas/', '')]);
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, put(one)]));
  };
  return put(own) as Json;
}

function textOf(value: object): string {
  return JSON.stringify(value);
}

/** Every document in a schema that has a name (`.id('Client')`), however deep it stands. */
function namedIn(schema: Joi.Schema): { name: string; schema: Json }[] {
  const found: { name: string; schema: Json }[] = [];
  const look = (one: Joi.Schema): void => {
    const inside = one as unknown as Inside;
    const name = inside._flags?.id;
    if (name !== undefined && /^[A-Z]/.test(name)) found.push({ name, schema: whole(plainly(one)) });
    for (const { schema: key } of inside.$_terms?.keys ?? []) look(key);
    for (const item of inside.$_terms?.items ?? []) look(item);
    for (const match of inside.$_terms?.matches ?? []) if (match.schema) look(match.schema);
  };
  look(schema);
  return found;
}

/** What Joi keeps of a schema; `describe()` tells the same, but not as schemas. */
interface Inside {
  readonly _flags?: { readonly id?: string };
  readonly $_terms?: {
    readonly keys?: readonly { readonly schema: Joi.Schema }[] | null;
    readonly items?: readonly Joi.Schema[] | null;
    readonly matches?: readonly { readonly schema?: Joi.Schema }[] | null;
  };
}

/** A document as such, whether or not it may be missing or null where it stands. */
function plainly(schema: Joi.Schema): Joi.Schema {
  return schema.optional();
}
