import type Joi from 'joi';

export type Json = Record<string, unknown>;

/** Joi writes JSON Schema 2020-12, the dialect of OpenAPI 3.1; shared documents come out as `$defs` of each schema. */
export function jsonSchema(schema: Joi.Schema, shared: Json): Json {
  const standard = schema['~standard'] as unknown as {
    jsonSchema: { output(options: { target: string }): Json };
  };
  const { $defs, ...own } = standard.jsonSchema.output({ target: 'draft-2020-12' });
  Object.assign(shared, relinked($defs ?? {}));
  delete own['$schema'];
  return relinked(own) as Json;
}

/** Points every reference at the document's shared components in place of the schema's own `$defs`. */
function relinked(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(relinked);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, inner]) =>
      name === '$ref' && typeof inner === 'string'
        ? [name, inner.replace('#/$defs/', '#/components/schemas/')]
        : [name, relinked(inner)],
    ),
  );
}
