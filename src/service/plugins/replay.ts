import { createHmac } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { Op } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { viewJob } from '../../desk/jobs/view.js';
import { VaultFault, type Vault } from '../../engines/vault.js';
import { nowText, type Desk } from '../../desk/context/desk.js';
import { DAY } from '../../core/time/duration.js';
import { Mark, marked } from '../../store/request-mark.js';
import { ReplayRow } from '../../store/models/people.js';

/** How long a repeated request is known. */
const KEPT_MS = DAY;

interface Keyed {
  readonly personId: string;
  readonly key: string;
}

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

  /** @param vault keeps what is stored from telling what was sent and answered, whatever that is: some answers hold secrets */
  constructor(
    private readonly desk: Desk,
    private readonly vault: Vault,
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
        const before = await this.answered(known, isJob);
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
        ReplayRow.upsert({ ...base, ...this.sealed(row, answer), jobId: mark.jobId }, { transaction }),
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

  private sealed({ personId, key }: Keyed, { status, body }: Answer): Answer {
    return { status, body: body && { sealed: this.vault.seal(JSON.stringify(body), personId, key) } };
  }

  /** What a request was answered; where its process died before it had an answer, the job that it began. */
  private async answered(row: ReplayRow, isJob: boolean): Promise<Answer> {
    const { status = null, body = null, jobId = null } = row;
    const opened = status === null ? undefined : this.opened(row, body);
    if (status !== null && opened !== undefined) return { status, body: opened };
    if (isJob && jobId !== null) return { status: 202, body: await viewJob(jobId) };
    throw new Problem('answer-lost', {}, jobId === null ? {} : { job: jobId });
  }

  /** @returns undefined for what was sealed with another key file, which nobody can open */
  private opened({ personId, key }: Keyed, body: object | null): object | null | undefined {
    if (body === null || !('sealed' in body) || typeof body.sealed !== 'string') return body;
    try {
      return JSON.parse(this.vault.open(body.sealed, personId, key)) as object;
    } catch (error) {
      if (error instanceof VaultFault) return undefined;
      throw error;
    }
  }

  private printOf({ method, url, body }: FastifyRequest): string {
    return createHmac('sha256', this.vault.secretFor('replays'))
      .update(`${method} ${url} ${JSON.stringify(body ?? null)}`)
      .digest('base64url');
  }
}
