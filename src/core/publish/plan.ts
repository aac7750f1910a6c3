/** The open protocols by which something is published: into a folder, over SSH, FTP under TLS (RFC 4217), WebDAV (RFC 4918), into a zone (RFC 2136). */
export const TARGET_PROTOCOLS = ['folder', 'sftp', 'ftps', 'webdav', 'dns'] as const;
export type TargetProtocol = (typeof TARGET_PROTOCOLS)[number];

/** What is done about one thing at one target. */
export const PUBLISH_ACTS = ['put', 'replace', 'leave', 'refuse', 'take-away'] as const;
export type PublishAct = (typeof PUBLISH_ACTS)[number];

/** One thing that is to stand at a place: a file by its path from the web root, or a TXT record by its name. */
export interface Wanted {
  readonly name: string;
  /** What it is for, for the one who reads the plan. */
  readonly why: string;
  /** By which it is told from another: the SHA-256 of a file, the value of a record. */
  readonly sum: string;
  /** What it was made from and may take the place of, although somebody else has put it there. */
  readonly over?: string;
  /** Of a made sitemap: a file that stands for itself or is named by the index, or the index. */
  readonly made?: 'part' | 'index';
  /** Whether it counts only where nothing else stands beside it. */
  readonly isAlone?: boolean;
  /** The host that a wildcard record alone gives its addresses, and that would lose them by anything at or below it (RFC 4592 §2.2.1). */
  readonly unhostsOf?: string;
}

/** What stands there now under a name, as far as it matters. */
export interface Standing {
  readonly name: string;
  readonly sums: readonly string[];
  /** Why it cannot be read, in a sentence; it is not known then what stands there. */
  readonly fault?: string;
}

/** What was published there before, and is still held to be there. */
export interface Carried {
  readonly name: string;
  readonly sum: string;
}

export interface PublishStep {
  readonly act: PublishAct;
  readonly name: string;
  readonly sum: string;
  readonly says: string;
  /** Whether it is not known what stands there, since it cannot be read. */
  readonly isUnreadable?: true;
  readonly made?: 'part' | 'index';
}

/**
 * What has to be done at one target. What somebody else has put there is never overwritten: a file that is not as we published it is refused,
 * while records of others stand beside ours. What we published and nobody needs any more may be removed, if it is still as we left it.
 * What somebody may still hold by is neither overwritten nor removed, whoever published it.
 * @param isMany whether several may stand under one name, as TXT records do
 * @param holding tokens by which somebody holds a badge, or may: of other enrolments, or old ones that the engine still goes by
 */
export function planAt(given: {
  readonly wanted: readonly Wanted[];
  readonly standing: readonly Standing[];
  readonly carried: readonly Carried[];
  readonly isMany: boolean;
  readonly holding?: readonly Carried[];
}): PublishStep[] {
  const { wanted, standing, carried, isMany, holding = [] } = given;
  const holds = (name: string, sum: string) => holding.some((one) => one.name === name && one.sum === sum);
  const there = new Map(standing.map((one) => [one.name, one.sums]));
  const ours = (name: string) => carried.filter((one) => one.name === name).map(({ sum }) => sum);
  const stepFor = ({ name, why, sum, over, isAlone = false, unhostsOf }: Wanted): PublishStep => {
    const sums = there.get(name) ?? [];
    const fault = standing.find((one) => one.name === name)?.fault;
    if (fault !== undefined)
      return { act: 'refuse', name, sum, isUnreadable: true, says: `${why}; left as it is. ${fault}` };
    if (sums.includes(sum)) return { act: 'leave', name, sum, says: `${why}; it stands there already.` };
    if (unhostsOf !== undefined && sums.length === 0)
      return {
        act: 'refuse',
        name,
        sum,
        says: `${why}; ${unhostsOf} has its addresses from a wildcard record alone, and would lose them.`,
      };
    if (isAlone && sums.some((one) => !ours(name).includes(one)))
      return {
        act: 'refuse',
        name,
        sum,
        says: `${why}; another’s stands there, and neither would count beside the other.`,
      };
    if (sums.length === 0 || isMany) return { act: 'put', name, sum, says: `${why}; it is not there yet.` };
    if (over !== undefined && sums.includes(over))
      return {
        act: 'replace',
        name,
        sum,
        says: `${why}; it replaces the one that it was made from.`,
      };
    if (sums.some((one) => holds(name, one)))
      return {
        act: 'refuse',
        name,
        sum,
        says: `${why}; what stands there still proves an ownership, and is left until the engine has confirmed another.`,
      };
    return sums.some((one) => ours(name).includes(one))
      ? { act: 'replace', name, sum, says: `${why}; what we published there before is older.` }
      : {
          act: 'refuse',
          name,
          sum,
          says: `${why}; something that we did not publish stands there, and is left as it is.`,
        };
  };
  const steps = wanted.map((one) => ({ ...stepFor(one), ...(one.made && { made: one.made }) }));
  const isWanted = (one: Carried) =>
    wanted.some(({ name, sum }) => name === one.name && (isMany ? sum === one.sum : true));
  const left = carried
    .filter((one) => !isWanted(one) && there.get(one.name)?.includes(one.sum) === true)
    .map(({ name, sum }): PublishStep =>
      holds(name, sum)
        ? { act: 'leave', name, sum, says: 'We published it, and somebody still relies on it.' }
        : { act: 'take-away', name, sum, says: 'No longer needed; we published it.' },
    );
  return [...steps, ...left];
}

/**
 * Of the steps of a plan those that only put back what has gone: things that we published there as they are wanted now. What nobody
 * has published yet is for a person to begin with.
 */
export function putBackOf(steps: readonly PublishStep[], carried: readonly Carried[]): PublishStep[] {
  return steps.filter(
    ({ act, name, sum }) => act === 'put' && carried.some((one) => one.name === name && one.sum === sum),
  );
}

/** An index that named files which do not stand there would be worse than the one before. */
const INCOMPLETE = 'The index is left as it is, since not all of its files could be put there.';
const STILL_NAMED = 'It is left there, since the sitemap as it stands may still name it.';

/**
 * Why a step has to wait although the server might do it: a sitemap stays whole, as it was before or as it is made now.
 * @param failed steps that could not be done so far
 * @returns null for one that may be done
 */
export function heldBack(
  step: PublishStep,
  steps: readonly PublishStep[],
  failed: { readonly has: (step: PublishStep) => boolean },
): string | null {
  const isLacking = steps.some(
    (one) => one.made && one !== step && (one.act === 'refuse' || failed.has(one)),
  );
  if (!isLacking) return null;
  if (step.act === 'take-away') return STILL_NAMED;
  return step.made === 'index' && (step.act === 'put' || step.act === 'replace') ? INCOMPLETE : null;
}
