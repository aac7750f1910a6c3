import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { LineCounter, parseDocument, type ErrorCode } from 'yaml';
import { isBorrowing, type Profile } from '../core/profile/profile.js';
import { readProfile } from '../core/profile/schema.js';

/** Profiles that come with the product; the house is the only one. */
export const OWN_PROFILES = fileURLToPath(new URL('../../engines/', import.meta.url));

/** A profile that cannot be used, told by file and key. */
export class ProfileFault extends Error {
  /** @param faults one line each */
  constructor(readonly faults: readonly string[]) {
    super(faults.join('\n'));
  }
}

const MOST_BYTES = 100_000;

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

/**
 * Reads a profile's text. Throws ProfileFault that names the file and every wrong key.
 * @param file what to call it in errors
 */
export function parseProfile(file: string, text: string): Profile {
  if (text.length > MOST_BYTES) throw new ProfileFault([`${file}: expected a profile of at most 100 kB`]);
  const lines = new LineCounter();
  // No aliases: a profile needs none, and they can be made to expand without end.
  const document = parseDocument(text, { lineCounter: lines, maxAliasCount: 0 } as object);
  // What comes after the first thing that is no YAML follows from it.
  const [broken] = document.errors;
  if (broken) {
    const { line, col } = lines.linePos(broken.pos[0]);
    throw new ProfileFault([
      `${file}: line ${String(line)}, column ${String(col)}: ${NOT_YAML[broken.code] ?? 'this is no YAML'}.`,
    ]);
  }
  let data: unknown;
  try {
    data = document.toJS({ maxAliasCount: 0 });
  } catch (error) {
    throw new ProfileFault([`${file}: ${error instanceof Error ? error.message : String(error)}`]);
  }
  const read = readProfile(data);
  if ('faults' in read) throw new ProfileFault(read.faults.map((fault) => `${file}: ${fault}`));
  return read.profile;
}

/**
 * Refuses a profile that does not go with the others: an id that is taken, or results borrowed from an engine that is
 * not there or borrows itself.
 */
export function requireFitting(file: string, profile: Profile, others: ReadonlyMap<string, Profile>): void {
  if (others.has(profile.id))
    throw new ProfileFault([`${file}: id: “${profile.id}” is taken by another profile`]);
  if (!isBorrowing(profile)) return;
  const from = others.get(profile.worked.from);
  if (!from) throw new ProfileFault([`${file}: worked.from: there is no engine “${profile.worked.from}”`]);
  if (isBorrowing(from))
    throw new ProfileFault([`${file}: worked.from: “${from.id}” shows another engine’s results itself`]);
}

/**
 * Reads every `*.yaml` of the folders, by id.
 * @throws ProfileFault for a faulty file, or for two files with one id
 */
export async function readProfiles(folders: readonly string[]): Promise<Map<string, Profile>> {
  const read: { file: string; profile: Profile }[] = [];
  for (const folder of folders) {
    for (const name of (await readdir(folder)).filter((one) => one.endsWith('.yaml')).sort()) {
      const file = join(folder, name);
      read.push({ file, profile: parseProfile(file, await readFile(file, 'utf8')) });
    }
  }
  const profiles = new Map<string, Profile>();
  // Those that show another's results come last, whatever their files are called.
  for (const { file, profile } of [...read.filter(isOwn), ...read.filter((one) => !isOwn(one))]) {
    requireFitting(file, profile, profiles);
    profiles.set(profile.id, profile);
  }
  return new Map(read.map(({ profile }) => [profile.id, profile]));
}

function isOwn({ profile }: { profile: Profile }): boolean {
  return !isBorrowing(profile);
}
