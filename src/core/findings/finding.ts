/** How bad a finding is: it keeps the engine from accepting, it harms, or it is merely worth knowing. */
export const GRADES = ['stops', 'harms', 'note'] as const;
export type Grade = (typeof GRADES)[number];

export type EvidenceValue = string | number | boolean | null;

/** One thing that a check or a reading established. */
export interface Finding {
  readonly code: string;
  readonly grade: Grade;
  /** What was seen, as a sentence. */
  readonly says: string;
  /** The values behind the sentence. */
  readonly evidence: Readonly<Record<string, EvidenceValue>>;
  /** The sentence that can be sent to the client's developer as it is; empty where nothing is to be done. */
  readonly remedy: string;
  /** The code of the root cause that this merely follows from; null for a cause of its own. */
  readonly follows: string | null;
}

/**
 * What following a remedy does to what stands at the place: it puts something there beside it, changes what is ours alone and holds
 * nothing for anybody, or leaves all as it is until somebody has been asked.
 */
export type RemedyAct = 'add' | 'change' | 'ask';

/** One row of the catalogue. `{name}` in the sentences is filled from the evidence. */
export interface CatalogueEntry {
  readonly grade: Grade;
  readonly says: string;
  readonly remedy: string;
  /** `add` where it says nothing. */
  readonly act?: RemedyAct;
  /** True when this may be a passing trouble or our own: the engine might see something else. */
  readonly open?: boolean;
}

/** Fills `{name}` from the values; an unknown name stays visible, so that a missing value is noticed in tests. */
export function fillSentence(sentence: string, values: Readonly<Record<string, EvidenceValue>>): string {
  return sentence.replace(/\{(\w+)\}/g, (whole, name: string) => {
    const value = values[name];
    return value === undefined || value === null ? whole : String(value);
  });
}

const ORDER: readonly Grade[] = ['stops', 'harms', 'note'];

/** What stops first, then what harms, then what is only to be known; each in the order in which it was found. */
export function worstFirst<T extends { readonly grade: Grade }>(findings: readonly T[]): T[] {
  return [...findings].sort((a, b) => ORDER.indexOf(a.grade) - ORDER.indexOf(b.grade));
}

/** Whether two lots of findings say the same, in the same words and order. */
export function sameWords(one: readonly Finding[], other: readonly Finding[]): boolean {
  const words = (findings: readonly Finding[]) =>
    findings.map(({ code, grade, says }) => `${code} ${grade} ${says}`).join('\n');
  return words(one) === words(other);
}
