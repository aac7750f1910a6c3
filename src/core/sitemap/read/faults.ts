import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { Listing } from './listing.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';

/** Where in a file something stands; both count from 1. */
export interface Position {
  readonly line: number;
  readonly column: number;
}

interface Kind {
  count: number;
  readonly at: Position;
  readonly examples: string[];
  readonly values: Readonly<Record<string, EvidenceValue>>;
}

/** How many examples of one kind of fault are told. */
const EXAMPLES = 3;

/** The faults of one file: those of one kind are one finding, with how many they are, where the first stands, and a few examples. */
export class Faults {
  private readonly kinds = new Map<FindingCode, Kind>();
  private readonly single: Finding[] = [];
  /** Told of each fault of an entry, where entries are listed. */
  listing: Listing | null = null;

  /** @param url the file, told with each finding */
  constructor(private readonly url: string) {}

  /** Whether something was found after which the file is of no use. */
  get stopped(): boolean {
    return this.single.some(({ grade }) => grade === 'stops');
  }

  /** A fault of the file as a whole. */
  give(code: FindingCode, values: Readonly<Record<string, EvidenceValue>> = {}): void {
    this.single.push(finding(code, { url: this.url, ...values }));
  }

  /** One more fault of a kind that a file may have thousands of. */
  fold(
    code: FindingCode,
    found: string,
    at: Position,
    values: Readonly<Record<string, EvidenceValue>> = {},
  ): void {
    this.listing?.found(code);
    const kind = this.kinds.get(code);
    if (!kind) {
      // The place may be the reader itself, which goes on.
      this.kinds.set(code, {
        count: 1,
        at: { line: at.line, column: at.column },
        examples: [excerpt(found)],
        values,
      });
      return;
    }
    kind.count += 1;
    if (kind.examples.length < EXAMPLES) kind.examples.push(excerpt(found));
  }

  /** @returns what is wrong with the file as a whole, then the folded kinds, the most frequent first */
  findings(): Finding[] {
    const folded = [...this.kinds]
      .sort(([, a], [, b]) => b.count - a.count)
      .map(([code, { count, at, examples, values }]) =>
        finding(code, {
          url: this.url,
          ...values,
          count,
          first: examples[0] ?? '',
          line: at.line,
          column: at.column,
          examples: examples.join(' · '),
        }),
      );
    return [...this.single, ...folded];
  }
}
