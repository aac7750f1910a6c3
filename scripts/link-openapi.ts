import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { format } from 'prettier';
import { jsonSchema, type Json } from '../src/api/json-schema.js';
import { LINK, type LinkRoute } from '../src/engines/link/routes.js';

const FILE = fileURLToPath(new URL('../docs/engine-link.openapi.json', import.meta.url));

const PROBLEM: Json = {
  type: 'object',
  description: 'RFC 9457. 429 and 503 may carry Retry-After (RFC 9110 §10.2.3).',
  required: ['type', 'title', 'status', 'code'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    code: { type: 'string', description: 'no-such-enrolment and no-such-claim are told apart by it' },
    detail: { type: 'string', description: 'the engine’s own words' },
  },
};

function operation(name: string, given: LinkRoute<unknown>): Json {
  const content = (schema: Json) => ({ 'application/json': { schema } });
  const named = [...given.path.matchAll(/\{(\w+)\}/g)].map((match) => match[1] ?? '');
  const parameter = (place: string, one: string, required: boolean): Json => ({
    name: one,
    in: place,
    required,
    schema: one === 'method' ? { enum: ['meta', 'file', 'dns'] } : { type: 'string' },
  });
  return {
    operationId: name,
    summary: given.summary,
    parameters: [
      ...named.map((one) => parameter('path', one, true)),
      ...(given.pages ? [parameter('query', 'after', false)] : []),
      ...(given.keyed ? [parameter('header', 'Idempotency-Key', true)] : []),
    ],
    ...(given.body ? { requestBody: { required: true, content: content(jsonSchema(given.body, {})) } } : {}),
    responses: {
      [String(given.status)]: {
        description: given.summary,
        ...(given.answer ? { content: content(jsonSchema(given.answer, {})) } : {}),
      },
      default: {
        description: 'A problem',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** The OpenAPI 3.1 document of the engine link, made from the table that the product's own client speaks by. */
export function linkOpenApi(): Json {
  const paths: Record<string, Json> = {};
  for (const [name, given] of Object.entries(LINK)) {
    const path = `/v1${given.path}`;
    paths[path] = {
      ...paths[path],
      [given.method.toLowerCase()]: operation(name, given as LinkRoute<unknown>),
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'The engine link',
      version: '1',
      description:
        'What an engine, or an adaptor for one, serves to Yard Badge. docs/engine-link.md says the rest.',
    },
    security: [{ key: [] }],
    paths,
    components: {
      schemas: { Problem: PROBLEM },
      securitySchemes: { key: { type: 'http', scheme: 'bearer' } },
    },
  };
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  writeFileSync(FILE, await format(JSON.stringify(linkOpenApi()), { parser: 'json', printWidth: 110 }));
