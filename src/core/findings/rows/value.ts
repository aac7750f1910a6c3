import { type Difference } from '../differences.js';
import { DIFFERENCES } from '../differences.js';
import type { CatalogueEntry } from '../finding.js';

type ValueCode = Difference | 'other-token' | 'replaced-token' | 'other-value' | 'blank' | 'taken';

/** Where a value stands and how it is put right, in an area's own words. */
interface ValueWords<Area extends string> {
  readonly area: Area;
  /** What holds the value, at the beginning of a sentence. */
  readonly holder: string;
  /** The sentence that changes it in place: for our own value only, broken on the way or replaced. */
  readonly change: string;
  /** The sentence that has ours put there too, and leaves what others may hold by. */
  readonly add: string;
  /** Why ours cannot stand beside another’s there, and the sentence that asks whose that is. */
  readonly taken: { readonly says: string; readonly remedy: string };
}

/**
 * The rows for a value that is not the right one: the same for every method, in the words of each. What is ours alone is changed in
 * place; what holds, or may hold, something for anybody else stays.
 */
export function valueRows<Area extends string>({
  area,
  holder,
  change,
  add,
  taken,
}: ValueWords<Area>): Record<`${Area}.${ValueCode}`, CatalogueEntry> {
  const near = DIFFERENCES.map((difference): [string, CatalogueEntry] => [
    `${area}.${difference}`,
    {
      grade: 'stops',
      act: 'change',
      // A value in quotation marks is not put into more of them.
      says: `${holder} holds ${difference === 'quotes' ? '{found}' : '“{found}”'}: the right value, but {hint}.`,
      remedy: `${change} (As it stands, {hint}.)`,
    },
  ]);
  const rows: Record<string, CatalogueEntry> = {
    ...Object.fromEntries(near),
    [`${area}.other-token`]: {
      grade: 'stops',
      says: `${holder} holds “{found}”, which is {owner}.`,
      remedy: add,
    },
    [`${area}.replaced-token`]: {
      grade: 'stops',
      act: 'change',
      says: `${holder} still holds “{found}”: {owner}.`,
      remedy: `${change} (The old token is no longer valid.)`,
    },
    [`${area}.other-value`]: {
      grade: 'stops',
      says: `${holder} holds “{found}” in place of “{value}”.`,
      remedy: add,
    },
    [`${area}.blank`]: { grade: 'stops', act: 'change', says: `${holder} holds nothing.`, remedy: change },
    [`${area}.taken`]: { grade: 'stops', act: 'ask', ...taken },
  };
  return rows as Record<`${Area}.${ValueCode}`, CatalogueEntry>;
}
