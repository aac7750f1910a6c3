import type { CheckWithEvidence, EvidenceSeen, MarkedPiece } from '../../../../api/documents.js';

function Pieces({ pieces, missing }: { pieces: readonly MarkedPiece[]; missing: boolean }) {
  return (
    <code className="bg-paper px-2 py-1 font-mono text-[13px] break-all">
      {pieces.length === 0 && <span className="text-faint">nothing</span>}
      {pieces.map(({ text, same }, at) => {
        if (same) return <span key={at}>{text}</span>;
        const look = 'mx-px border-b-2 border-stops bg-wash px-px';
        // A difference is told by the mark and its line, never by colour alone.
        return missing ? (
          <ins key={at} className={`${look} no-underline`} title="missing there">
            {text}
          </ins>
        ) : (
          <del key={at} className={`${look} no-underline`} title="not as it should be">
            {text}
          </del>
        );
      })}
    </code>
  );
}

/** What should stand beside what stands, the difference marked. */
export function Compared({ marked }: { marked: NonNullable<CheckWithEvidence['marked']> }) {
  return (
    <div className="mt-2 grid items-baseline gap-x-3 gap-y-1 sm:grid-cols-[5rem_1fr]">
      <span className="text-faint">should</span>
      <Pieces pieces={marked.should} missing />
      <span className="text-faint">stands</span>
      <Pieces pieces={marked.stands} missing={false} />
    </div>
  );
}

type Around = NonNullable<(EvidenceSeen & { kind: 'page' })['around']>;

/** The lines of the page around what was found, as text. */
export function AroundLines({ around }: { around: Around }) {
  return (
    <pre
      className="mt-2 overflow-x-auto bg-paper px-2 py-1 font-mono text-[13px]"
      tabIndex={0}
      aria-label="The lines around it"
    >
      {around.lines.map(({ number, text }) => (
        <span key={number} className={`block ${number === around.line ? 'font-semibold' : 'text-faint'}`}>
          {String(number).padStart(4)} {number === around.line ? '▸' : ' '} {text}
        </span>
      ))}
    </pre>
  );
}
