import { LineCounter, parseDocument, type ErrorCode } from 'yaml';
import type { Profile } from './profile.js';
import { readProfile } from './schema.js';

const MOST_BYTES = 100_000;
/** Faults that are told; what is wrong in a thousand places is wrong at the first. */
const MOST_FAULTS = 20;
/** Letters of one of them: a key may be as long as the file. */
const LONGEST_FAULT = 400;

/** What is wrong with a text that is no YAML, by the reader's code for it. */
const NOT_YAML: Readonly<Partial<Record<ErrorCode, string>>> = {
  BAD_INDENT: 'the line is not indented as its neighbours are',
  TAB_AS_INDENT: 'tabs do not indent; blanks do',
  DUPLICATE_KEY: 'the key stands there twice',
  MISSING_CHAR: 'a closing sign is missing, or a colon',
  MULTILINE_IMPLICIT_KEY: 'a key goes on over the end of its line, as if a closing sign were missing',
  BLOCK_AS_IMPLICIT_KEY: 'a list or keys stand where one value belongs',
  UNEXPECTED_TOKEN: 'something stands here that does not belong here',
};

export type ProfileRead = { readonly profile: Profile } | { readonly faults: readonly string[] };

/**
 * Reads a profile's text (YAML 1.2).
 * @param file what to call it in faults
 * @returns the profile, or the first faults, each naming the file and the key
 */
export function readProfileText(file: string, text: string): ProfileRead {
  if (text.length > MOST_BYTES) return { faults: [`${file}: expected a profile of at most 100 kB`] };
  const lines = new LineCounter();
  // No aliases: a profile needs none, and they can be made to expand without end.
  const document = parseDocument(text, { lineCounter: lines, maxAliasCount: 0 } as object);
  // What comes after the first thing that is no YAML follows from it.
  const [broken] = document.errors;
  if (broken) {
    const { line, col } = lines.linePos(broken.pos[0]);
    const is = NOT_YAML[broken.code] ?? 'this is no YAML';
    return { faults: [`${file}: line ${String(line)}, column ${String(col)}: ${is}.`] };
  }
  try {
    const read = readProfile(document.toJS({ maxAliasCount: 0 }));
    return 'profile' in read ? read : { faults: told(read.faults.map((fault) => `${file}: ${fault}`)) };
  } catch (error) {
    return { faults: told([`${file}: ${error instanceof Error ? error.message : String(error)}`]) };
  }
}

function told(faults: readonly string[]): string[] {
  const first = faults
    .slice(0, MOST_FAULTS)
    .map((fault) => (fault.length > LONGEST_FAULT ? `${fault.slice(0, LONGEST_FAULT)}…` : fault));
  const rest = faults.length - first.length;
  return rest > 0 ? [...first, `and ${String(rest)} more faults`] : first;
}
