import type { Finding, Grade } from '../../api/documents.js';
import { CopyButton } from './copy-button.js';

const TONE: Readonly<Record<Grade, string>> = {
  stops: 'text-stops',
  harms: 'text-harms',
  note: 'text-faint',
};

interface FindingViewProps {
  one: Finding;
  /** The grades that are told by their word; what stops goes without saying where only that is looked for. */
  tells?: readonly Grade[];
  /** Whether what is to be done is ours to do, so that there is no sentence to send to anybody. */
  isOurs?: boolean;
}

/** A cause with its sentence for the developer; what merely follows from it is only told. */
export function FindingView({ one, tells = ['harms'], isOurs = false }: FindingViewProps) {
  if (one.follows !== null) return <li className="pl-3 text-faint">so also: {one.says}</li>;
  return (
    <li>
      <p className="wrap-anywhere">
        {tells.includes(one.grade) && <strong className={TONE[one.grade]}>{one.grade}: </strong>}
        {one.says}
        {typeof one.evidence['otherSite'] === 'string' && (
          <span className="text-faint"> (Between us: that site is {one.evidence['otherSite']}.)</span>
        )}
      </p>
      {one.remedy !== '' && (
        <p className="mt-1 flex flex-wrap items-start gap-3 sm:flex-nowrap">
          <span className="min-w-0 grow border-l-2 border-accent pl-2 wrap-anywhere max-sm:w-full">
            {one.remedy}
          </span>
          {!isOurs && <CopyButton text={one.remedy} what="the sentence for the developer" />}
        </p>
      )}
    </li>
  );
}
