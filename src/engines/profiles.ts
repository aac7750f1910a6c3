import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { isBorrowing, type Profile } from '../core/profile/profile.js';
import { readProfileText } from '../core/profile/profile-text.js';
import { Explained } from '../core/input/explained-error.js';

/** Profiles that come with the product; the house is the only one. */
export const OWN_PROFILES = fileURLToPath(new URL('../../engines/', import.meta.url));

/** A profile that cannot be used, told by file and key. */
export class ProfileFault extends Explained {
  /** @param faults one line each */
  constructor(readonly faults: readonly string[]) {
    super(faults.join('\n'));
  }
}

/** Reads the text of a profile that the operator has put there. Throws ProfileFault that names the file and its wrong keys. */
function parseProfile(file: string, text: string): Profile {
  const read = readProfileText(file, text);
  if ('faults' in read) throw new ProfileFault(read.faults);
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
