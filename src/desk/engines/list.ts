import { rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Account, Engine } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { isBorrowing, methodsFor, type Profile } from '../../core/profile/profile.js';
import { rulesInWords } from '../../core/profile/rules-in-words.js';
import { ProfileFault, requireFitting } from '../../engines/profiles.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import { read } from '../../readers/readers.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { plainFault } from '../engine-book/book.js';
import { ensureAccounts, listAccounts } from './accounts.js';
import { note } from '../context/journal.js';
import type { Actor, Desk } from '../context/desk.js';
import { viewFact } from '../facts/wanted-fact.js';

function view(desk: Desk, profile: Profile, accounts: readonly Account[]): Engine {
  const titleOf = (id: string) => desk.book.titleOf(id);
  const named = {
    id: profile.id,
    title: profile.title,
    audience: profile.audience === 'everyone' ? ('everyone' as const) : [...profile.audience],
    share: { ...profile.share },
    worked: profile.worked.how,
    rules: rulesInWords(profile, titleOf),
  };
  if (isBorrowing(profile)) {
    const { from } = profile.worked;
    return {
      ...named,
      from: { id: from, title: titleOf(from) },
      reaches: [],
      methods: [],
      facts: [],
      takesSitemaps: false,
      accounts: [],
    };
  }
  return {
    ...named,
    from: null,
    reaches: [...profile.reaches],
    methods: [...new Set(profile.reaches.flatMap((reach) => methodsFor(profile, reach)))],
    facts: profile.facts.map(viewFact),
    takesSitemaps: profile.sitemaps !== undefined,
    accounts: accounts.filter(({ engine }) => engine === profile.id),
  };
}

export async function listEngines(desk: Desk): Promise<{ items: Engine[] }> {
  const { items } = await listAccounts(desk);
  return { items: [...desk.book.all().values()].map((profile) => view(desk, profile, items)) };
}

/**
 * Adds an engine by its profile, and keeps the profile with the others. Throws Problem `bad-profile` that names the
 * file and every wrong key.
 */
export async function addEngine(
  desk: Desk,
  actor: Actor,
  input: { profile: string; file?: string; replace?: boolean },
): Promise<Engine> {
  const { folder } = desk.book;
  if (folder === null) throw new Problem('no-profile-folder');
  const profile = await readGiven(desk, input);
  const file = join(folder, `${profile.id}.yaml`);
  await writeFile(`${file}.new`, input.profile);
  await rename(`${file}.new`, file);
  desk.book.add(profile);
  await ensureAccounts(desk);
  await desk.store.write((transaction) =>
    note(desk, actor, transaction, {
      kind: 'engine.added',
      says: `The engine ${profile.title} was ${input.replace === true ? 'given another profile' : 'added by its profile'}.`,
    }),
  );
  return view(desk, profile, (await listAccounts(desk)).items);
}

async function readGiven(
  desk: Desk,
  { profile: text, file = 'the profile', replace }: { profile: string; file?: string; replace?: boolean },
): Promise<Profile> {
  try {
    const profile = await profileOf(file, text);
    const others = new Map(desk.book.all());
    const before = others.get(profile.id);
    if (profile.worked.how === 'house' || before?.worked.how === 'house')
      throw new ProfileFault([`${file}: worked.how: the house comes with the product; there is only one`]);
    if (replace === true && before) {
      await requireReplaceable(file, before, profile);
      others.delete(profile.id);
    }
    requireFitting(file, profile, others);
    const { worked } = profile;
    if (worked.how === 'link' && worked.keyFrom !== undefined && !desk.book.mayName(worked.keyFrom))
      throw new ProfileFault([
        `${file}: worked.keyFrom: ${worked.keyFrom} may not be named as a key; the setting keyVariables of the service says which may`,
      ]);
    if (worked.how === 'link' && !desk.book.maySpeakPlainly(worked.base))
      throw new ProfileFault([`${file}: worked.base: ${plainFault(worked.base)}`]);
    return profile;
  } catch (error) {
    if (error instanceof ProfileFault)
      throw new Problem(
        'bad-profile',
        { says: error.message },
        {
          faults: error.faults.map((says) => ({ at: file, says })),
        },
      );
    throw error;
  }
}

/** Reads a profile that a person sent, where it can take no more than is allowed. Throws ProfileFault. */
async function profileOf(file: string, text: string): Promise<Profile> {
  try {
    const made = await read('readProfileText', file, text);
    if ('faults' in made) throw new ProfileFault(made.faults);
    return made.profile;
  } catch (error) {
    if (error instanceof Overtaxed)
      throw new ProfileFault([`${file}: it took too long to read; a profile is a page of rules`]);
    throw error;
  }
}

/** Enrolments that are there must still be possible with the new rules. */
async function requireReplaceable(file: string, before: Profile, after: Profile): Promise<void> {
  const reaches = await EnrolmentRow.findAll({
    where: { engine: before.id, endedAt: null },
    attributes: ['reach'],
    group: ['reach'],
  });
  if (reaches.length === 0) return;
  if (isBorrowing(after))
    throw new ProfileFault([
      `${file}: worked.how: properties are enrolled with ${before.title}; end that first`,
    ]);
  const gone = reaches.find(({ reach }) => !after.reaches.includes(reach));
  if (gone)
    throw new ProfileFault([`${file}: reaches: properties are enrolled by ${gone.reach}; end that first`]);
}
