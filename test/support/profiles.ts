import { parse } from 'yaml';
import { readFileSync } from 'node:fs';
import { readProfile } from '../../src/core/profile/schema.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';

function load(file: string): EngineProfile {
  const read = readProfile(parse(readFileSync(new URL(`../../engines/${file}`, import.meta.url), 'utf8')));
  if ('faults' in read) throw new Error(read.faults.join('\n'));
  return read.profile;
}

export const house = load('house.yaml');
export const veldrane = load('rehearsal/veldrane.yaml');
