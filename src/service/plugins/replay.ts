import { createHmac } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { Op } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { viewJob } from '../../desk/jobs/view.js';
import { nowText, type Desk } from '../../desk/context/desk.js';
import { DAY } from '../../core/time/duration.js';
import { Mark, marked } from '../../store/marks.js';
import { ReplayRow } from '../../store/models/people.js';

/** How long a repeated request is known. */
const KEPT_MS = DAY;

export interface Answer {
  readonly status: number;
  readonly body: object | null;
}

/**
 * Gives a request that carries an Idempotency-Key its first answer again, so that a repeated POST does nothing twice. The
 * key is written down in one transaction with the first thing that the request writes, and with the job that it begins.
 */
export class Replays {
  /** Requests that are under way in this process, which is the only one. */
  private readonly underWay = new Set<string>();

  /** @param secret keeps what is stored from telling what was sent */
  constructor(
    private readonly desk: Desk,
    private readonly secret: Buffer,
  ) {}

  /**
   * Answers a request, or gives the answer that it had before.
   * @param isJob whether a job is the answer: it can be given again even where the answer itself was lost
   * @param work does what the request asks for
   */
  async answer(
    request: FastifyRequest,
    reply: FastifyReply,
    who: { readonly personId: string; readonly key: string },
    isJob: boolean,
    work: () => Promise<Answer>,
  ): Promise<Answer> {
    const { personId, key } = who;
    const name = `${personId} ${key}`;
    if (this.underWay.has(name)) throw new Problem('still-running');
    this.underWay.add(name);
    try {
      const print = this.printOf(request);
      const known = await this.known(personId, key);
      if (known) {
        if (known.request !== print) throw new Problem('key-reused');
        const before = await answered(known, isJob);
        void reply.header('idempotency-replayed', 'true');
        return before;
      }
      return await this.first({ personId, key, request: print }, work);
    } finally {
      this.underWay.delete(name);
    }
  }

  /** Throws away what is too old to be repeated. */
  async tidy(): Promise<void> {
    await this.desk.store.write((transaction) =>
      ReplayRow.destroy({ where: { createdAt: { [Op.lt]: this.oldest() } }, transaction }),
    );
  }

  private async first(
    row: { readonly personId: string; readonly key: string; readonly request: string },
    work: () => Promise<Answer>,
  ): Promise<Answer> {
    const base = { ...row, createdAt: nowText(this.desk) };
    const mark = new Mark(async (transaction, { jobId }) => {
      await ReplayRow.upsert({ ...base, status: null, body: null, jobId }, { transaction });
    });
    try {
      const answer = await marked(mark, work);
      await this.desk.store.write((transaction) =>
        ReplayRow.upsert({ ...base, ...answer, jobId: mark.jobId }, { transaction }),
      );
      return answer;
    } catch (error) {
      // A request that failed may be tried again with the same key.
      const { personId, key } = row;
      if (mark.written)
        await this.desk.store.write((transaction) =>
          ReplayRow.destroy({ where: { personId, key }, transaction }),
        );
      throw error;
    }
  }

  private known(personId: string, key: string): Promise<ReplayRow | null> {
    return ReplayRow.findOne({ where: { personId, key, createdAt: { [Op.gte]: this.oldest() } } });
  }

  private oldest(): string {
    return new Date(this.desk.clock.now().getTime() - KEPT_MS).toISOString();
  }

  private printOf({ method, url, body }: FastifyRequest): string {
    return createHmac('sha256', this.secret)
      .update(`${method} ${url} ${JSON.stringify(body ?? null)}`)
      .digest('base64url');
  }
}

/** What a request was answered; where its process died before it had an answer, the job that it began. */
async function answered(row: ReplayRow, isJob: boolean): Promise<Answer> {
  if (row.status != null) return { status: row.status, body: row.body ?? null };
  if (isJob && row.jobId != null) return { status: 202, body: await viewJob(row.jobId) };
  throw new Problem('answer-lost', {}, row.jobId == null ? {} : { job: row.jobId });
}
