import type { CheckWithEvidence, Placement } from '../../../../api/documents.js';
import { When } from '../../../parts/when.js';
import { CheckView, SIGN, TONE } from './check-view.js';
import { Past, Put } from './put.js';

const TITLES = { meta: 'Meta tag', file: 'File', dns: 'DNS record' };

/** The placement's state in a word or two; a method that is not needed is no fault. */
function Short({ check, spare }: { check: CheckWithEvidence | null; spare: boolean }) {
  if (!check) return <span className="text-sm text-faint">not checked yet</span>;
  if (spare) return <span className="text-sm text-faint">not placed here</span>;
  return (
    <span className={`text-sm ${TONE[check.forecast]}`}>
      {SIGN[check.forecast]} {check.seen ? 'in place' : 'not in place'}
    </span>
  );
}

interface PlacementProps {
  placement: Placement;
  open: boolean;
  /** Another method of the same enrolment is in place. */
  spare: boolean;
  /** The service's time when this was read. */
  asOf: string;
}

/** What has to stand where, ready to copy, and what our check saw there. Open when somebody works on it. */
export function PlacementView({ placement, open, spare, asOf }: PlacementProps) {
  const { check } = placement;
  return (
    <details open={open} className="border-t border-rule py-2">
      <summary className="cursor-pointer">
        <span className="font-semibold">{TITLES[placement.method]}</span>{' '}
        <Short check={check} spare={spare} />
      </summary>
      <div className="mt-2">
        <Put put={placement.put} />
        {placement.expiresAt !== null && (
          <p className="text-sm text-faint">
            The token expires on <When time={placement.expiresAt} /> if nobody claims with it.
          </p>
        )}
        <Past placement={placement} />
        {check && <CheckView check={check} placement={placement} asOf={asOf} />}
      </div>
    </details>
  );
}
