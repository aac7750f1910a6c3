import { registrableOf } from '../address/host.js';
import { addressText, type WebAddress } from '../address/web-address.js';
import type { Finding } from '../findings/finding.js';
import { finding } from '../findings/catalogue.js';
import { BEYOND } from '../html/tree.js';
import { frontDoorOf, type FrontDoor } from './front-door.js';
import type { VariantSeen } from './follow.js';
import { judgeKeepingOutOf, type EngineAgent, type RobotsSeen } from './keeping-out.js';
import { judgePages } from './judge-pages.js';
import { judgeCertificates, judgeWays } from './judge-ways.js';
import { roleOf, type VariantJudged } from './roles.js';
import { judgeSpellings, type SpellingSeen } from './spelling.js';

/** Everything that was seen of a property in one observation. */
export interface Observation {
  readonly takenOn: WebAddress;
  /** The front door so far; null at a first look. */
  readonly former: WebAddress | null;
  readonly seen: readonly VariantSeen[];
  readonly spellings: readonly SpellingSeen[];
  /** The robots.txt at the front door; null where there is no front door. */
  readonly robots: RobotsSeen | null;
  /** Sitemaps that are on record or that the robots.txt names. */
  readonly sitemaps: readonly string[];
  readonly agents: readonly EngineAgent[];
  readonly now: Date;
}

export interface VariantsJudged {
  readonly door: FrontDoor;
  readonly variants: readonly VariantJudged[];
  readonly findings: readonly Finding[];
}

/** Judges the variants of a property: its front door, the role of each, and what is wrong with them. */
export function judgeVariants(observation: Observation): VariantsJudged {
  const { takenOn, former, seen } = observation;
  const door = frontDoorOf(takenOn, former, seen);
  const address = door.kind === 'found' ? door.address : null;
  const variants = seen.map((one) => roleOf(one, address, takenOn.path));
  return {
    door,
    variants,
    findings: [...overall(observation, door, variants), ...each(observation, door, variants)],
  };
}

/** What holds of the property as a whole: it makes all other work void, so it comes first. */
function overall(
  { takenOn, agents, robots }: Observation,
  door: FrontDoor,
  variants: readonly VariantJudged[],
): Finding[] {
  const own = addressText(takenOn);
  switch (door.kind) {
    case 'dark': {
      const detail = variants.find(({ address }) => address === own)?.says ?? 'nothing answers';
      return [finding('variants.all-dark', { url: own, detail })];
    }
    case 'elsewhere':
      return [finding('variants.moved-away', { url: own, to: door.url })];
    case 'found': {
      const url = addressText(door.address);
      const at = variants.find((one) => one.address === url);
      if (!at) return [];
      if (at.role === 'dark' || at.role === 'closed' || at.role === 'broken-certificate')
        return [finding('variants.door-dark', { url, detail: at.says })];
      const frame = at.seen.page?.frame;
      return [
        ...(at.seen.page?.beyond == null
          ? []
          : [finding('reach.beyond-reading', { url, what: BEYOND[at.seen.page.beyond] })]),
        ...judgeKeepingOutOf(url, at.seen.page, at.seen.robotsHeader, robots, agents),
        ...(frame == null ? [] : [finding('variants.only-a-frame', { url, frame })]),
      ];
    }
  }
}

function each(observation: Observation, door: FrontDoor, variants: readonly VariantJudged[]): Finding[] {
  const { takenOn, spellings, sitemaps, now } = observation;
  if (door.kind !== 'found') return judgeCertificates(variants, null, now);
  const { address } = door;
  const at = variants.find((one) => one.address === addressText(address));
  return [
    ...judgeWays(variants, address, takenOn),
    ...judgeCertificates(variants, address, now),
    ...judgePages(variants, address),
    ...judgeSitemaps(address, sitemaps),
    ...judgeSpellings(address, spellings, at?.seen.page?.canonical ?? null),
  ];
}

/** A sitemap at another variant speaks of addresses that only lead to the front door. One on another domain is no matter of variants. */
function judgeSitemaps(door: WebAddress, sitemaps: readonly string[]): Finding[] {
  const url = addressText(door);
  return sitemaps.flatMap((sitemap) => {
    if (!URL.canParse(sitemap)) return [];
    const { hostname, origin } = new URL(sitemap);
    if (registrableOf(hostname) !== registrableOf(door.host) || origin === new URL(url).origin) return [];
    return [finding('variants.sitemap-elsewhere', { url, sitemap })];
  });
}
