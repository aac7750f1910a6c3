import { useQuery } from '@tanstack/react-query';
import type { Fit, PlanLine, Property } from '../../../../api/documents.js';
import { api } from '../../../api.js';
import { WorkButton } from '../../../parts/work-button.js';
import { enrolByPlan } from '../enrol-by-plan.js';

/** What is to be enrolled so that every variant that visitors use is covered, at the engines that are enrolled with or matter. */
export function Plan({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const fit = useQuery({
    queryKey: ['fit', property.id],
    queryFn: () => api.fit({ params: { property: property.id } }),
  });
  const open = (fit.data?.items ?? []).flatMap((one) =>
    one.fits || one.enrolled.length > 0
      ? one.plan.filter(({ there }) => there === null).map((line) => ({ one, line }))
      : [],
  );
  return (
    <section aria-label="Registration plan" className="mt-4 border border-rule bg-sheet p-4 text-sm">
      <h2 className="mb-1 text-lg">Registration plan</h2>
      {fit.data && open.length === 0 && (
        <p className="text-faint">
          Every variant that visitors use is covered by an enrolment, or no engine matters.
        </p>
      )}
      <ul>
        {open.map(({ one, line }) => (
          <li
            key={one.engine.id + line.target}
            className="grid gap-x-4 gap-y-1 border-t border-rule py-2 md:grid-cols-[8rem_1fr_auto]"
          >
            <span className="font-semibold">{one.engine.title}</span>
            <span>
              By {line.reach}: <span className="font-mono wrap-anywhere">{line.targetForPeople}</span>
              <span className="block text-faint">{line.why}</span>
            </span>
            {mayWork && (
              <span>
                <EnrolLine property={property} fit={one} line={line} />
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function EnrolLine({ property, fit, line }: { property: Property; fit: Fit; line: PlanLine }) {
  if (fit.wants.length > 0)
    return <span className="text-faint">asks {fit.wants.length} things first, on the tab of engines</span>;
  return (
    <WorkButton start={() => enrolByPlan(property, fit, line)}>{`Enrol at ${fit.engine.title}`}</WorkButton>
  );
}
