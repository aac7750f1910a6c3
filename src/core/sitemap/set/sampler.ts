import { Buffer } from 'node:buffer';
import { stirred, type Hash } from './hash.js';

/** An address that may be picked. */
export interface Candidate {
  readonly rank: number;
  /** Where it stood: by file, then within it. */
  readonly file: number;
  readonly nth: number;
  readonly address: string;
}

/** So many times as many candidates as are wanted are kept, to spread the choice over the files. */
const SPARE = 3;

/**
 * Picks some of many addresses as they come by, spread over the files: the same seed always picks the same, another one
 * others, so that sample after sample sees more of a sitemap.
 */
export class Sampler {
  private readonly most: number;
  private readonly kept: Candidate[] = [];
  /** Nothing that ranks as high or higher is kept. */
  private bound = 2 ** 32;

  /** @param wanted how many to pick at most */
  constructor(
    private readonly wanted: number,
    private readonly seed: number,
  ) {
    this.most = wanted * SPARE;
  }

  /** Whether an address would be a candidate: of most it is not worth knowing more than their hash. */
  wants(hash: Hash): boolean {
    return this.most > 0 && this.rankOf(hash) < this.bound;
  }

  offer(hash: Hash, address: string, file: number, nth: number): void {
    if (!this.wants(hash)) return;
    this.kept.push({ rank: this.rankOf(hash), file, nth, address: alone(address) });
    // Sorting now and then is less work than keeping them sorted.
    if (this.kept.length >= this.most * 2) this.settle();
  }

  /** Those picked, in the order in which they stand in the files. */
  picked(): string[] {
    return picked(this.candidates(), this.wanted);
  }

  /** Those of which some are picked. */
  candidates(): readonly Candidate[] {
    this.settle();
    return this.kept;
  }

  private rankOf({ high, low }: Hash): number {
    return stirred(low ^ stirred(high ^ this.seed));
  }

  private settle(): void {
    this.kept.sort((a, b) => a.rank - b.rank);
    this.kept.length = Math.min(this.kept.length, this.most);
    if (this.kept.length === this.most) this.bound = this.kept.at(-1)?.rank ?? this.bound;
  }
}

/** A text in memory of its own: one that is cut from a larger text keeps the whole of that. */
function alone(text: string): string {
  return Buffer.from(text, 'utf16le').toString('utf16le');
}

/** The pages that are picked of the candidates of one sampler, or of several that saw different files. */
export function picked(candidates: readonly Candidate[], wanted: number): string[] {
  const best = [...candidates].sort((a, b) => a.rank - b.rank).slice(0, wanted * SPARE);
  const inOrder = best.sort((a, b) => a.file - b.file || a.nth - b.nth);
  const step = Math.max(1, inOrder.length / wanted);
  return Array.from(
    { length: Math.min(wanted, inOrder.length) },
    (_, at) => inOrder[Math.floor(at * step)]?.address ?? '',
  );
}
