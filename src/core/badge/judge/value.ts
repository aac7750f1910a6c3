import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { differencesOf } from '../token/difference.js';
import { type Difference } from '../../findings/differences.js';
import { ownerInWords, ownerOf, wantedText, type KnownToken, type OwnSide } from '../token/known-token.js';
import type { Placement } from '../placement.js';

/** What the product knows besides the evidence. */
export interface JudgeContext {
  readonly own: OwnSide;
  readonly known: readonly KnownToken[];
}

/** The same, with when the evidence was taken. */
export interface Judging extends JudgeContext {
  readonly at: Date;
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

/** What a value at the place of a token is to the one who looks for it. */
type Owned =
  /** Ours, broken on the way. */
  | { readonly kind: 'broken'; readonly differences: readonly [Difference, ...Difference[]] }
  /** An old token of ours by which nobody holds anything any more. */
  | { readonly kind: 'replaced'; readonly owner: KnownToken }
  /** Somebody’s, whom we know. */
  | { readonly kind: 'token'; readonly owner: KnownToken }
  /** Nothing at all, which is nobody’s. */
  | { readonly kind: 'blank' }
  /** Nobody knows whose. */
  | { readonly kind: 'unknown' };

function owned(placement: Placement, found: string, { known, own }: JudgeContext): Owned {
  if (found.trim() === '') return { kind: 'blank' };
  const wanted = { whole: wantedText(placement), token: placement.token };
  const owner = ownerOf(found, wanted.token, known, own);
  // What has our token in it is ours, unless a token in use of somebody else’s is in it as well.
  const isOurs = found.includes(wanted.token) && owner?.inUse !== true;
  if (owner && !isOurs) {
    const isOld = owner.replacedAt !== null && owner.engine === own.engine && owner.property === own.property;
    const isFree = !known.some(({ value, inUse }) => value === owner.value && inUse);
    return { kind: isOld && isFree ? 'replaced' : 'token', owner };
  }
  const [first, ...rest] = differencesOf(found, wanted);
  return first === undefined ? { kind: 'unknown' } : { kind: 'broken', differences: [first, ...rest] };
}

/** Whether a value may be changed in place: ours, and nobody holds anything by it. */
export function isOursToChange(placement: Placement, found: string, context: JudgeContext): boolean {
  return ['broken', 'replaced', 'blank'].includes(owned(placement, found, context).kind);
}

/**
 * Says that another’s value stands where ours would have to stand alone: nothing is changed there before somebody was asked.
 * @param values what fills the sentences besides the value itself
 */
export function judgeTaken(
  area: 'meta' | 'file' | 'dns',
  placement: Placement,
  found: string,
  values: Readonly<Record<string, EvidenceValue>>,
  context: JudgeContext,
): Finding {
  const whose = owned(placement, found, context);
  return finding(`${area}.taken`, {
    ...values,
    value: wantedText(placement),
    found: visible(found),
    owner: 'owner' in whose ? ownerInWords(whose.owner, context.own) : 'nobody here knows whose it is',
    ...('owner' in whose && whose.owner.property !== context.own.property
      ? { otherSite: whose.owner.property }
      : {}),
  });
}

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
  const base = { ...values, value: wantedText(placement), found: visible(found) };
  const whose = owned(placement, found, context);
  if (whose.kind === 'replaced' || whose.kind === 'token') {
    const { owner } = whose;
    return finding(`${area}.${whose.kind === 'replaced' ? 'replaced-token' : 'other-token'}`, {
      ...base,
      owner: ownerInWords(owner, context.own),
      // For ourselves: no sentence has it, since sentences are sent on.
      ...(owner.property === context.own.property ? {} : { otherSite: owner.property }),
    });
  }
  if (whose.kind === 'blank') return finding(`${area}.blank`, { ...base, found: 'nothing' });
  if (whose.kind === 'unknown') return finding(`${area}.other-value`, base);
  const { differences } = whose;
  const [first] = differences;
  const hint = differences.map((one) => HINTS[one] ?? one).join(', and ');
  return finding(`${area}.${first}` satisfies FindingCode, {
    ...base,
    hint,
    also: differences.slice(1).join(' '),
  });
}

/** How far a value is from being the right one: the less, the more it says. */
export function unlikeness(placement: Placement, found: string, context: JudgeContext): number {
  const { kind } = owned(placement, found, context);
  if (kind === 'broken') return found.includes(placement.token) ? 0 : 1;
  return { replaced: 2, token: 3, blank: NOTHING_OURS, unknown: NOTHING_OURS + 1 }[kind];
}

/** From here on a value has nothing to do with ours. */
export const NOTHING_OURS = 4;

/** A foreign value with what cannot be seen made visible, since that is often what is wrong with it. */
function visible(text: string): string {
  const shown = text
    .replace(/\r\n|\r|\n/gu, '⏎')
    .replace(/\u00a0/gu, '⍽')
    .replace(/[\u00ad\u061c\u180e\u200b-\u200f\u202a-\u202e\u2060-\u2064\ufeff]/gu, '⌑');
  return excerpt(shown);
}
