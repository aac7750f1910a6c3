import type { Person } from '../../api/documents.js';
import { api } from '../api.js';
import { chosen, Pick, useNarrowing } from '../parts/narrow.js';
import { Notice } from '../parts/notice.js';
import { PageTurner, usePages } from '../parts/pages.js';
import { QueryView } from '../parts/query-view.js';
import { SettlingList } from '../parts/settling.js';
import { ALERT_TITLES, AlertLine, titleOfAlert } from './alert-line.js';
import { given } from '../../api/given.js';

const AT_ONCE = 50;
const RESOLVED = [{ id: 'resolved', title: 'resolved' }];

/** The alerts: open, or resolved, newest first. */
export function AlertsPage({ person }: { person: Person }) {
  const narrowing = useNarrowing();
  const { kind, which } = chosen(narrowing, ['kind', 'which']);
  const resolved = which === 'resolved';
  const pages = usePages(['alerts', kind, resolved], (after) =>
    api.listAlerts({
      query: {
        limit: AT_ONCE,
        resolved,
        ...given({ kind, after }),
      },
    }),
  );
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="mr-auto text-2xl">Alerts</h1>
        <Pick
          narrowing={narrowing}
          name="kind"
          label="Kind"
          all="all"
          options={Object.entries(ALERT_TITLES).map(([id, title]) => ({ id, title }))}
        />
        <Pick narrowing={narrowing} name="which" label="Show" all="open" options={RESOLVED} />
      </div>
      <QueryView query={pages.query}>
        {({ items }) => (
          <SettlingList
            key={`${kind ?? ''} ${String(resolved)}`}
            rows={items}
            keyOf={({ id }) => id}
            titleOf={titleOfAlert}
            none={
              <Notice kind="note">
                {resolved
                  ? 'No alert of that kind is resolved yet.'
                  : 'Nothing slipped, nothing was lost, nothing is about to.'}
              </Notice>
            }
          >
            {(one) => <AlertLine one={one} mayWork={person.role !== 'onlooker' && !resolved} />}
          </SettlingList>
        )}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}
