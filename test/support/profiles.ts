import { parse } from 'yaml';
import { readFileSync } from 'node:fs';
import { readProfile } from '../../src/core/profile/schema.js';
import { isBorrowing, type EngineProfile, type Profile } from '../../src/core/profile/profile.js';

function load(file: string): Profile {
  const read = readProfile(parse(readFileSync(new URL(`../../engines/${file}`, import.meta.url), 'utf8')));
  if ('faults' in read) throw new Error(`${file}: ${read.faults.join('\n')}`);
  return read.profile;
}

function own(file: string): EngineProfile {
  const profile = load(file);
  if (isBorrowing(profile)) throw new Error(`${file} shows another engine's results`);
  return profile;
}

export const house = own('house.yaml');
export const veldrane = own('rehearsal/veldrane.yaml');
export const ostrime = own('rehearsal/ostrime.yaml');
export const sundrel = own('rehearsal/sundrel.yaml');
export const brindle = own('rehearsal/brindle.yaml');
export const kelpwise = load('rehearsal/kelpwise.yaml');
