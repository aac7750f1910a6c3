import type { Variants } from '../../../../api/documents.js';
import { When } from '../../../parts/when.js';
import { roleWords } from './words.js';

/** What was so before: roles that changed, findings that hold no more. */
export function History({ variants }: { variants: Variants }) {
  const { history, mended } = variants;
  if (history.length + mended.length === 0) return null;
  return (
    <details className="mt-4 text-sm">
      <summary className="cursor-pointer text-accent">What was so before</summary>
      <ul className="mt-2 space-y-1">
        {history.map((one) => (
          <li key={one.address + one.until} className="wrap-anywhere">
            <span className="font-mono">{one.forPeople}</span> was: {roleWords({ role: one.role, via: null })}{' '}
            ({one.says}), <When time={one.since} /> to <When time={one.until} />
          </li>
        ))}
        {mended.map((one) => (
          <li key={one.code + one.says + one.until} className="text-faint wrap-anywhere">
            {one.says} <When time={one.since} /> to <When time={one.until} />
          </li>
        ))}
      </ul>
    </details>
  );
}
