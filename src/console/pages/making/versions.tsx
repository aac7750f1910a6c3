import { useMutation } from '@tanstack/react-query';
import { counted } from '../../../api/plural.js';
import type { MadeVersion } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Notice } from '../../parts/notice.js';
import { When } from '../../parts/when.js';

const number = (value: number) => value.toLocaleString('en');

/** One version that was written, with its files where it is the newest. */
export function VersionRow({
  version,
  isNewest,
  mayWork,
}: {
  version: MadeVersion;
  isNewest: boolean;
  mayWork: boolean;
}) {
  const { id, at, by, addresses, came, went, heldBack, files, findings } = version;
  const allow = useMutation({
    mutationFn: () => api.allowVersion({ params: { version: id } }),
    onSuccess: () => queries.invalidateQueries(),
  });
  return (
    <li className="border-t border-rule py-2 text-sm">
      <p>
        <When time={at} /> {by === null ? 'by itself' : `by ${by}`}:{' '}
        <strong>{counted(addresses, 'address', 'addresses')}</strong>
        <span className="text-faint">
          {came === null ? ', the first' : `, ${number(came)} came, ${number(went ?? 0)} went`}
        </span>
        {findings.length === 0 && <span className="text-good"> · our own reader finds nothing wrong</span>}
      </p>
      {isNewest && (
        <p className="flex flex-wrap gap-x-4 font-mono text-[13px]">
          {files.slice(0, 8).map(({ name }) => (
            <a key={name} href={`/api/v1/versions/${id}/files/${name}`}>
              {name}
            </a>
          ))}
          {files.length > 8 && <span className="text-faint">and {number(files.length - 8)} more</span>}
        </p>
      )}
      {heldBack !== null && (
        <Notice kind="harms">
          Held back. {heldBack}{' '}
          {mayWork && (
            <Button
              disabled={allow.isPending}
              onClick={() => {
                allow.mutate();
              }}
            >
              Let it go out
            </Button>
          )}
          {allow.error && <span className="text-stops"> {sayError(allow.error)}</span>}
        </Notice>
      )}
    </li>
  );
}

/** Writes what was chosen. */
export function Write({ property }: { property: string }) {
  const write = useMutation({
    mutationFn: () => api.writeSitemap({ params: { property }, body: {} }),
    onSuccess: () => queries.invalidateQueries(),
  });
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <Button
        disabled={write.isPending}
        onClick={() => {
          write.mutate();
        }}
      >
        Write it
      </Button>
      <span role="status" className={`text-sm ${write.error ? 'text-stops' : 'text-faint'}`}>
        {write.error
          ? sayError(write.error)
          : write.data && `Written: ${counted(write.data.addresses, 'address', 'addresses')}.`}
      </span>
    </span>
  );
}
