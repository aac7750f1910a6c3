import type { ReactNode } from 'react';
import type { Grade } from '../../api/documents.js';

const SIGN: Readonly<Record<Grade, string>> = { stops: 'Stops', harms: 'Harms', note: 'Note' };
const TONE: Readonly<Record<Grade, string>> = {
  stops: 'text-stops',
  harms: 'text-harms',
  note: 'text-faint',
};

/** Something to be read: its grade as a word, then the sentence. */
export function Notice({ kind, children }: { kind: Grade; children: ReactNode }) {
  return (
    <div role={kind === 'stops' ? 'alert' : 'status'} className="border-l-4 border-rule bg-sheet px-3 py-2">
      <span className={`mr-2 text-sm font-semibold ${TONE[kind]}`}>{SIGN[kind]}</span>
      {children}
    </div>
  );
}
