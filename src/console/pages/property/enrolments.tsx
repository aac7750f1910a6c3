import { useQuery } from '@tanstack/react-query';
import type { Engine, Enrolment, Property, Reach } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { TagMark } from '../../parts/tag-mark.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';
import { PlacementView } from './placement.js';

/** The placement that is worked on: the one claimed by, else one that stands, else one where somebody tried, else the first. */
function isOpen(enrolment: Enrolment, at: number): boolean {
  const { placements, claim } = enrolment;
  const chosen =
    placements.findIndex((one) => one.method === claim?.method) >= 0
      ? placements.findIndex((one) => one.method === claim?.method)
      : Math.max(
          0,
          placements.findIndex((one) => one.check?.seen === true),
        );
  return at === chosen && enrolment.badge !== 'held';
}

function Actions({ enrolment }: { enrolment: Enrolment }) {
  const { id, placements, badge } = enrolment;
  const only = { body: { enrolments: [id] } };
  return (
    <div className="mt-2 flex flex-wrap gap-3">
      {placements.length < enrolment.methods.length && (
        <WorkButton look={badge === 'bare' ? 'main' : 'plain'} start={() => api.getTokens(only)}>
          Get tokens
        </WorkButton>
      )}
      {placements.length > 0 && <WorkButton start={() => api.check(only)}>Check</WorkButton>}
      {placements.length > 0 && badge !== 'held' && (
        <WorkButton look={badge === 'in-place' ? 'main' : 'plain'} start={() => api.claim(only)}>
          Claim
        </WorkButton>
      )}
    </div>
  );
}

function EnrolmentView({ enrolment, mayWork }: { enrolment: Enrolment; mayWork: boolean }) {
  const { claim, step } = enrolment;
  return (
    <section aria-label={enrolment.name} className="mb-4 border border-rule bg-sheet p-4">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="text-lg">{enrolment.engine.title}</h2>
        <TagMark badge={enrolment.badge} />
        <span className="text-sm text-faint">
          since <When time={enrolment.badgeSince} />
        </span>
        <span className="ml-auto font-mono text-sm text-faint">{enrolment.name}</span>
      </div>
      <p className="mt-1 text-sm">
        By {enrolment.reach}: <span className="font-mono break-all">{enrolment.targetForPeople}</span>
      </p>
      <p className="mt-1">
        <span className="font-semibold">Next: </span>
        {step.says}
        {step.until !== null && (
          <>
            {' '}
            Until <When time={step.until} />.
          </>
        )}
      </p>
      {claim?.verdict === 'refused' && (
        <div className="mt-2">
          <Notice kind="harms">
            {enrolment.engine.title} refused on <When time={claim.answeredAt} />: “{claim.reason}”. What our
            check saw stands below.
          </Notice>
        </div>
      )}
      {mayWork && <Actions enrolment={enrolment} />}
      <div className="mt-3">
        {enrolment.placements.map((placement, at) => (
          <PlacementView
            key={placement.method}
            placement={placement}
            open={isOpen(enrolment, at)}
            spare={
              placement.check?.seen === false &&
              (enrolment.badge === 'held' || enrolment.badge === 'in-place')
            }
          />
        ))}
      </div>
    </section>
  );
}

function EnrolButtons({
  property,
  engines,
  enrolments,
}: {
  property: Property;
  engines: readonly Engine[];
  enrolments: readonly Enrolment[];
}) {
  const missing = engines.flatMap((engine) =>
    engine.reaches
      .filter((reach) => !enrolments.some((one) => one.engine.id === engine.id && one.reach === reach))
      .map((reach) => ({ engine, reach })),
  );
  const start = (engine: string, reach: Reach) => () =>
    api.enrol({ body: { properties: [property.id], engines: [engine], reach } });
  return (
    <div className="flex flex-wrap gap-3">
      {missing.map(({ engine, reach }) => (
        <WorkButton key={engine.id + reach} start={start(engine.id, reach)}>
          {`Enrol at ${engine.title} by ${reach}`}
        </WorkButton>
      ))}
    </div>
  );
}

export function EnrolmentList({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const enrolments = useQuery({
    queryKey: ['enrolments', property.id],
    queryFn: () => api.listEnrolments({ query: { property: property.id } }),
  });
  const engines = useQuery({ queryKey: ['engines'], queryFn: () => api.listEngines() });
  return (
    <QueryView query={enrolments} rows={8}>
      {({ items }) => (
        <>
          {items.length === 0 && (
            <div className="mb-3">
              <Notice kind="note">
                Not enrolled with any engine yet. Begin with the house: it proves that the client controls the
                site.
              </Notice>
            </div>
          )}
          {items.map((enrolment) => (
            <EnrolmentView key={enrolment.id} enrolment={enrolment} mayWork={mayWork} />
          ))}
          {mayWork && engines.data && (
            <EnrolButtons property={property} engines={engines.data.items} enrolments={items} />
          )}
        </>
      )}
    </QueryView>
  );
}
