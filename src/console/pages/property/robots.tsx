import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Property, RobotsShown } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';

/** Milliseconds after the last letter before a draft is judged. */
const REST_MS = 400;

async function judged(
  property: string,
  addresses: string[],
  draft: string | null,
): Promise<RobotsShown | null> {
  const body = { ...(addresses.length > 0 ? { addresses } : {}), ...(draft === null ? {} : { draft }) };
  const job = await api.finished(await api.judgeRobots({ params: { property }, body }));
  const [first] = job.items;
  if (first?.result?.problem) throw new Error(first.result.problem.detail);
  return first?.result?.robots ?? null;
}

type Told = RobotsShown['verdicts'][number]['agents'][number];

/** Agents for which the same line decides, together. */
function alike(agents: readonly Told[]): { one: Told; titles: string[] }[] {
  const found = new Map<string, { one: Told; titles: string[] }>();
  for (const one of agents) {
    const key = `${String(one.allowed)} ${one.group} ${String(one.line)}`;
    const known = found.get(key);
    if (known) known.titles.push(one.title);
    else found.set(key, { one, titles: [one.title] });
  }
  return [...found.values()];
}

function Verdicts({ shown, toLine }: { shown: RobotsShown; toLine: (line: number) => void }) {
  return (
    <table className="w-full text-sm">
      <thead className="text-faint max-md:sr-only">
        <tr>
          <th scope="col">Address</th>
          <th scope="col">May</th>
          <th scope="col">Who</th>
          <th scope="col">The line that decides</th>
        </tr>
      </thead>
      <tbody>
        {shown.verdicts.flatMap(({ address, agents }) =>
          alike(agents).map(({ one, titles }, at) => (
            <tr
              key={`${address} ${titles.join()}`}
              className={`align-top max-md:block max-md:py-1 ${at === 0 ? 'border-t border-rule' : ''}`}
            >
              <th
                scope="row"
                className="py-0.5 pr-4 font-mono text-[13px] font-normal break-all max-md:block"
              >
                {at === 0 && new URL(address).pathname + new URL(address).search}
              </th>
              <td className={`pr-4 font-semibold max-md:inline ${one.allowed ? 'text-good' : 'text-stops'}`}>
                {one.allowed ? 'yes' : 'no'}
              </td>
              <td className="pr-4 max-md:inline">{titles.join(', ')}</td>
              <td className="max-md:block">
                {one.line === null ? (
                  <span className="text-faint">no line is about it</span>
                ) : (
                  <Button
                    look="quiet"
                    className="text-left"
                    onClick={() => {
                      toLine(one.line ?? 1);
                    }}
                  >
                    {`line ${String(one.line)}: `}
                    <span className="font-mono text-[13px] wrap-anywhere">{one.rule}</span>
                  </Button>
                )}
              </td>
            </tr>
          )),
        )}
      </tbody>
    </table>
  );
}

/** An editor of one robots.txt: what is written is judged as it is written, for the addresses that are named. */
function Editor({
  property,
  stands,
  mayWork,
}: {
  property: Property;
  stands: RobotsShown;
  mayWork: boolean;
}) {
  const [text, setText] = useState(stands.status === 200 ? stands.text : '');
  const [asked, setAsked] = useState('/');
  const [settled, setSettled] = useState({ text, asked });
  const [area, setArea] = useState<HTMLTextAreaElement | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      setSettled({ text, asked });
    }, REST_MS);
    return () => {
      clearTimeout(timer);
    };
  }, [text, asked]);
  const addresses = settled.asked.split(/\s+/u).filter((one) => one !== '');
  const draft = useQuery({
    queryKey: ['robots draft', property.id, settled.text, addresses],
    queryFn: () => judged(property.id, addresses, settled.text),
    placeholderData: (before: RobotsShown | null | undefined) => before,
    retry: false,
  });
  const kept = useQuery({
    queryKey: ['robots kept', property.id],
    queryFn: () => api.showRobots({ params: { property: property.id } }),
  });
  const keep = useMutation({
    mutationFn: (anyway: boolean) =>
      api.keepRobots({
        params: { property: property.id },
        body: { text, over: stands.stands, ...(anyway ? { anyway } : {}) },
      }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['robots kept', property.id] }),
  });
  const toLine = (line: number) => {
    if (!area) return;
    const lines = text.split('\n');
    const from = lines.slice(0, line - 1).join('\n').length + (line > 1 ? 1 : 0);
    area.focus();
    area.setSelectionRange(from, from + (lines[line - 1]?.length ?? 0));
  };
  const proposal = draft.data?.proposal ?? null;
  const count = text.split('\n').length;
  return (
    <div className="grid gap-6 lg:grid-cols-2">
      <section aria-label="The rules" className="min-w-0">
        <p className="mb-1 text-sm">
          <span className="font-mono break-all">{stands.url}</span>{' '}
          <span className="text-faint">
            {stands.status === 200
              ? 'as it stands'
              : `answers ${String(stands.status ?? 'nothing')}; engines then ${(stands.status ?? 500) >= 500 ? 'stay away' : 'fetch everything'}`}
          </span>
        </p>
        <div className="grid grid-cols-[2.5rem_1fr] border border-faint bg-sheet">
          <pre
            aria-hidden="true"
            className="border-r border-rule py-2 pr-2 text-right font-mono text-[13px] leading-5 text-faint select-none"
          >
            {Array.from({ length: Math.min(count, 2_000) }, (_, at) => at + 1).join('\n')}
          </pre>
          <textarea
            ref={setArea}
            aria-label="Rules of the robots.txt"
            value={text}
            rows={Math.max(12, count)}
            wrap="off"
            spellCheck={false}
            onChange={(event) => {
              setText(event.target.value);
            }}
            className="overflow-x-auto bg-sheet px-2 py-2 font-mono text-[13px] leading-5"
          />
        </div>
        <div className="mt-2 flex flex-wrap items-center gap-3">
          {proposal !== null && (
            <Button
              onClick={() => {
                setText(proposal);
              }}
            >
              Put the sitemap’s line in
            </Button>
          )}
          {mayWork && (
            <Button
              look="main"
              disabled={keep.isPending || text === (stands.status === 200 ? stands.text : '')}
              onClick={() => {
                keep.mutate(keep.error !== null);
              }}
            >
              {keep.error ? 'Keep it all the same' : 'Keep it, to be published'}
            </Button>
          )}
          <span role="status" className="text-sm text-faint">
            {keep.data && 'Kept: “Publish” puts it there.'}
          </span>
        </div>
        {keep.error && (
          <div className="mt-2">
            <Notice kind="stops">{sayError(keep.error)}</Notice>
          </div>
        )}
        {kept.data?.kept && (
          <p className="mt-2 text-sm text-faint">
            One is kept since <When time={kept.data.kept.at} />
            {kept.data.kept.by !== null && `, by ${kept.data.kept.by}`}.
          </p>
        )}
      </section>
      <section aria-label="What it says" className="min-w-0">
        <label className="mb-3 block text-sm">
          <span className="font-semibold">For these addresses, one to a line</span>
          <textarea
            value={asked}
            rows={4}
            spellCheck={false}
            onChange={(event) => {
              setAsked(event.target.value);
            }}
            className="mt-1 block w-full rounded-sm border border-faint bg-paper px-2 py-1 font-mono text-[13px]"
          />
        </label>
        {draft.error && <Notice kind="stops">{sayError(draft.error)}</Notice>}
        {draft.data && <Verdicts shown={draft.data} toLine={toLine} />}
        {draft.data && draft.data.faults.length > 0 && (
          <ul className="mt-3 space-y-1 text-sm">
            {draft.data.faults.map(({ line, text: found, says }) => (
              <li key={line}>
                <Button
                  look="quiet"
                  onClick={() => {
                    toLine(line);
                  }}
                >{`Line ${String(line)}`}</Button>
                {found !== '' && <span className="font-mono text-[13px] break-all">, “{found}”</span>}: {says}
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}

/** The robots.txt of a property: written, judged for any address and engine, kept to be carried. */
export function RobotsView({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const stands = useQuery({
    queryKey: ['robots', property.id],
    queryFn: () => judged(property.id, [], null),
    // What is being written is not to be swept away by looking again.
    staleTime: Infinity,
  });
  return (
    <QueryView query={stands}>
      {(one) =>
        one ? (
          <Editor property={property} stands={one} mayWork={mayWork} />
        ) : (
          <Notice kind="stops">It could not be looked at.</Notice>
        )
      }
    </QueryView>
  );
}
