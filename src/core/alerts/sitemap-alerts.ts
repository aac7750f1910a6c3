import type { Acts } from '../worklist/kinds.js';
import { confirmedSince, hindranceOf } from './badge-alerts.js';
import {
  earliest,
  type AlertEnrolment,
  type AlertFacts,
  type AlertKind,
  type AlertNow,
  type Told,
} from './alert.js';

/**
 * Whether it is the file that cannot be reached. Where the whole website cannot, that is told, and not of each of its files; and once it
 * can be again, they are looked at before anything is said of them.
 */
export function isOfFile({ at }: { readonly at: Date }, enrolments: readonly AlertEnrolment[]): boolean {
  return enrolments.every(
    (one) => hindranceOf(one) === null && (!one.look?.wellSince || one.look.wellSince <= at),
  );
}

/** Sitemaps out of reach, fallen, standing still, or not read in time. */
export function sitemapAlerts({ sitemaps: all, enrolments, cutOff }: AlertFacts): AlertNow[] {
  return all.flatMap(({ url, unreachable, fell, still, overdueAt }) => {
    const one = (kind: AlertKind, told: Told, acts: Acts = 'client'): AlertNow => ({
      ...{ kind, cause: url, since: told.since, says: told.says, remedy: told.remedy, acts },
      ...{ touches: [url], until: null },
    });
    return [
      ...(unreachable &&
      isOfFile(unreachable, enrolments) &&
      confirmedSince(unreachable.since, unreachable.at, cutOff)
        ? [one('sitemap-unreachable', unreachable)]
        : []),
      ...(fell ? [one('sitemap-fallen', fell)] : []),
      ...(still ? [one('sitemap-still', still)] : []),
      ...(overdueAt.length === 0
        ? []
        : [
            one(
              'reading-overdue',
              {
                says: `${overdueAt.map(({ engine }) => engine).join(' and ')} should have read ${url} by now.`,
                remedy: '',
                since: earliest(overdueAt.map(({ since }) => since)),
              },
              'us',
            ),
          ]),
    ];
  });
}
