import { useMutation, useQuery } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import type { MadeLink, Property, SharedLink, SharedUse } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Choice } from '../../parts/choice.js';
import { CopyButton } from '../../parts/copy-button.js';
import { Field } from '../../parts/field.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';

const SAID: Readonly<Record<SharedUse['kind'], string>> = {
  look: 'had us look',
  done: 'says that it is done',
  cannot: 'cannot do it:',
};

function Uses({ uses }: { uses: readonly SharedUse[] }) {
  if (uses.length === 0) return <span className="text-faint">nothing yet</span>;
  return (
    <ul>
      {uses.slice(0, 5).map(({ at, kind, says }) => (
        <li key={`${at} ${kind}`} className="wrap-anywhere">
          <When time={at} /> {SAID[kind]} {says}
        </li>
      ))}
    </ul>
  );
}

function Line({ link, mayWork }: { link: SharedLink; mayWork: boolean }) {
  const end = useMutation({
    mutationFn: () => api.endLink({ params: { id: link.id } }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['links'] }),
  });
  const who = link.word ?? `made ${link.createdAt.slice(0, 10)}`;
  return (
    <tr className="border-t border-rule align-baseline max-md:block max-md:py-2">
      <th scope="row" className="py-1 pr-4 text-left font-semibold wrap-anywhere max-md:block">
        {who}
        {link.property === null && <span className="font-normal text-faint"> (all of the client)</span>}
      </th>
      <td className="py-1 pr-4 max-md:block">
        <span className="text-faint md:hidden">works until </span>
        <When time={link.expiresAt} />
      </td>
      <td className="py-1 pr-4 max-md:block">
        {link.openedAt === null ? (
          <span className="text-faint">never opened</span>
        ) : (
          <>
            {link.opened} times, last <When time={link.openedAt} />
          </>
        )}
      </td>
      <td className="py-1 pr-4 max-md:block">
        <Uses uses={link.uses} />
      </td>
      <td className="py-1 text-right max-md:block max-md:text-left">
        {mayWork && (
          <Button
            look="quiet"
            aria-label={`End it: the link ${who}`}
            disabled={end.isPending}
            onClick={() => {
              end.mutate();
            }}
          >
            End it
          </Button>
        )}
        {end.error && <span className="text-stops">{sayError(end.error)}</span>}
      </td>
    </tr>
  );
}

function Made({ link }: { link: MadeLink }) {
  return (
    <Notice kind="note">
      <p className="wrap-anywhere">
        <span className="font-mono text-[13px]">{link.url}</span>
      </p>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <CopyButton text={link.url} what="the address of the link" /> It is not shown again.
      </p>
    </Notice>
  );
}

const LASTS = [
  ['P7D', 'a week'],
  ['P14D', 'two weeks'],
  ['P60D', 'two months'],
] as const;

/** Links by which the sheet is seen without signing in: what came of them, and another one. */
export function Links({
  property,
  language,
  mayWork,
}: {
  property: Property;
  language: 'en' | 'de';
  mayWork: boolean;
}) {
  const links = useQuery({
    queryKey: ['links', property.id],
    queryFn: () => api.listLinks({ query: { property: property.id } }),
  });
  const make = useMutation({
    mutationFn: ({ word, lasts }: { word: string; lasts: string }) =>
      api.addLink({ body: { property: property.id, language, lasts, ...(word === '' ? {} : { word }) } }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['links'] }),
  });
  return (
    <section className="mt-8 max-w-5xl" aria-labelledby="links">
      <h2 id="links" className="text-lg font-semibold">
        Links to this sheet
      </h2>
      <p className="mb-3 text-sm text-faint">
        Whoever has one sees this sheet and nothing else, without signing in; can have it looked at, and send
        word.
      </p>
      {make.data && <Made link={make.data} />}
      {make.error && <Notice kind="stops">{sayError(make.error)}</Notice>}
      <QueryView query={links}>
        {({ items }) =>
          items.length === 0 ? (
            <p className="text-sm text-faint">No link works.</p>
          ) : (
            <table className="w-full text-sm">
              <thead className="text-left text-faint max-md:sr-only">
                <tr>
                  <th className="pr-4 font-normal">For</th>
                  <th className="pr-4 font-normal">Works until (UTC)</th>
                  <th className="pr-4 font-normal">Opened</th>
                  <th className="pr-4 font-normal">Said by it</th>
                  <th>
                    <span className="sr-only">What can be done</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {items.map((link) => (
                  <Line key={link.id} link={link} mayWork={mayWork} />
                ))}
              </tbody>
            </table>
          )
        }
      </QueryView>
      {mayWork && (
        <form
          className="mt-4 flex flex-wrap items-end gap-3"
          onSubmit={(event: FormEvent<HTMLFormElement>) => {
            event.preventDefault();
            const form = event.currentTarget;
            const said = (name: string) => String(new FormData(form).get(name) ?? '').trim();
            make.mutate(
              { word: said('word'), lasts: said('lasts') },
              {
                onSuccess: () => {
                  form.reset();
                },
              },
            );
          }}
        >
          <div className="-mb-3 w-64">
            <Field label="For whom" name="word" maxLength={80} placeholder="such as the web host" />
          </div>
          <div className="-mb-3">
            <Choice label="Works for" name="lasts" value="P14D" options={LASTS} />
          </div>
          <Button type="submit" look="main" disabled={make.isPending}>
            Make a link
          </Button>
        </form>
      )}
    </section>
  );
}
