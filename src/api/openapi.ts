import type Joi from 'joi';
import { Components } from './components.js';
import type { Json } from './json-schema.js';
import { BASE, routes, type RouteName } from './routes.js';
import { PROBLEMS } from './problems.js';
import { schemas } from './requests.js';

function parameters(name: RouteName, shared: Components): Json[] {
  const { params, query } = schemas[name];
  const of = (schema: Joi.ObjectSchema | undefined, place: string): Json[] => {
    if (!schema) return [];
    const { properties = {}, required = [] } = shared.of(schema) as {
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

function operation(name: RouteName, shared: Components): Json {
  const { role, status, summary } = routes[name];
  const { body, answer } = schemas[name];
  const content = (schema: Json) => ({ 'application/json': { schema } });
  return {
    operationId: name,
    summary,
    ...(role === 'anyone' ? { security: [] } : { description: `Needs the role ${role} or a higher one.` }),
    parameters: parameters(name, shared),
    ...(body ? { requestBody: { required: true, content: content(shared.of(body)) } } : {}),
    responses: {
      [String(status)]: {
        description: summary,
        ...(answer ? { content: content(shared.of(answer)) } : {}),
      },
      default: {
        description: 'A problem (RFC 9457)',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  };
}

/** RFC 9457, with what ours say besides. */
const PROBLEM: Json = {
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

let made: { version: string; document: Json } | null = null;

/** The OpenAPI 3.1 document of the whole API, made from the tables that the service itself runs by. */
export function openApi(version: string): Json {
  if (made?.version !== version) made = { version, document: makeDocument(version) };
  return made.document;
}

function makeDocument(version: string): Json {
  const shared = new Components(Object.values(schemas));
  const paths: Record<string, Json> = {};
  for (const name of Object.keys(routes) as RouteName[]) {
    const { path, method } = routes[name];
    const place = `${BASE}${path.replace(/:(\w+)/g, '{$1}')}`;
    paths[place] = { ...paths[place], [method.toLowerCase()]: operation(name, shared) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Yard Badge',
      license: { name: 'Unlicensed', identifier: 'UNLICENSED' },
      version,
      description: 'Registration, ownership, checks and sitemaps of client websites at search engines.',
    },
    servers: [{ url: '/' }],
    security: [{ session: [] }, { key: [] }],
    paths,
    components: {
      schemas: { ...shared.schemas, Problem: PROBLEM },
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'yardbadge' },
        key: { type: 'http', scheme: 'bearer' },
      },
    },
  };
}
