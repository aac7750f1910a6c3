import type Joi from 'joi';
import { jsonSchema, type Json } from './json-schema.js';
import { BASE, routes, type RouteName } from './routes.js';
import { PROBLEMS } from './problems.js';
import { schemas } from './schemas/requests.js';

function parameters(name: RouteName, shared: Json): Json[] {
  const { params, query } = schemas[name];
  const of = (schema: Joi.ObjectSchema | undefined, place: string): Json[] => {
    if (!schema) return [];
    const { properties = {}, required = [] } = jsonSchema(schema, shared) as {
      properties?: Json;
      required?: string[];
    };
    return Object.entries(properties).map(([key, inner]) => ({
      name: key,
      in: place,
      required: place === 'path' || required.includes(key),
      schema: inner,
    }));
  };
  const found = [...of(params, 'path'), ...of(query, 'query')];
  if (routes[name].method === 'POST')
    found.push({
      name: 'Idempotency-Key',
      in: 'header',
      required: false,
      schema: { type: 'string', maxLength: 200 },
    });
  if (routes[name].method === 'PATCH')
    found.push({ name: 'If-Match', in: 'header', required: false, schema: { type: 'string' } });
  return found;
}

function operation(name: RouteName, shared: Json): Json {
  const { role, status, summary } = routes[name];
  const { body, answer } = schemas[name];
  const content = (schema: Json) => ({ 'application/json': { schema } });
  return {
    operationId: name,
    summary,
    ...(role === 'anyone' ? { security: [] } : { description: `Needs the role ${role} or a higher one.` }),
    parameters: parameters(name, shared),
    ...(body ? { requestBody: { required: true, content: content(jsonSchema(body, shared)) } } : {}),
    responses: {
      [String(status)]: {
        description: summary,
        ...(answer ? { content: content(jsonSchema(answer, shared)) } : {}),
      },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** The OpenAPI 3.1 document of the whole API, made from the tables that the service itself runs by. */
export function openApi(version: string): Json {
  const shared: Json = {};
  const paths: Record<string, Json> = {};
  for (const name of Object.keys(routes) as RouteName[]) {
    const { path, method } = routes[name];
    const place = `${BASE}${path.replace(/:(\w+)/g, '{$1}')}`;
    paths[place] = { ...paths[place], [method.toLowerCase()]: operation(name, shared) };
  }
  shared['Problem'] = {
    type: 'object',
    required: ['type', 'title', 'status', 'detail', 'code'],
    properties: {
      type: { type: 'string' },
      title: { type: 'string' },
      status: { type: 'integer' },
      detail: { type: 'string' },
      code: { enum: Object.keys(PROBLEMS) },
      faults: {
        type: 'array',
        items: { type: 'object', properties: { at: { type: 'string' }, says: { type: 'string' } } },
      },
    },
  };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Yard Badge',
      version,
      description: 'Registration, ownership, checks and sitemaps of client websites at search engines.',
    },
    security: [{ session: [] }, { key: [] }],
    paths,
    components: {
      schemas: shared,
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'yardbadge' },
        key: { type: 'http', scheme: 'bearer' },
      },
    },
  };
}
