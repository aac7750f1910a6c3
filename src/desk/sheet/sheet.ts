import type { PlacementSheet } from '../../api/documents.js';
import { writtenMinute } from '../../api/formats.js';
import { Problem } from '../../api/problems.js';
import { blocksOf, filesWith, type Block } from '../../core/sheet/blocks.js';
import { filled, type SheetLanguage } from '../../core/sheet/sentences.js';
import {
  onlyOpen,
  sheetOfPart,
  tokensIn,
  type Sheet,
  type SheetPart,
  type SheetToken,
} from '../../core/sheet/sheet.js';
import { asHtml } from '../../core/sheet/page.js';
import { asMarkdown, asText } from '../../core/sheet/sheet-formats.js';
import type { OwnWords } from '../../core/wording/wording.js';
import { nowText, type Desk } from '../context/desk.js';
import { checksum } from '../context/checksum.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { NAME_COLUMNS } from '../context/names.js';
import { enrolmentName, type Nameable } from '../../core/address/enrolment-name.js';
import { subjectOf, type SheetFor, type Subject } from './subject.js';
import { tokensOf } from './tokens.js';
import { wordsIn } from '../context/own-words.js';

/** A sheet with what it is written of. */
export interface GatheredSheet {
  readonly title: string;
  readonly at: string;
  readonly sheet: Sheet;
  readonly tokens: readonly SheetToken[];
  readonly blocks: readonly Block[];
  readonly files: PlacementSheet['files'];
  /** Enrolments of which no token is known yet, so that nothing of them is on it. */
  readonly missing: readonly string[];
}

/** How a sheet is gathered. */
interface Gathering {
  /** Sentences that are only tried. */
  readonly tried?: readonly OwnWords[];
  /** Without what stands. */
  readonly isOpenOnly?: boolean;
  readonly part?: SheetPart;
}

const ALL_OF_IT: SheetPart = { enrolments: null, places: null };

/** Gathers the sheet of some properties, as it stands now. */
export async function gatherSheet(
  desk: Desk,
  { title, properties, left }: Pick<Subject, 'title' | 'properties' | 'left'>,
  language: SheetLanguage,
  { tried = [], isOpenOnly = false, part = ALL_OF_IT }: Gathering = {},
): Promise<GatheredSheet> {
  const { sheet: words } = await wordsIn(desk, language, tried);
  const tokens = tokensIn(part, await tokensOf(desk, properties, language, words));
  const whole = sheetOfPart(part, tokens);
  const sheet = isOpenOnly ? onlyOpen(whole) : whole;
  const at = nowText(desk);
  const files = filesWith(sheet).map(({ path, content }) => ({
    path,
    content,
    sha256: checksum(Buffer.from(content)),
  }));
  const missing = (await withoutToken(desk, properties)).filter(
    ({ enrolmentId }) => part.enrolments?.includes(enrolmentId) !== false,
  );
  const later = [...new Set(missing.map(({ engine }) => desk.book.titleOf(engine)))];
  const about = {
    ...{ property: title, at: `${writtenMinute(at)} UTC`, sums: sumsOf(sheet) },
    ...{ left, later, zip: true },
  };
  return {
    title: filled(words.title, { property: title }),
    at,
    sheet,
    tokens,
    blocks: blocksOf(sheet, words, about),
    files,
    missing: missing.map(({ name }) => name),
  };
}

/** The sheet of a property or a client. Throws Problem where nothing is known that could be placed. */
export async function showSheet(
  desk: Desk,
  whom: SheetFor,
  language: SheetLanguage = 'en',
): Promise<PlacementSheet> {
  const subject = await subjectOf(whom);
  const gathered = await gatherSheet(desk, subject, language, { isOpenOnly: whom.open === true });
  const { title, at, sheet, blocks, files, missing } = gathered;
  if (gathered.tokens.length === 0) throw new Problem('nothing-to-place', { title: subject.title });
  return {
    title,
    language,
    at,
    open: sheet.open,
    done: sheet.done,
    markdown: asMarkdown(blocks),
    text: asText(blocks),
    html: asHtml(blocks, language),
    files,
    missing: [...missing],
  };
}

interface WithoutToken {
  readonly enrolmentId: string;
  readonly engine: string;
  /** As the enrolment is written. */
  readonly name: string;
}

/** Enrolments of which no token is known yet. */
async function withoutToken(
  { store }: Desk,
  properties: readonly PropertyRow[],
): Promise<readonly WithoutToken[]> {
  const rows = await store.select<Nameable & { readonly id: string }>(
    `SELECT e.id, ${NAME_COLUMNS} FROM enrolments e JOIN properties p ON p.id = e.propertyId
      WHERE e.endedAt IS NULL AND e.propertyId IN (SELECT value FROM json_each($ids))
        AND NOT EXISTS (SELECT 1 FROM tokens t WHERE t.enrolmentId = e.id AND t.replacedAt IS NULL)
      ORDER BY p.handle, e.engine, e.id`,
    { ids: JSON.stringify(properties.map(({ id }) => id)) },
  );
  return rows.map((row) => ({ enrolmentId: row.id, engine: row.engine, name: enrolmentName(row) }));
}

/** The SHA-256 of each file that goes with a sheet, by its path. */
export function sumsOf({ places, others }: Sheet): Map<string, string> {
  const sums = new Map<string, string>();
  for (const { tasks } of [...places, ...others])
    for (const { thing } of tasks)
      if (thing.kind === 'file') sums.set(thing.path, checksum(Buffer.from(thing.content)));
  return sums;
}
