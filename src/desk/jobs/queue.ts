import type { Lane } from '../../store/models/jobs.js';

/** How many pieces of each lane are worked on at once: one lane never takes another's places. */
const PLACES: Readonly<Record<Lane, number>> = { person: 6, bulk: 8, long: 2 };
/** Pieces of bulk work at once: fewer while somebody waits for a piece, and while there is more to compute than to wait for. */
const BULK = { alone: PLACES.bulk, meanwhile: 4 };
const BULK_WHEN_LOADED = { alone: 4, meanwhile: 1 };
const LANES: readonly Lane[] = ['person', 'bulk', 'long'];

/** How many pieces go to one host, and to one engine, at once. */
const PER_HOST = 2;
const PER_ENGINE = 4;

export interface Waiting {
  readonly id: string;
  readonly host: string | null;
  readonly engine: string | null;
}

/** A job that has pieces to do. */
export interface Taking {
  readonly id: string;
  readonly lane: Lane;
  readonly personId: string | null;
}

interface InTurn extends Taking {
  /** Those of its pieces that are known to wait, in their order. */
  waiting: Waiting[];
  /** When a piece of it was last taken: a count that goes up. */
  servedAt: number;
}

/** A piece that is taken. */
export interface Taken {
  readonly jobId: string;
  readonly lane: Lane | null;
  readonly piece: Waiting;
  /** Whether no other piece of its job is known to wait. */
  readonly isLast: boolean;
}

/**
 * Whose turn it is. Each lane has places of its own; in a lane people take turns, and the jobs of a person among themselves;
 * only a few pieces go to the same host or engine at once, and those behind them are not held up by that.
 */
export class Queue {
  private readonly jobs = new Map<string, InTurn>();
  private readonly personServedAt = new Map<string, number>();
  private readonly running = new Map<string, Taken>();
  /** How many are under way at a host or an engine. */
  private readonly at = new Map<string, number>();
  private count = 0;

  /** @param isLoaded whether there is more to compute than to wait for */
  constructor(private readonly isLoaded: () => boolean = () => false) {}

  /** Gives a job its turns; which of its pieces wait is told by `refill`. */
  add(job: Taking): void {
    if (!this.jobs.has(job.id)) this.jobs.set(job.id, { ...job, waiting: [], servedAt: 0 });
  }

  drop(jobId: string): void {
    this.jobs.delete(jobId);
  }

  /** Tells which pieces of a job wait; one with none has no turn any more. */
  refill(jobId: string, waiting: readonly Waiting[]): void {
    const job = this.jobs.get(jobId);
    if (!job) return;
    job.waiting = waiting.filter(({ id }) => !this.running.has(id));
    if (waiting.length === 0) this.jobs.delete(jobId);
  }

  /** How many pieces are under way. */
  get size(): number {
    return this.running.size;
  }

  /** The pieces of a job that are under way. */
  underWay(jobId: string): Taken[] {
    return [...this.running.values()].filter((one) => one.jobId === jobId);
  }

  /** Takes the piece whose turn it is; null where none has a place now. */
  take(): Taken | null {
    for (const lane of LANES) {
      if (this.busy(lane) >= this.places(lane)) continue;
      for (const job of this.inTurn(lane)) {
        const piece = job.waiting.find((one) => this.hasRoom(one));
        if (piece) return this.serve(job, piece);
      }
    }
    return null;
  }

  private busy(lane: Lane): number {
    let busy = 0;
    for (const one of this.running.values()) if (one.lane === lane) busy += 1;
    return busy;
  }

  private places(lane: Lane): number {
    if (lane !== 'bulk') return PLACES[lane];
    const bulk = this.isLoaded() ? BULK_WHEN_LOADED : BULK;
    return this.busy('person') > 0 ? bulk.meanwhile : bulk.alone;
  }

  /** Takes a piece out of turn, whatever else is under way. */
  begin(jobId: string, piece: Waiting, lane: Lane | null = null, isLast = false): Taken {
    const taken = { jobId, lane, piece, isLast };
    this.running.set(piece.id, taken);
    for (const place of placesOf(piece)) this.at.set(place, (this.at.get(place) ?? 0) + 1);
    return taken;
  }

  end({ piece }: Taken): void {
    if (!this.running.delete(piece.id)) return;
    for (const place of placesOf(piece)) {
      const left = (this.at.get(place) ?? 1) - 1;
      if (left > 0) this.at.set(place, left);
      else this.at.delete(place);
    }
  }

  private serve(job: InTurn, piece: Waiting): Taken {
    this.count += 1;
    job.servedAt = this.count;
    this.personServedAt.set(personOf(job), this.count);
    job.waiting = job.waiting.filter((one) => one !== piece);
    return this.begin(job.id, piece, job.lane, job.waiting.length === 0);
  }

  /** The jobs of a lane, the one first whose person, and which itself, has waited longest. */
  private inTurn(lane: Lane): InTurn[] {
    const served = (job: InTurn) => this.personServedAt.get(personOf(job)) ?? 0;
    return [...this.jobs.values()]
      .filter((job) => job.lane === lane && job.waiting.length > 0)
      .sort((a, b) => served(a) - served(b) || a.servedAt - b.servedAt);
  }

  private hasRoom({ host, engine }: Waiting): boolean {
    return (
      (host === null || (this.at.get(`host ${host}`) ?? 0) < PER_HOST) &&
      (engine === null || (this.at.get(`engine ${engine}`) ?? 0) < PER_ENGINE)
    );
  }
}

function personOf({ lane, personId }: Taking): string {
  return `${lane} ${personId ?? 'service'}`;
}

function placesOf({ host, engine }: Waiting): string[] {
  return [...(host === null ? [] : [`host ${host}`]), ...(engine === null ? [] : [`engine ${engine}`])];
}
