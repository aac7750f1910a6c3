import { hostsForPeople } from '../address/host.js';
import {
  fillSentence,
  type CatalogueEntry,
  type EvidenceValue,
  type Finding,
  type Grade,
  type RemedyAct,
} from './finding.js';
import { DNS } from './rows/dns.js';
import { FILE } from './rows/file.js';
import { MAKING } from './rows/making.js';
import { META } from './rows/meta.js';
import { REACH } from './rows/reach.js';
import { SITEMAP } from './rows/sitemap.js';
import { SITEMAP_AT_ENGINE } from './rows/sitemap-at-engine.js';
import { VARIANTS } from './rows/variants.js';

/**
 * Every finding that the product can make: one row, one code, named by area.
 * `{name}` in a sentence is filled from the finding's evidence. Remedies are written for the client's developer.
 */
export const CATALOGUE = {
  ...REACH,
  ...META,
  ...FILE,
  ...DNS,
  ...VARIANTS,
  ...SITEMAP,
  ...SITEMAP_AT_ENGINE,
  ...MAKING,
} as const;

export type FindingCode = keyof typeof CATALOGUE;

/**
 * Makes a finding by its code; its sentences have hosts in the form for people, its evidence as they are.
 * @param values the evidence; it also fills the sentences
 */
export function finding(code: FindingCode, values: Readonly<Record<string, EvidenceValue>> = {}): Finding {
  const entry: CatalogueEntry = CATALOGUE[code];
  return {
    code,
    grade: entry.grade,
    says: hostsForPeople(fillSentence(entry.says, values)),
    evidence: values,
    remedy: hostsForPeople(fillSentence(entry.remedy, values)),
    follows: null,
  };
}

/** The same finding with another grade: what stops one engine may be harmless to another. A note asks for nothing. */
export function graded(grade: Grade, found: Finding): Finding {
  return { ...found, grade, remedy: grade === 'note' ? '' : found.remedy };
}

/**
 * Whether a finding leaves open what an engine would see: a passing trouble, or a limit of our own. A trouble that was
 * met again at a second try (`again`) is none that passes.
 */
export function isOpen({ code, evidence }: Pick<Finding, 'code' | 'evidence'>): boolean {
  return isKnown(code) && (CATALOGUE[code] as CatalogueEntry).open === true && evidence['again'] !== true;
}

/** What following the remedy of a finding does to what stands at the place. */
export function remedyActOf(code: string): RemedyAct {
  return isKnown(code) ? ((CATALOGUE[code] as CatalogueEntry).act ?? 'add') : 'add';
}

function isKnown(code: string): code is FindingCode {
  return Object.hasOwn(CATALOGUE, code);
}
