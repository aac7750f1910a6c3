import { useMutation, useQuery } from '@tanstack/react-query';
import type { Handover, HandoverItem, Property } from '../../../api/documents.js';
import { counted } from '../../../api/plural.js';
import { api, queries, sayError } from '../../api.js';
import { Report } from './report.js';
import { Button } from '../../parts/button.js';
import { DayField, dayUnder } from '../../parts/day-field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { save } from '../../parts/save.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';

function Item({
  item,
  isBegun,
  mayWork,
  tick,
}: {
  item: HandoverItem;
  isBegun: boolean;
  mayWork: boolean;
  tick: (item: string, undo: boolean) => void;
}) {
  const isTicked = item.done?.by != null;
  return (
    <li className="border-t border-rule py-1">
      <label className="flex gap-2">
        <input
          type="checkbox"
          checked={item.done !== null}
          // What the facts say is ticked off by them.
          disabled={!mayWork || !isBegun || (item.done !== null && !isTicked)}
          onChange={() => {
            tick(item.item, item.done !== null);
          }}
        />
        <span>
          {item.says}
          {item.done && (
            <span className="text-faint">
              {' '}
              {item.done.by ?? 'as the engine says'}
              {item.done.note !== null && `: ${item.done.note}`}
            </span>
          )}
        </span>
      </label>
    </li>
  );
}

function othersOf({ holders, engine }: Handover['enrolments'][number]): string {
  if (engine.id === 'house') return 'the proof is our own';
  if (holders === null) return 'not asked';
  if (holders.says !== null) return `by hand: ${holders.says}`;
  const others = holders.items.filter(({ own }) => !own);
  return others.length === 0 ? 'nobody but us' : others.map(({ account }) => account).join(', ');
}

/** The last step of it, which asks once more where something is open. */
function EndHandOver({ client }: { client: Property['client'] }) {
  const { data } = useQuery({ queryKey: ['session'], queryFn: () => api.whoAmI() });
  if (data?.person.role !== 'lead') return null;
  return (
    <FormSheet
      opener="End the hand-over"
      title={`${client.name} is handed over`}
      says="The client and all its properties are archived and no longer checked."
      send="End it"
      onSend={async ({ day }, anyway) =>
        api.endHandover({
          params: { client: client.id },
          body: {
            ...(await dayUnder('deleteOn', day)),
            ...(anyway ? { anyway } : {}),
          },
        })
      }
    >
      <DayField
        label="Its records are due to be deleted on"
        name="day"
        hint="The journal reminds you on that day; a lead then deletes them with “client delete”."
      />
    </FormSheet>
  );
}

/** What a client takes along when it goes, and what is to be done before. */
function HandOver({ client, mayWork }: { client: Property['client']; mayWork: boolean }) {
  const params = { client: client.id };
  const shown = useQuery({
    queryKey: ['handover', client.id],
    queryFn: () => api.showHandover({ params }),
  });
  const anew = () => queries.invalidateQueries({ queryKey: ['handover', client.id] });
  const begin = useMutation({ mutationFn: () => api.beginHandover({ params }), onSettled: anew });
  const tick = useMutation({
    mutationFn: ({ item, undo }: { item: string; undo: boolean }) =>
      api.tickHandover({ params, body: { item, undo } }),
    onSettled: anew,
  });
  const error = begin.error ?? tick.error;
  return (
    <section aria-labelledby="handover" className="border border-rule bg-sheet p-4">
      <h2 id="handover" className="text-lg">
        Hand-over
      </h2>
      <p className="mb-2 text-sm text-faint">
        What the client takes along, and what has to be done before it goes.
      </p>
      <QueryView query={shown}>
        {({ begun, enrolments, stays, items }) => (
          <>
            <table className="w-full text-sm">
              <thead className="text-left text-faint max-md:sr-only">
                <tr>
                  <th className="pr-3 font-normal">Enrolment</th>
                  <th className="pr-3 font-normal">Badge</th>
                  <th className="font-normal">Who else holds it</th>
                </tr>
              </thead>
              <tbody>
                {enrolments.map((one) => (
                  <tr key={one.enrolment} className="border-t border-rule align-baseline max-md:block">
                    <th scope="row" className="py-1 pr-3 text-left font-normal break-all max-md:block">
                      {one.enrolment}
                    </th>
                    <td className="py-1 pr-3 max-md:inline">{one.badge}</td>
                    <td className="py-1 wrap-anywhere max-md:inline">{othersOf(one)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {stays.length > 0 && (
              <details className="mt-2 text-sm">
                <summary className="cursor-pointer">
                  {counted(stays.length, 'token has', 'tokens have')} to stay
                </summary>
                <ul>
                  {stays.map(({ place, what, engine }) => (
                    <li key={`${engine} ${place} ${what}`} className="font-mono text-[13px] break-all">
                      {engine}: {what}
                    </li>
                  ))}
                </ul>
              </details>
            )}
            <ul className="mt-2 text-sm" aria-label="To be done before it goes">
              {items.map((item) => (
                <Item
                  key={item.item}
                  item={item}
                  isBegun={begun !== null && begun.endedAt === null}
                  mayWork={mayWork}
                  tick={(name, undo) => {
                    tick.mutate({ item: name, undo });
                  }}
                />
              ))}
            </ul>
            {error && <Notice kind="stops">{sayError(error)}</Notice>}
            {mayWork && (
              <p className="mt-3 flex flex-wrap items-center gap-3">
                <WorkButton start={() => api.askHolders({ params })}>Ask who else holds it</WorkButton>
                <Button
                  onClick={() => {
                    void api.clientArchive(client.id).then((bytes) => {
                      save(`${client.handle}.zip`, bytes as BlobPart, 'application/zip');
                    });
                  }}
                >
                  Archive for the client (ZIP)
                </Button>
                {begun === null ? (
                  <Button
                    onClick={() => {
                      begin.mutate();
                    }}
                  >
                    Begin the hand-over
                  </Button>
                ) : begun.endedAt === null ? (
                  <>
                    <EndHandOver client={client} />
                    <span className="text-sm text-faint">
                      Under way since <When time={begun.at} />
                    </span>
                  </>
                ) : (
                  <span className="text-sm text-faint">
                    Ended <When time={begun.endedAt} />
                    {begun.deleteOn !== null && (
                      <>
                        ; its records are due to be deleted on <When time={begun.deleteOn} />
                      </>
                    )}
                  </span>
                )}
              </p>
            )}
          </>
        )}
      </QueryView>
    </section>
  );
}

/** What is for the client’s owner. */
export function ForOwner({ client, mayWork }: { client: Property['client']; mayWork: boolean }) {
  return (
    <>
      <Report client={client} mayWork={mayWork} />
      <HandOver client={client} mayWork={mayWork} />
    </>
  );
}
