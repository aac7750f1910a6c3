import { covers, scopeForPeople, scopeText, type Scope } from '../address/reach.js';
import { addressText, type WebAddress } from '../address/web-address.js';
import type { Badge } from '../badge/standing.js';
import { finding } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import { DAY } from '../time/duration.js';
import { writtenDay } from '../time/time-formats.js';
import { isUsed, type VariantRole } from './roles.js';

/** An enrolment, as far as what it covers goes. */
export interface Covering {
  /** `ferries@veldrane:name` */
  readonly name: string;
  readonly target: Scope;
  readonly badge: Badge;
}

/** What the enrolments at one engine cover. */
export interface EngineCover {
  /** The enrolments that cover each variant, by the variant's address. */
  readonly over: ReadonlyMap<string, readonly Covering[]>;
  /** Variants that visitors use and no enrolment covers. */
  readonly uncovered: readonly string[];
  /** Variants that visitors use and no held badge covers, where the engine holds some badge; it is an ownership of the wrong place. */
  readonly missed: readonly string[];
  readonly findings: readonly Finding[];
}

/** Badges that the engine honours now. */
export function isHeld({ badge }: Pick<Covering, 'badge'>): boolean {
  return badge === 'held' || badge === 'slipping';
}

/**
 * What the enrolments at an engine cover of a property's variants, what they miss, and what is wasted: a `name` covers
 * all hosts and schemes under it, an `address` only its own prefix.
 * @param door the front door; null where there is none
 * @param wanted the variants that should be covered; those that visitors use, unless the engine wants less
 * @param above what is held for other properties and is over this one, as for the site above a folder
 */
export function coverOf(
  engine: string,
  variants: readonly VariantRole[],
  door: WebAddress | null,
  enrolments: readonly Covering[],
  wanted: readonly string[] = variants.filter(isUsed).map(({ address }) => address),
  above: readonly Covering[] = [],
): EngineCover {
  const all = [...enrolments, ...above];
  const over = new Map(
    variants.map(({ address }) => [address, all.filter(({ target }) => covers(target, address))]),
  );
  const uncovered = enrolments.length === 0 ? [] : wanted.filter((one) => over.get(one)?.length === 0);
  const missed = enrolments.some(isHeld) ? wanted.filter((one) => over.get(one)?.some(isHeld) !== true) : [];
  const held = listed(enrolments.filter(isHeld));
  return {
    over,
    uncovered,
    missed,
    findings: [
      ...left('variants.held-misses', missed, { engine, held }),
      ...left(
        'variants.uncovered',
        uncovered.filter((url) => !missed.includes(url)),
        { engine, held: listed(enrolments) },
      ),
      ...enrolments.flatMap((one) => wasted(engine, one, variants, door)),
      ...overlaps(enrolments, variants),
    ],
  };
}

/** One finding for all that is left out at an engine. */
function left(
  code: 'variants.held-misses' | 'variants.uncovered',
  urls: readonly string[],
  values: { readonly engine: string; readonly held: string },
): Finding[] {
  return urls[0] === undefined ? [] : [finding(code, { url: urls[0], urls: urls.join(' and '), ...values })];
}

function listed(enrolments: readonly Covering[]): string {
  return enrolments.map(({ target }) => scopeForPeople(target)).join(', ') || 'nothing';
}

/** An enrolment for a variant that only leads away, or where nothing answers. */
function wasted(
  engine: string,
  enrolment: Covering,
  variants: readonly VariantRole[],
  door: WebAddress | null,
): Finding[] {
  const { name, target } = enrolment;
  if (target.reach === 'name' || door === null) return [];
  const at = variants.find(({ address }) => address === addressText(target.address));
  const values = { enrolment: name, engine, url: scopeText(target), door: addressText(door) };
  if (at?.role === 'leads' || at?.role === 'elsewhere')
    return [
      finding('variants.enrolled-on-redirect', { ...values, rest: restFor(enrolment, at.since, engine) }),
    ];
  return at?.role === 'dark' && values.url !== values.door
    ? [finding('variants.enrolled-in-the-dark', values)]
    : [];
}

/**
 * For how long a badge is kept for an address that only redirects by now. For about a year after a move engines still list addresses of
 * before, follow their redirects again, and tell what is wrong with them to nobody but the holder.
 */
const KEPT_AFTER_MOVE = 365 * DAY;

/** What becomes of an enrolment for an address that redirects: one that is held stays as long as the redirect needs it. */
function restFor({ name, badge }: Covering, since: string | undefined, engine: string): string {
  if (badge === 'lost') return `${name} was withdrawn, and may be ended.`;
  const until = since === undefined ? null : writtenDay(new Date(Date.parse(since) + KEPT_AFTER_MOVE));
  const kept = until === null ? 'for a year after the move at least' : `until ${until} at least`;
  return `Keep ${name} and its token ${kept}: until then ${engine} still lists addresses of before, and follows their redirects.`;
}

/** An enrolment that another one of the same engine makes superfluous. Of two alike the later one is told. */
function overlaps(enrolments: readonly Covering[], variants: readonly VariantRole[]): Finding[] {
  return enrolments.flatMap((one, at) => {
    const own = variants.filter(({ address }) => covers(one.target, address));
    const by = enrolments.find((other, otherAt) => {
      if (other === one || (isHeld(one) && !isHeld(other))) return false;
      const isWithin = own.every(({ address }) => covers(other.target, address));
      const isAlike = variants.filter(({ address }) => covers(other.target, address)).length === own.length;
      return own.length > 0 && isWithin && (!isAlike || otherAt < at);
    });
    return by
      ? [finding('variants.overlap', { url: scopeText(one.target), enrolment: one.name, by: by.name })]
      : [];
  });
}
