import { isAscii } from 'node:buffer';
import { finding } from '../findings/catalogue.js';
import { encodingOf, TELLING_BYTES } from './encoding.js';
import type { Beside } from './read/beside.js';
import { SitemapReader } from './reader.js';
import type { FileReading } from './reading.js';

type Decoder = InstanceType<typeof TextDecoder>;

/**
 * Bytes that become text at a time. The letters of more take two bytes each in a piece of memory so large that the platform tidies it up
 * late: many of them lie about at once.
 */
const AT_ONCE = 32_768;
const NO_ASCII = 0x80;

/**
 * Reads one sitemap file from its bytes, as they come and unpacked: `write` them, then `end`. They become text by the
 * encoding that the file says it has.
 */
export class SitemapBytesReader {
  private readonly reader: SitemapReader;
  /** What came before it was enough to tell the encoding. */
  private first = new Uint8Array();
  private decoder: Decoder | null = null;
  /** Whether the decoder waits for nothing, and a byte of ASCII is its own letter to it. */
  private isPlain = false;
  private misdeclared: string | null = null;

  /**
   * @param url where the file was fetched
   * @param contentType its Content-Type header
   * @param now dates after that lie in the future
   * @param beside what the file is held against, as far as it is known
   */
  constructor(
    private readonly url: string,
    private readonly contentType: string | null,
    now: Date,
    beside: Beside = {},
  ) {
    this.reader = new SitemapReader(url, now, beside);
  }

  /** True once more input cannot change the result: the rest need not be fetched. */
  get finished(): boolean {
    return this.reader.finished;
  }

  write(piece: Uint8Array): void {
    if (this.decoder)
      for (let at = 0; at < piece.length; at += AT_ONCE) this.decode(piece.subarray(at, at + AT_ONCE));
    else {
      this.first = joined(this.first, piece);
      if (this.first.length >= TELLING_BYTES) this.begin();
    }
  }

  end(): FileReading {
    if (!this.decoder) this.begin();
    this.decode(null);
    const reading = this.reader.end();
    const { url, misdeclared: declared } = this;
    if (declared === null) return reading;
    return { ...reading, findings: [finding('sitemap.misdeclared', { url, declared }), ...reading.findings] };
  }

  private begin(): void {
    const { label, misdeclared } = encodingOf(this.first, this.contentType);
    this.misdeclared = misdeclared;
    this.decoder = new TextDecoder(label);
    this.decode(this.first);
    this.first = new Uint8Array();
  }

  /** @param piece the next bytes; null where there are no more */
  private decode(piece: Uint8Array | null): void {
    if (!this.decoder || this.finished) return;
    const text = this.textOf(this.decoder, piece);
    if (text !== '') this.reader.write(text);
  }

  private textOf(decoder: Decoder, piece: Uint8Array | null): string {
    if (this.isPlain && piece && isAscii(piece))
      return Buffer.from(piece.buffer, piece.byteOffset, piece.length).toString('latin1');
    this.isPlain = decoder.encoding === 'utf-8' && (piece?.at(-1) ?? NO_ASCII) < NO_ASCII;
    const next = (by: Decoder) => (piece ? by.decode(piece, { stream: true }) : by.decode());
    try {
      return next(decoder);
    } catch {
      // By the standard, bytes that make no letter become U+FFFD. Where they lie astride two pieces, the platform's decoder
      // of gb18030 gives up instead: a new one goes on behind them.
      this.decoder = new TextDecoder(decoder.encoding);
      return `\ufffd${next(this.decoder)}`;
    }
  }
}

function joined(head: Uint8Array, tail: Uint8Array): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(head.length + tail.length);
  whole.set(head);
  whole.set(tail, head.length);
  return whole;
}
