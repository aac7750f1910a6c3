import type { PlacementSheet } from '../../api/documents.js';
import { writtenMinute } from '../../api/written.js';
import { Problem } from '../../api/problems.js';
import { blocksOf, filesWith, type Block } from '../../core/sheet/blocks.js';
import { filled, type SheetLanguage } from '../../core/sheet/sentences.js';
import { onlyOpen, sheetOf, type Sheet, type SheetToken } from '../../core/sheet/sheet.js';
import { asHtml } from '../../core/sheet/page.js';
import { asMarkdown, asText } from '../../core/sheet/written.js';
import type { OwnWords } from '../../core/wording/wording.js';
import { nowText, type Desk } from '../context/desk.js';
import { sumOf } from '../context/sums.js';
import { subjectOf, type SheetFor, type Subject } from './subject.js';
import { tokensOf } from './tokens.js';
import { wordsIn } from '../wording/own-words.js';

/** A sheet with what it is written of. */
export interface GatheredSheet {
  readonly title: string;
  readonly at: string;
  readonly sheet: Sheet;
  readonly tokens: readonly SheetToken[];
  readonly blocks: readonly Block[];
  readonly files: PlacementSheet['files'];
}

/**
 * Gathers the sheet of some properties, as it stands now.
 * @param tried sentences that are only tried
 * @param isOpenOnly without what stands
 */
export async function gatherSheet(
  desk: Desk,
  { title, properties, left }: Pick<Subject, 'title' | 'properties' | 'left'>,
  language: SheetLanguage,
  tried: readonly OwnWords[] = [],
  isOpenOnly = false,
): Promise<GatheredSheet> {
  const { sheet: words } = await wordsIn(desk, language, tried);
  const tokens = await tokensOf(desk, properties, language, words);
  const whole = sheetOf(tokens);
  const sheet = isOpenOnly ? onlyOpen(whole) : whole;
  const at = nowText(desk);
  const files = filesWith(sheet).map(({ path, content }) => ({
    path,
    content,
    sha256: sumOf(Buffer.from(content)),
  }));
  const about = { property: title, at: `${writtenMinute(at)} UTC`, sums: sumsOf(sheet), left, zip: true };
  return {
    title: filled(words.title, { property: title }),
    at,
    sheet,
    tokens,
    blocks: blocksOf(sheet, words, about),
    files,
  };
}

/** The sheet of a property or a client. Throws Problem where nothing is known that could be placed. */
export async function showSheet(
  desk: Desk,
  whom: SheetFor,
  language: SheetLanguage = 'en',
): Promise<PlacementSheet> {
  const subject = await subjectOf(whom);
  const gathered = await gatherSheet(desk, subject, language, [], whom.open === true);
  const { title, at, sheet, blocks, files } = gathered;
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
  };
}

/** The SHA-256 of each file that goes with a sheet, by its path. */
export function sumsOf({ places, others }: Sheet): Map<string, string> {
  const sums = new Map<string, string>();
  for (const { tasks } of [...places, ...others])
    for (const { thing } of tasks)
      if (thing.kind === 'file') sums.set(thing.path, sumOf(Buffer.from(thing.content)));
  return sums;
}
