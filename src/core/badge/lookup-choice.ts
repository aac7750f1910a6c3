/** An enrolment over an address, as far as it matters whether an engine is asked by it. */
export interface LookupEnrolment {
  readonly engine: string;
  /** As `targetText` writes it. */
  readonly target: string;
  readonly isHeld: boolean;
  /** Whether the engine takes such questions at all. */
  readonly takes: boolean;
}

/** By which enrolments a single page is asked about, or why by none. */
export type LookupChoice<One extends LookupEnrolment> =
  | { readonly kind: 'asked'; readonly by: readonly One[] }
  | { readonly kind: 'not-covered' }
  /** Covered by this one at least, which is not held. */
  | { readonly kind: 'not-held'; readonly one: One }
  | { readonly kind: 'not-taken'; readonly one: One };

/**
 * Where a single page belongs: engines answer for a page only those who have proven the site, so it is asked about by the
 * narrowest held enrolment over it at each engine that takes such questions.
 * @param over all enrolments over the address
 */
export function chooseLookups<One extends LookupEnrolment>(over: readonly One[]): LookupChoice<One> {
  const [some] = over;
  if (!some) return { kind: 'not-covered' };
  const held = over.filter(({ isHeld }) => isHeld);
  const [holding] = held;
  if (!holding) return { kind: 'not-held', one: some };
  const narrowest = new Map<string, One>();
  for (const one of held.filter(({ takes }) => takes).sort((a, b) => b.target.length - a.target.length))
    if (!narrowest.has(one.engine)) narrowest.set(one.engine, one);
  return narrowest.size === 0
    ? { kind: 'not-taken', one: holding }
    : { kind: 'asked', by: [...narrowest.values()] };
}
