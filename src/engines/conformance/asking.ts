import type Joi from 'joi';
import type { Net } from '../../net/net.js';

export interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly data: unknown;
}

/** Something that an engine does not do as the link says; its message is for the one who writes the engine. */
export class Departure extends Error {}

/** Asks an engine by plain requests, so that nothing of the product's own client stands between. */
export class Asking {
  /** @param base where the link's `v1` stands */
  constructor(
    private readonly net: Net,
    private readonly base: string,
    private readonly key: string,
  ) {}

  async send(
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    more: { body?: unknown; idempotencyKey?: string; key?: string | null } = {},
  ): Promise<Answer> {
    const key = more.key === undefined ? this.key : more.key;
    const answer = await this.net.json({
      method,
      url: new URL(`v1${path}`, this.base).href,
      headers: {
        ...(key === null ? {} : { authorization: `Bearer ${key}` }),
        ...(more.idempotencyKey === undefined ? {} : { 'idempotency-key': more.idempotencyKey }),
      },
      ...(more.body === undefined ? {} : { body: more.body }),
    });
    if (answer.kind === 'failed')
      throw new Departure(`${method} v1${path} was not answered: ${answer.failure}, ${answer.detail}`);
    return answer;
  }
}

/** Holds an answer against a status and a shape, and gives what it carries. */
export function expectAnswer<Data>(answer: Answer, status: number, shape: Joi.ObjectSchema<Data>): Data {
  expectStatus(answer, status);
  const { value, error } = shape.required().validate(answer.data);
  if (error) throw new Departure(`the answer has another shape than the document says: ${error.message}`);
  return value;
}

export function expectStatus(answer: Answer, ...statuses: number[]): void {
  if (!statuses.includes(answer.status))
    throw new Departure(`expected status ${statuses.join(' or ')}, got ${String(answer.status)}`);
}

/** A refusal must be a problem document (RFC 9457) with a code. */
export function expectProblem(answer: Answer, statuses: readonly number[], code?: string): void {
  expectStatus(answer, ...statuses);
  const type = answer.headers['content-type'] ?? 'none';
  if (!type.startsWith('application/problem+json'))
    throw new Departure(`expected a refusal of the type application/problem+json, got ${type}`);
  const found = (answer.data as { code?: unknown } | null)?.code;
  if (typeof found !== 'string') throw new Departure('expected a problem document with a “code”');
  if (code !== undefined && found !== code) throw new Departure(`expected the code ${code}, got ${found}`);
}
