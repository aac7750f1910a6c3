import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { differencesOf } from '../token/difference.js';
import { ownerInWords, ownerOf, wantedText, type KnownToken, type OwnSide } from '../token/known-token.js';
import type { Placement } from '../placement.js';

/** What the product knows besides the evidence. */
export interface JudgeContext {
  readonly own: OwnSide;
  readonly known: readonly KnownToken[];
}

export const NOTHING_KNOWN: JudgeContext = { own: { engine: '', property: '' }, known: [] };

const HINTS: Readonly<Partial<Record<string, string>>> = {
  'whole-tag': 'the whole tag was pasted where only the value belongs',
  'whole-line': 'the whole line was pasted where only the value belongs',
  'prefix-missing': 'the part before the token is missing',
  'prefix-doubled': 'the part before the token is there twice',
  split: 'it was split into pieces, and the quotes between them became part of it',
  cut: 'it was cut short',
  extra: 'there is more than the value',
  quotes: 'quotation marks became part of it',
  dashes: 'a hyphen was turned into a dash',
  invisible: 'invisible characters got into it',
  escaped: 'signs in it were escaped',
  'look-alike': 'letters were replaced by others that look like them',
  case: 'capital and small letters were changed',
  spaces: 'spaces got into it',
  typo: 'a letter or two differ',
};

/**
 * Says of a value that is not the right one what it is: another known token, the right one changed on the way, or
 * something else.
 * @param area whose codes the finding has
 * @param values what fills the sentences besides the value itself
 */
export function judgeValue(
  area: 'meta' | 'file' | 'dns',
  placement: Placement,
  found: string,
  values: Readonly<Record<string, EvidenceValue>>,
  context: JudgeContext,
): Finding {
  const wanted = { whole: wantedText(placement), token: placement.token };
  const base = { ...values, value: wanted.whole, found: visible(found) };
  const owner = found.includes(wanted.token)
    ? null
    : ownerOf(found, wanted.token, context.known, context.own);
  if (owner) {
    const isOld =
      owner.replacedAt !== null &&
      owner.engine === context.own.engine &&
      owner.property === context.own.property;
    return finding(`${area}.${isOld ? 'replaced-token' : 'other-token'}`, {
      ...base,
      owner: ownerInWords(owner, context.own),
      // For ourselves: no sentence has it, since sentences are sent on.
      ...(owner.property === context.own.property ? {} : { otherSite: owner.property }),
    });
  }
  const differences = differencesOf(found, wanted);
  const [first] = differences;
  if (first === undefined) return finding(`${area}.other-value`, base);
  const hint = differences.map((one) => HINTS[one] ?? one).join(', and ');
  return finding(`${area}.${first}` satisfies FindingCode, {
    ...base,
    hint,
    also: differences.slice(1).join(' '),
  });
}

/** How far a value is from being the right one: the less, the more it says. */
export function unlikeness(placement: Placement, found: string, context: JudgeContext): number {
  const wanted = { whole: wantedText(placement), token: placement.token };
  if (differencesOf(found, wanted).length > 0) return found.includes(wanted.token) ? 0 : 1;
  return ownerOf(found, wanted.token, context.known) ? 2 : 3;
}

/** A foreign value with what cannot be seen made visible, since that is often what is wrong with it. */
function visible(text: string): string {
  const shown = text
    .replace(/\r\n|\r|\n/gu, '⏎')
    .replace(/\u00a0/gu, '⍽')
    .replace(/[\u00ad\u061c\u180e\u200b-\u200f\u202a-\u202e\u2060-\u2064\ufeff]/gu, '⌑');
  return excerpt(shown);
}
