import type { Enrolment, Placement } from '../../../api/documents.js';
import { api, Told } from '../../api.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { WorkButton } from '../../parts/work-button.js';

/** The placement that a claim would rest on: one that stands, else one where somebody tried. */
function chosen({ placements }: Enrolment): Placement | undefined {
  return (
    placements.find(({ check }) => check?.forecast === 'accept') ??
    placements.find(({ check }) => check?.forecast === 'unsure') ??
    placements.find(({ check }) => check?.tried === true) ??
    placements.find(({ check }) => check !== null)
  );
}

/** Claims; where our check says that the engine will refuse, it says so first and asks. */
export function ClaimButton({ enrolment }: { enrolment: Enrolment }) {
  const { id, badge, engine } = enrolment;
  const placement = chosen(enrolment);
  const check = placement?.check;
  if (!placement || check?.forecast !== 'refuse')
    return (
      <WorkButton
        look={badge === 'in-place' ? 'main' : 'plain'}
        start={() => api.claim({ body: { enrolments: [id] } })}
      >
        Claim
      </WorkButton>
    );
  const why = check.findings[0]?.says ?? 'The token does not stand.';
  return (
    <FormSheet
      opener="Claim"
      title={`${engine.title} would refuse`}
      says={`${why} A claim is spent for nothing unless that has changed.`}
      send="Claim anyway"
      onSend={async () => {
        const body = { enrolments: [id], method: placement.method, anyway: true };
        const { items } = await api.finished(await api.claim({ body }));
        const failed = items.find(({ result }) => result?.problem)?.result;
        if (failed) throw new Told(failed.says);
      }}
    >
      <p className="text-sm">Check again first if something was changed since the last look.</p>
    </FormSheet>
  );
}
