import type { ReactNode } from 'react';
import { counted } from '../../../api/plural.js';
import type { Making } from '../../../api/documents.js';
import { KIND_SAYS } from '../../../api/making/words.js';
import { sayError } from '../../api.js';
import { FindingView } from '../../parts/finding-view.js';
import { Notice } from '../../parts/notice.js';
import { TableHead } from '../../parts/table-head.js';
import { useEdit } from './edit.js';

const number = (value: number) => value.toLocaleString('en');

interface RowProps {
  name: ReactNode;
  found: number;
  chosen: number;
  isIn: boolean;
  disabled: boolean;
  change: (isIn: boolean) => void;
}

/** One kind or folder, with how many were found and go in, to be switched off and on. */
function Row({ name, found, chosen, isIn, disabled, change }: RowProps) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="py-1 pr-4 font-normal">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={isIn}
            disabled={disabled}
            onChange={(event) => {
              change(event.target.checked);
            }}
          />
          {name}
        </label>
      </th>
      <td className="pr-4 tabular-nums">{number(found)}</td>
      <td className="tabular-nums">{number(chosen)}</td>
    </tr>
  );
}

/** What would be written, by kind and folder, with what can be switched on and off before it is. */
export function Preview({
  making,
  property,
  mayWork,
}: {
  making: Making;
  property: string;
  mayWork: boolean;
}) {
  const edit = useEdit(property);
  const { preview, recipe } = making;
  if (!preview) return null;
  const { without, exclude } = recipe.selection;
  const isIdle = !mayWork || edit.isPending;
  const toggle = <T,>(all: readonly T[], one: T, isIn: boolean): T[] =>
    isIn ? all.filter((other) => other !== one) : [...all, one];
  return (
    <section aria-label="What would be written" className="mb-5">
      <h2 className="text-lg">
        {counted(preview.chosen, 'address', 'addresses')} would be written,{' '}
        <span className="font-sans text-base font-normal">{number(preview.dated)} of them with a date</span>
      </h2>
      {edit.error && <Notice kind="stops">{sayError(edit.error)}</Notice>}
      <div className="mt-2 grid gap-6 md:grid-cols-2">
        <table className="self-start text-sm">
          <TableHead titles={['Kind', 'Found', 'Goes in']} />
          <tbody>
            {preview.kinds.map(({ kind, found, chosen }) => (
              <Row
                key={kind}
                name={KIND_SAYS[kind]}
                found={found}
                chosen={chosen}
                isIn={!without.includes(kind)}
                disabled={isIdle}
                change={(isIn) => {
                  edit.mutate({ without: toggle(without, kind, isIn) });
                }}
              />
            ))}
          </tbody>
        </table>
        <table className="self-start text-sm">
          <TableHead titles={['Folder', 'Found', 'Goes in']} />
          <tbody>
            {preview.folders.slice(0, 15).map(({ folder, found, chosen }) => {
              const pattern = `${folder}*`;
              return (
                <Row
                  key={folder}
                  name={<span className="font-mono text-[13px] break-all">{folder}</span>}
                  found={found}
                  chosen={chosen}
                  isIn={!exclude.includes(pattern)}
                  // Without the front door’s own folder nothing would be left.
                  disabled={isIdle || folder === '/'}
                  change={(isIn) => {
                    edit.mutate({ exclude: toggle(exclude, pattern, isIn) });
                  }}
                />
              );
            })}
          </tbody>
        </table>
      </div>
      {preview.foldersInAll > 15 && (
        <p className="mt-1 text-sm text-faint">… and {number(preview.foldersInAll - 15)} smaller folders.</p>
      )}
    </section>
  );
}

/** What was found on the way: what is left out and why, and what the website's people should know. */
export function Report({ making }: { making: Making }) {
  const { preview } = making;
  if (!preview || (preview.leftOut.length === 0 && preview.findings.length === 0)) return null;
  return (
    <section aria-label="What was found on the way" className="mb-5">
      <h2 className="mb-1 text-lg">What was found on the way</h2>
      <ul className="space-y-2 text-sm">
        {preview.findings.map((one) => (
          <FindingView key={one.code + one.says} one={one} tells={['stops', 'harms', 'note']} />
        ))}
      </ul>
      {preview.leftOut.length > 0 && (
        <table className="mt-3 w-full text-sm">
          <TableHead titles={['Left out', 'Why', 'Such as']} className="max-md:sr-only" />
          <tbody>
            {preview.leftOut.map(({ why, says, count, examples }) => (
              <tr key={why} className="border-t border-rule align-baseline max-md:block max-md:py-1.5">
                <td className="py-1 pr-4 tabular-nums max-md:inline">{number(count)}</td>
                <td className="py-1 pr-4 max-md:inline">{says}</td>
                <td className="py-1 font-mono text-[13px] break-all text-faint max-md:block">
                  {examples.slice(0, 1).map(({ url, detail }) => (
                    <span key={url}>
                      {new URL(url).pathname + new URL(url).search}
                      {detail !== null && <span className="font-sans"> ({detail})</span>}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
