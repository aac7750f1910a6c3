import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { createGunzip, gzip } from 'node:zlib';

const pack = promisify(gzip);
/** So many addresses are packed at a time: none of a million is held. */
const AT_ONCE = 2_000;

/** A file as it is kept. */
export interface Packed {
  /** SHA-256 of what is in it. */
  readonly sum: string;
  /** As gzip (RFC 1952), of which one member may follow another (§2.2). */
  readonly packed: Buffer;
  /** How long it is unpacked. */
  readonly bytes: number;
}

/** A list of addresses, a line each, that is packed as it comes. */
export class AddressList {
  private readonly hash = createHash('sha256');
  private readonly parts: Buffer[] = [];
  private waiting: string[] = [];
  private bytes = 0;
  count = 0;

  /** Adds an address. It is done at once but where many have come together, which are packed then. */
  async add(address: string): Promise<void> {
    this.count += 1;
    if (this.waiting.push(address) >= AT_ONCE) await this.settle();
  }

  async end(): Promise<Packed> {
    if (this.waiting.length > 0 || this.parts.length === 0) await this.settle();
    return { sum: this.hash.digest('hex'), packed: Buffer.concat(this.parts), bytes: this.bytes };
  }

  private async settle(): Promise<void> {
    const lines = Buffer.from(this.waiting.map((address) => `${address}\n`).join(''));
    this.waiting = [];
    this.hash.update(lines);
    this.bytes += lines.length;
    this.parts.push(await pack(lines, { level: 6 }));
  }
}

/** The lines of a packed list, one after the other; null where there are no more. */
class Lines {
  private readonly pieces: AsyncIterator<string>;
  private lines: string[] = [];
  private rest = '';
  private at = 0;

  constructor(packed: Buffer) {
    const text = createGunzip().setEncoding('utf8');
    // Whoever asks for more is told of a fault; before that it is nobody's.
    text.on('error', () => undefined);
    text.end(packed);
    this.pieces = (text as AsyncIterable<string>)[Symbol.asyncIterator]();
  }

  /** Whether the next one is there without waiting. */
  get isReady(): boolean {
    return this.at < this.lines.length;
  }

  get next(): string | undefined {
    return this.lines[this.at];
  }

  step(): void {
    this.at += 1;
  }

  async more(): Promise<void> {
    while (!this.isReady) {
      const { value, done } = await this.pieces.next();
      if (done === true) return;
      const lines = (this.rest + value).split('\n');
      this.rest = lines.pop() ?? '';
      this.lines = lines;
      this.at = 0;
    }
  }
}

/** How many addresses came and went between two lists, each in the order of its bytes, so that one pass tells. */
export async function cameAndWent(before: Buffer, now: Buffer): Promise<{ came: number; went: number }> {
  const old = new Lines(before);
  const young = new Lines(now);
  let came = 0;
  let went = 0;
  for (;;) {
    if (!old.isReady) await old.more();
    if (!young.isReady) await young.more();
    const left = old.next;
    const right = young.next;
    if (left === undefined && right === undefined) return { came, went };
    const order = left === undefined ? 1 : right === undefined ? -1 : compared(left, right);
    if (order <= 0) old.step();
    if (order >= 0) young.step();
    if (order < 0) went += 1;
    if (order > 0) came += 1;
  }
}

/** As the records order texts: by their bytes in UTF-8. */
function compared(left: string, right: string): number {
  return left === right ? 0 : Buffer.compare(Buffer.from(left), Buffer.from(right));
}
