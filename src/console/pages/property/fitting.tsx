import { useQuery } from '@tanstack/react-query';
import type { Fit, Property } from '../../../api/documents.js';
import { api, Told } from '../../api.js';
import { FactField } from './facts.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { WorkButton } from '../../parts/work-button.js';
import { enrolByPlan } from './enrol-by-plan.js';

/** Asks once for what the engine wants to know, keeps it with the property, and enrols. */
function EnrolWithFacts({ property, fit }: { property: Property; fit: Fit }) {
  const { title } = fit.engine;
  return (
    <FormSheet
      opener={`Enrol at ${title}`}
      title={`${title} asks about ${property.handle}`}
      says="Answer once; every engine that asks the same gets this answer."
      send="Enrol"
      onSend={async (facts) => {
        await api.editProperty({ params: { property: property.id }, body: { facts: { ...facts } } });
        const job = await enrolByPlan(property, fit, fit.plan[0]);
        const { items } = await api.finished(job);
        const failed = items.find(({ result }) => result?.problem)?.result;
        if (failed) throw new Told(failed.says);
      }}
    >
      {fit.wants.map((fact) => (
        <FactField key={fact.id} fact={fact} />
      ))}
    </FormSheet>
  );
}

function Row({ property, fit, mayWork }: { property: Property; fit: Fit; mayWork: boolean }) {
  const { engine, fits, why, wants } = fit;
  const canEnrol = mayWork && engine.worked !== 'borrowed';
  const enrol = () => enrolByPlan(property, fit, fit.plan[0]);
  return (
    <li className="grid gap-x-4 gap-y-1 border-t border-rule py-2 md:grid-cols-[8rem_1fr_auto]">
      <span className={fits ? 'font-semibold' : 'text-faint'}>{engine.title}</span>
      <span className={fits ? '' : 'text-faint'}>
        {why}
        {fit.plan[0] && (
          <span className="block text-sm text-faint wrap-anywhere">
            By {fit.plan[0].reach}, {fit.plan[0].targetForPeople}: {fit.plan[0].why}
          </span>
        )}
      </span>
      <span>
        {canEnrol &&
          (wants.length > 0 ? (
            <EnrolWithFacts property={property} fit={fit} />
          ) : (
            <WorkButton start={enrol}>{`Enrol at ${engine.title}`}</WorkButton>
          ))}
      </span>
    </li>
  );
}

/** The engines that the property is not enrolled with: which of them matter to its audience, and why. */
export function Fitting({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const fit = useQuery({
    queryKey: ['fit', property.id],
    queryFn: () => api.fit({ params: { property: property.id } }),
  });
  const open = (fit.data?.items ?? []).filter(({ enrolled }) => enrolled.length === 0);
  if (open.length === 0) return null;
  const ready = open.filter(({ fits, wants }) => fits && wants.length === 0);
  const sorted = [...open].sort((a, b) => Number(b.fits) - Number(a.fits));
  return (
    <section aria-label="Other engines" className="border border-rule bg-sheet p-4">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-lg">Not enrolled with</h2>
        {mayWork && ready.length > 1 && (
          <WorkButton
            look="main"
            start={() =>
              api.enrol({
                body: {
                  properties: [property.id],
                  // By the registration plan, unless some engine that matters asks something first.
                  ...(open.every(({ fits, wants }) => !fits || wants.length === 0)
                    ? { fitting: true }
                    : { engines: ready.map((one) => one.engine.id) }),
                },
              })
            }
          >
            {`Enrol at ${ready.map((one) => one.engine.title).join(', ')}`}
          </WorkButton>
        )}
      </div>
      <ul>
        {sorted.map((one) => (
          <Row key={one.engine.id} property={property} fit={one} mayWork={mayWork} />
        ))}
      </ul>
    </section>
  );
}
