import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from 'yaml';
import type { EngineProfile } from '../core/profile/profile.js';
import { readProfile } from '../core/profile/schema.js';

/** Profiles that come with the product; the house is the only one. */
export const OWN_PROFILES = fileURLToPath(new URL('../../engines/', import.meta.url));

export class ProfileFault extends Error {}

/** Reads one profile file. Throws ProfileFault that names the file and every wrong key. */
export async function readProfileFile(file: string): Promise<EngineProfile> {
  let data: unknown;
  try {
    data = parse(await readFile(file, 'utf8'));
  } catch (error) {
    throw new ProfileFault(`${file}: ${error instanceof Error ? error.message : String(error)}`);
  }
  const read = readProfile(data);
  if ('faults' in read) throw new ProfileFault(read.faults.map((fault) => `${file}: ${fault}`).join('\n'));
  return read.profile;
}

/**
 * Reads every `*.yaml` of the folders, by id.
 * @throws ProfileFault for a faulty file, or for two files with one id
 */
export async function readProfiles(folders: readonly string[]): Promise<Map<string, EngineProfile>> {
  const profiles = new Map<string, EngineProfile>();
  for (const folder of folders) {
    for (const name of (await readdir(folder)).filter((one) => one.endsWith('.yaml')).sort()) {
      const file = join(folder, name);
      const profile = await readProfileFile(file);
      if (profiles.has(profile.id))
        throw new ProfileFault(`${file}: the id “${profile.id}” is taken by another file`);
      profiles.set(profile.id, profile);
    }
  }
  return profiles;
}
