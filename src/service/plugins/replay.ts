import { createHash } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { Problem } from '../../api/problems.js';
import { nowText, type Desk } from '../../desk/parts.js';
import { ReplayRow } from '../../store/models/people.js';

/**
 * Gives a request that carries an Idempotency-Key its first answer again, so that a repeated POST does nothing twice.
 * @returns true when the answer was given
 */
export async function replayed(
  desk: Desk,
  request: FastifyRequest,
  reply: FastifyReply,
  personId: string,
  key: string,
): Promise<boolean> {
  const print = createHash('sha256')
    .update(`${request.method} ${request.url} ${JSON.stringify(request.body ?? null)}`)
    .digest('base64url');
  const [row, isNew] = await desk.store.write((transaction) =>
    ReplayRow.findOrCreate({
      where: { personId, key },
      defaults: { personId, key, request: print, createdAt: nowText(desk) },
      transaction,
    }),
  );
  if (isNew) return false;
  if (row.request !== print)
    throw new Problem('key-reused', 'This Idempotency-Key came with another request before. Take a new one.');
  if (row.status == null)
    throw new Problem(
      'still-running',
      'The first request with this Idempotency-Key is still being worked on.',
    );
  void reply.header('idempotency-replayed', 'true');
  await reply.status(row.status).send(row.body);
  return true;
}

export async function keepAnswer(
  desk: Desk,
  personId: string,
  key: string,
  status: number,
  body: object | null,
): Promise<void> {
  await desk.store.write((transaction) =>
    ReplayRow.update({ status, body }, { where: { personId, key }, transaction }),
  );
}

/** A request that failed may be tried again with the same key. */
export async function forgetAnswer(desk: Desk, personId: string, key: string): Promise<void> {
  await desk.store.write((transaction) => ReplayRow.destroy({ where: { personId, key }, transaction }));
}

/** Keys left open by a process that died stand for requests that may be tried again. */
export async function forgetUnanswered(desk: Desk): Promise<void> {
  await desk.store.write((transaction) => ReplayRow.destroy({ where: { status: null }, transaction }));
}
