import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { PlacementSheet, Property } from '../../../api/documents.js';
import { ApiProblem } from '../../../client/client.js';
import { api, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { CopyButton } from '../../parts/copy-button.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { save } from '../../parts/save.js';
import { Letters } from './letters.js';
import { Links } from './links.js';

type Language = PlacementSheet['language'];

/** What is to be placed, as it is handed to whoever holds the keys. */
export function SheetView({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const [language, setLanguage] = useState<Language>('en');
  const query = { property: property.id, language };
  const sheet = useQuery({
    queryKey: ['sheet', property.id, language],
    queryFn: () => api.showSheet({ query }),
    retry: false,
  });
  const name = `sheet-${property.handle}`;
  // That there is no token yet is how every property begins.
  if (sheet.error instanceof ApiProblem && sheet.error.problem.code === 'nothing-to-place')
    return <Notice kind="note">{sayError(sheet.error)}</Notice>;
  return (
    <QueryView query={sheet}>
      {({ text, markdown, html, open, done }) => (
        <>
          <div className="mb-3 flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-2 text-sm">
              <span className="text-faint">Language</span>
              <select
                value={language}
                onChange={(event) => {
                  setLanguage(event.target.value as Language);
                }}
                className="rounded-sm border border-faint bg-sheet px-2 py-1"
              >
                <option value="en">English</option>
                <option value="de">Deutsch</option>
              </select>
            </label>
            <CopyButton text={text} what="the sheet as text for a mail" />
            <Button
              onClick={() => {
                save(`${name}.html`, html, 'text/html');
              }}
            >
              Page to send or print
            </Button>
            <Button
              onClick={() => {
                save(`${name}.md`, markdown, 'text/markdown');
              }}
            >
              Markdown
            </Button>
            <Button
              onClick={() => {
                void api.sheetZip(query).then((bytes) => {
                  save(`${name}.zip`, bytes as BlobPart, 'application/zip');
                });
              }}
            >
              ZIP with the files
            </Button>
            <span role="status" className="text-sm text-faint">
              {open} to be done, {done} done
            </span>
          </div>
          <pre
            lang={language}
            tabIndex={0}
            className="max-h-[28rem] max-w-3xl overflow-y-auto border border-rule bg-sheet p-4 font-mono text-[13px] leading-5 wrap-anywhere whitespace-pre-wrap"
          >
            {text}
          </pre>
          <Letters property={property} mayWork={mayWork} />
          <Links property={property} language={language} mayWork={mayWork} />
        </>
      )}
    </QueryView>
  );
}
