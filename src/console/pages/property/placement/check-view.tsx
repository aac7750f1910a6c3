import type { CheckWithEvidence, Forecast, Placement } from '../../../../api/documents.js';
import { Countdown } from '../../../parts/countdown.js';
import { FindingView } from '../../../parts/finding-view.js';
import { When } from '../../../parts/when.js';
import { AroundLines, Compared } from './compared.js';
import { Servers } from './servers.js';
import { Way } from './way.js';

export const TONE: Readonly<Record<Forecast, string>> = {
  accept: 'text-good',
  refuse: 'text-stops',
  unsure: 'text-harms',
};
export const SIGN: Readonly<Record<Forecast, string>> = { accept: '✓', refuse: '✗', unsure: '?' };
const SAYS: Readonly<Record<Forecast, string>> = {
  accept: 'A claim would be accepted',
  refuse: 'A claim would be refused',
  unsure: 'Nobody can be sure what a claim would come to',
};

function wantedOf({ put }: Placement): string {
  return put.kind === 'dns' ? put.value : put.content;
}

interface CheckViewProps {
  check: CheckWithEvidence;
  placement: Placement;
  /** The service's time when this was read. */
  asOf: string;
}

/** What the newest look said, why, what to do about it, and what it rests on. */
export function CheckView({ check, placement, asOf }: CheckViewProps) {
  const { seenThere } = check;
  return (
    <div className="mt-2 border-t border-rule pt-2 text-sm">
      <p>
        <strong className={TONE[check.forecast]}>
          {SIGN[check.forecast]} {SAYS[check.forecast]}.
        </strong>{' '}
        <span className="text-faint">
          Checked <When time={check.checkedAt} />
          {check.times > 1 && (
            <>
              , with the same result {check.times} times since <When time={check.seenSince} />
            </>
          )}
          .
        </span>
      </p>
      {check.visibleAt !== null && (
        <p className="mt-1" role="timer">
          <Countdown until={check.visibleAt} from={asOf} />
        </p>
      )}
      <ul className="mt-1 space-y-1">
        {check.findings.map((one) => (
          <FindingView key={one.code} one={one} />
        ))}
      </ul>
      {check.marked && <Compared marked={check.marked} />}
      {seenThere?.kind === 'page' && seenThere.around && <AroundLines around={seenThere.around} />}
      {seenThere?.kind === 'page' && <Way seen={seenThere} />}
      {seenThere?.kind === 'dns' && <Servers seen={seenThere} wanted={wantedOf(placement)} />}
      {seenThere === null && <p className="text-faint">What it rests on was let go for its age.</p>}
    </div>
  );
}
