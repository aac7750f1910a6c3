import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { RobotsSeen } from '../core/robots/robots.js';
import { Overtaxed } from './overtaxed.js';
import { readSitemapsIn } from './readers.js';
import { wentThrough } from './swept-young.js';
import type { Answer, FileRead, Say, SitemapOrder, Sum } from './sitemap-protocol.js';

/** Milliseconds that one piece of a file may take; its end, where addresses are sorted, has as long. */
const LONGEST_MS = 30_000;

type Unnumbered = Say extends infer One ? (One extends Say ? Omit<One, 'nth'> : never) : never;

interface Waiting {
  readonly done: (answer: Answer) => void;
  readonly fail: (error: unknown) => void;
}

/**
 * One sitemap with all that is in it, read in a thread of its own: pieces are handed over as they come, and the thread reads
 * one while the next is fetched. Where it takes too long or too much memory, the thread is ended, and everything that is asked
 * from then on throws Overtaxed.
 */
export class SitemapSession {
  private readonly port: MessagePort;
  private readonly patience = new AbortController();
  private readonly waiting = new Map<number, Waiting>();
  private readonly over: Promise<void>;
  private nth = 0;
  private files = 0;
  private end: unknown = null;

  /**
   * Opens one once a thread is free for it. Nothing is fetched before that: whoever held a host while it waits for a thread would
   * keep it from the one who has the thread.
   */
  static async open(order: SitemapOrder): Promise<SitemapSession> {
    const session = new SitemapSession(order);
    await session.ask({ kind: 'begin' });
    return session;
  }

  private constructor(order: SitemapOrder) {
    const { port1, port2 } = new MessageChannel();
    this.port = port1;
    port1.on('message', (answer: Answer) => {
      const one = this.waiting.get(answer.nth);
      this.waiting.delete(answer.nth);
      if (answer.fault === undefined) one?.done(answer);
      else one?.fail(new Error(answer.fault));
    });
    this.over = readSitemapsIn({ port: port2, order }, [port2 as never], this.patience.signal).then(
      () => {
        this.finish(new Error('the reading is over'));
      },
      (error: unknown) => {
        this.finish(error);
      },
    );
  }

  /** Tells what the robots.txt of an origin says, before a file of it is read. */
  async robots(origin: string, robots: RobotsSeen): Promise<void> {
    await this.ask({ kind: 'robots', origin, robots });
  }

  /** Says that files come that are held against one another. @param addresses that they may have at most, all together */
  async many(addresses: number): Promise<void> {
    await this.ask({ kind: 'many', addresses });
  }

  /** @param place its number in an index, from 1; 0 for the sitemap itself */
  async file(url: string, type: string | null, place: number): Promise<FileSession> {
    this.files += 1;
    const file = this.files;
    await this.ask({ kind: 'open', file, url, type, place });
    return new FileSession(file, (say, transfer) => this.ask(say, transfer));
  }

  async sum(): Promise<Sum> {
    const { sum } = await this.ask({ kind: 'sum' });
    if (!sum) throw new Error('a sum is answered by one');
    return sum;
  }

  async close(): Promise<void> {
    if (this.end === null) await this.ask({ kind: 'close' }).catch(() => undefined);
    await this.over;
  }

  private ask(say: Unnumbered, transfer: readonly ArrayBuffer[] = []): Promise<Answer> {
    if (this.end !== null) return Promise.reject(this.end as Error);
    this.nth += 1;
    const { nth } = this;
    return new Promise<Answer>((done, fail) => {
      const timer = setTimeout(
        () => {
          this.finish(new Overtaxed('time'));
          this.patience.abort();
        },
        LONGEST_MS + (nth === 1 ? WAIT_MS : 0),
      );
      const settled =
        <T>(settle: (value: T) => void) =>
        (value: T) => {
          clearTimeout(timer);
          settle(value);
        };
      this.waiting.set(nth, { done: settled(done), fail: settled(fail) });
      this.port.postMessage({ ...say, nth }, transfer as never);
    });
  }

  private finish(error: unknown): void {
    this.end ??= error;
    this.port.close();
    for (const { fail } of this.waiting.values()) fail(this.end);
    this.waiting.clear();
  }
}

/** The first word may have to wait until a thread is free: readings take turns. */
const WAIT_MS = 31 * 60_000;

/** Bytes that most pieces of the network have at most. */
const ROOM = 65_536;

/** One file that is being read. */
export class FileSession {
  private before: Promise<boolean> = Promise.resolve(false);
  /** Memory that takes one piece after the other to the thread: new memory for each would lie about until somebody tidies up. */
  private room = new ArrayBuffer(ROOM);

  constructor(
    private readonly file: number,
    private readonly ask: (say: Unnumbered, transfer?: readonly ArrayBuffer[]) => Promise<Answer>,
  ) {}

  /** Hands a piece over, once the one before was read. @returns whether more of the file cannot change its reading */
  async write(piece: Uint8Array): Promise<boolean> {
    if (await this.before) return true;
    // A copy, since pieces of the network often lie in one block together.
    if (this.room.byteLength < piece.length) this.room = new ArrayBuffer(piece.length);
    const bytes = new Uint8Array(this.room, 0, piece.length);
    bytes.set(piece);
    wentThrough(piece.length);
    const answer = this.ask({ kind: 'piece', file: this.file, bytes }, [this.room]);
    this.before = answer.then(({ finished, room }) => {
      if (room) this.room = room;
      return finished === true;
    });
    // Told by the next write or the end; not to be taken for an error that nobody awaits.
    this.before.catch(() => undefined);
    return false;
  }

  async end(): Promise<FileRead> {
    await this.before;
    const { file } = await this.ask({ kind: 'end', file: this.file });
    if (!file) throw new Error('the end of a file is answered by its reading');
    return file;
  }
}
