import { DIFFERENCES, type Difference } from '../../badge/token/difference.js';
import type { CatalogueEntry } from '../finding.js';

type ValueCode = Difference | 'other-token' | 'replaced-token' | 'other-value';

/** Where a value stands and how it is put right, in an area's own words. */
interface ValueWords<Area extends string> {
  readonly area: Area;
  /** What holds the value, at the beginning of a sentence. */
  readonly holder: string;
  /** The sentence that puts it right. */
  readonly remedy: string;
}

/** The rows for a value that is not the right one: the same for every method, in the words of each. */
export function valueRows<Area extends string>({
  area,
  holder,
  remedy,
}: ValueWords<Area>): Record<`${Area}.${ValueCode}`, CatalogueEntry> {
  const near = DIFFERENCES.map((difference): [string, CatalogueEntry] => [
    `${area}.${difference}`,
    {
      grade: 'stops',
      // A value in quotation marks is not put into more of them.
      says: `${holder} holds ${difference === 'quotes' ? '{found}' : '“{found}”'}: the right value, but {hint}.`,
      remedy: `${remedy} (As it stands, {hint}.)`,
    },
  ]);
  const rows: Record<string, CatalogueEntry> = {
    ...Object.fromEntries(near),
    [`${area}.other-token`]: {
      grade: 'stops',
      says: `${holder} holds “{found}”, which is {owner}.`,
      remedy,
    },
    [`${area}.replaced-token`]: {
      grade: 'stops',
      says: `${holder} still holds “{found}”: {owner}.`,
      remedy: `${remedy} (The old token is no longer valid.)`,
    },
    [`${area}.other-value`]: {
      grade: 'stops',
      says: `${holder} holds “{found}” in place of “{value}”.`,
      remedy,
    },
  };
  return rows as Record<`${Area}.${ValueCode}`, CatalogueEntry>;
}
