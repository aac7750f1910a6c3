import { hostsForPeople } from '../address/host.js';
import {
  confirmedSince,
  enrolmentLost,
  hindranceOf,
  lost,
  outOfReach,
  slipping,
  tokenEnds,
  TOKEN_ENDS_WITHIN,
} from './badge-alerts.js';
import type { AlertFacts, AlertKind, AlertNow } from './alert.js';
import { isOfFile, sitemapAlerts } from './sitemap-alerts.js';
import { away, certificateEnds, moved, MOVE_IS_NEWS, nameEnds, NAME_ENDS_WITHIN } from './website-alerts.js';

/** What people are to be told of a property as it is now, the worst first. */
export function alertsOf(facts: AlertFacts): AlertNow[] {
  return [
    ...lost(facts),
    ...slipping(facts),
    ...enrolmentLost(facts),
    ...moved(facts),
    ...away(facts),
    ...outOfReach(facts),
    ...sitemapAlerts(facts),
    ...nameEnds(facts),
    ...certificateEnds(facts),
    ...tokenEnds(facts),
  ].map((one) => ({ ...one, says: hostsForPeople(one.says) }));
}

/** Cases of which nobody can tell at present whether they go on, since what would show it cannot be reached. */
export function unclearOf({
  doorUnseen,
  sitemaps: all,
  enrolments,
  cutOff,
}: AlertFacts): Pick<AlertNow, 'kind' | 'cause'>[] {
  const at = (kinds: readonly AlertKind[], cause: string) => kinds.map((kind) => ({ kind, cause }));
  return [
    ...(doorUnseen ? at(['stays-away', 'certificate'], 'site') : []),
    ...all.flatMap(({ url, unreachable }) => [
      ...(unreachable ? at(['sitemap-fallen', 'sitemap-still'], url) : []),
      ...(unreachable && (!isOfFile(unreachable, enrolments) || isUnconfirmed(unreachable, cutOff))
        ? at(['sitemap-unreachable'], url)
        : []),
    ]),
    ...enrolments.flatMap((one) => {
      const hindered = hindranceOf(one);
      return hindered && one.look && isUnconfirmed({ since: hindered.since, at: one.look.at }, cutOff)
        ? at(['out-of-reach'], hindered.by)
        : [];
    }),
  ];
}

/** What fails, but may do so for want of our own network: that ends no case that was open before. */
function isUnconfirmed({ since, at }: { since: Date; at: Date }, cutOff: AlertFacts['cutOff']): boolean {
  return confirmedSince(since, at, cutOff) === null;
}

/** When cases of a property may change by time alone; null where none does. */
export function alertsTurnAt(facts: AlertFacts): Date | null {
  const times = [
    facts.move ? facts.move.at.getTime() + MOVE_IS_NEWS : 0,
    facts.nameEnds ? facts.nameEnds.at.getTime() - NAME_ENDS_WITHIN : 0,
    facts.nameEnds ? facts.nameEnds.at.getTime() : 0,
    ...slipping(facts).map(({ until }) => until?.getTime() ?? 0),
    ...facts.enrolments.map(({ tokenExpiresAt }) =>
      tokenExpiresAt ? tokenExpiresAt.getTime() - TOKEN_ENDS_WITHIN : 0,
    ),
  ].filter((time) => time > facts.now.getTime());
  return times.length === 0 ? null : new Date(Math.min(...times));
}
