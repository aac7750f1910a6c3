import { Link } from 'react-router';
import type { Alert } from '../../api/documents.js';
import { api } from '../api.js';
import { CopyButton } from '../parts/copy-button.js';
import { When } from '../parts/when.js';
import { WorkButton } from '../parts/work-button.js';
import { STEP_COLUMNS } from './step-line.js';

/** Kinds of cases, in the words of a list. */
export const ALERT_TITLES: Readonly<Record<string, string>> = {
  lost: 'badge lost',
  slipping: 'token gone',
  'enrolment-lost': 'enrolment lost',
  moved: 'front door moved',
  'stays-away': 'engines kept out',
  'out-of-reach': 'out of reach',
  'sitemap-unreachable': 'sitemap out of reach',
  'sitemap-fallen': 'sitemap fell',
  'server-down': 'server down',
  'cut-off': 'cut off',
  certificate: 'certificate ends',
  'name-ends': 'name ends',
  'token-ends': 'token ends',
  'reading-overdue': 'reading overdue',
  'sitemap-still': 'sitemap stands still',
  'switched-off': 'switched off',
  unsent: 'messages unsent',
};
/** Where on a property's page an alert is worked at. */
const TABS: Readonly<Record<string, string>> = {
  moved: '?tab=variants',
  'stays-away': '?tab=variants',
  certificate: '?tab=variants',
  'name-ends': '?tab=about',
  'sitemap-unreachable': '?tab=sitemaps',
  'sitemap-fallen': '?tab=sitemaps',
  'sitemap-still': '?tab=sitemaps',
  'reading-overdue': '?tab=sitemaps',
};
const PLACEMENTS = ['lost', 'slipping', 'out-of-reach'];

/** How an alert is titled. */
export function titleOfAlert({ kind, property }: Alert): string {
  return `${ALERT_TITLES[kind] ?? kind}, ${property ?? 'this service'}`;
}

function LookAgain({ one }: { one: Alert }) {
  const enrolments = one.touches.filter((name) => name.includes('@'));
  if (PLACEMENTS.includes(one.kind) && enrolments.length > 0)
    return <WorkButton start={() => api.check({ body: { enrolments } })}>Check again</WorkButton>;
  if (one.property !== null && TABS[one.kind] === '?tab=variants') {
    const properties = [one.property];
    return <WorkButton start={() => api.lookAtVariants({ body: { properties } })}>Check again</WorkButton>;
  }
  return null;
}

/** What stands in the place of a property. */
const NAMES: Readonly<Record<string, string>> = {
  'switched-off': 'an engine',
  'server-down': 'a server',
};

/** The last good evidence beside the present one, behind a line. */
function Difference({ lines }: { lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <details className="my-1">
      <summary className="text-sm text-accent">what changed</summary>
      <pre className="mt-1 border border-rule bg-paper p-2 font-mono text-[13px] wrap-anywhere whitespace-pre-wrap">
        {lines.join('\n')}
      </pre>
    </details>
  );
}

/** What people were told of: since when, what, whose, what is to be done about it. */
export function AlertLine({ one, mayWork }: { one: Alert; mayWork: boolean }) {
  return (
    <li className={STEP_COLUMNS}>
      <span className="font-semibold">{ALERT_TITLES[one.kind] ?? one.kind}</span>
      <span>
        {one.property === null ? (
          (NAMES[one.kind] ?? 'this service')
        ) : (
          <Link to={`/properties/${one.property}${TABS[one.kind] ?? ''}`}>{one.property}</Link>
        )}
      </span>
      <span>
        {one.says}
        <Difference lines={one.difference} />
        {mayWork && (
          <span className="mt-1 flex flex-wrap gap-2">
            <LookAgain one={one} />
            {one.property !== null && one.remedy !== '' && one.endedAt === null && (
              <Link
                to={`/properties/${one.property}?tab=sheet&alert=${one.id}`}
                className="self-center text-sm"
              >
                Write about it
              </Link>
            )}
            {one.remedy !== '' && <CopyButton text={one.remedy} what="what the client is to do" />}
          </span>
        )}
      </span>
      <span className="text-sm text-faint">
        since <When time={one.since} />
        {one.endedAt !== null && (
          <span className="block">
            resolved <When time={one.endedAt} />
          </span>
        )}
        {one.until !== null && one.endedAt === null && (
          <span className={`block ${PLACEMENTS.includes(one.kind) ? 'text-stops' : ''}`}>
            until <When time={one.until} />
          </span>
        )}
      </span>
    </li>
  );
}
