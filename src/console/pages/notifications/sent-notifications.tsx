import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SentMessage } from '../../../api/documents.js';
import { api, queries } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Listed, ListedLine } from '../../parts/listed.js';
import { chosen, Pick, useNarrowing } from '../../parts/narrow.js';
import { PageTurner, usePages } from '../../parts/pages.js';
import { QueryView } from '../../parts/query-view.js';
import { Sheet } from '../../parts/sheet.js';
import { When } from '../../parts/when.js';
import { Mono } from './mono.js';
import { given } from '../../../api/given.js';

const STATES = [
  { id: 'waiting', title: 'waiting' },
  { id: 'dead', title: 'given up' },
  { id: 'sent', title: 'sent' },
];
const STATE: Readonly<Record<SentMessage['state'], string>> = {
  waiting: 'tried next',
  dead: 'given up',
  sent: 'sent',
};
const AT_ONCE = 25;
const AGAIN_MS = 30_000;

function ShowNotification({ id, subject }: { id: string; subject: string }) {
  const [open, setOpen] = useState(false);
  const query = useQuery({
    queryKey: ['notification', id],
    queryFn: () => api.showNotification({ params: { id } }),
    enabled: open,
  });
  return (
    <Sheet opener="Show" title={subject} says="As it was sent." open={open} onOpen={setOpen} wide>
      <QueryView query={query}>{({ text }) => <Mono>{text}</Mono>}</QueryView>
    </Sheet>
  );
}

function Retry({ id }: { id: string }) {
  const [isTried, setTried] = useState(false);
  const retry = () => {
    setTried(true);
    void api.retryNotification({ params: { id } }).finally(() => queries.invalidateQueries());
  };
  return (
    <Button disabled={isTried} onClick={retry}>
      Send again
    </Button>
  );
}

export function SentNotifications() {
  const narrowing = useNarrowing();
  const { state } = chosen(narrowing, ['state']) as { state?: SentMessage['state'] };
  const pages = usePages(
    ['notifications', state],
    (after) =>
      api.listNotifications({
        query: {
          limit: AT_ONCE,
          ...given({ state, after }),
        },
      }),
    AGAIN_MS,
  );
  return (
    <>
      <QueryView query={pages.query}>
        {({ items }) => (
          <Listed
            title="Sent notifications"
            none={state === undefined ? 'No notification has been sent yet.' : 'Nothing matches.'}
            act={
              <Pick
                narrowing={narrowing}
                name="state"
                label="Show"
                all="all, newest first"
                options={STATES}
              />
            }
          >
            {items.map((one) => (
              <ListedLine
                key={one.id}
                name={one.subject}
                act={
                  <>
                    <ShowNotification id={one.id} subject={one.subject} />
                    {one.state === 'dead' && <Retry id={one.id} />}
                  </>
                }
              >
                to {one.to},{' '}
                <span className={one.state === 'dead' ? 'text-stops' : ''}>{STATE[one.state]}</span>{' '}
                <When time={one.at} />
                {one.fault !== null && `: ${one.fault}`}
              </ListedLine>
            ))}
          </Listed>
        )}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}
