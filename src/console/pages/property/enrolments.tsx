import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import type { Enrolment, Placement, Property, Reach } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { TagMark } from '../../parts/tag-mark.js';
import { When } from '../../parts/when.js';
import { WriteAbout } from '../../parts/write-about.js';
import { WorkButton } from '../../parts/work-button.js';
import { PasteToken, RecordVerdict } from './manual.js';
import { ClaimButton } from './claiming.js';
import { Undoing } from './ending.js';
import { Fitting } from './fitting.js';
import { MethodAdvice } from './method-advice.js';
import { PlacementView } from './placement/placement.js';

/** The placement that is worked on: one that stands, else one where somebody tried, else the one claimed by, else the first. */
function isOpen(enrolment: Enrolment, at: number): boolean {
  const { placements, claim } = enrolment;
  const first = (fits: (one: Placement) => boolean) => placements.findIndex(fits);
  const candidates = [
    first((one) => one.check?.seen === true),
    first((one) => one.check?.tried === true),
    first((one) => one.method === claim?.method),
    0,
  ];
  const chosen = candidates.find((found) => found >= 0);
  return at === chosen && enrolment.badge !== 'held';
}

function Actions({ enrolment, property }: { enrolment: Enrolment; property: Property }) {
  const { id, placements, badge, byHand, missingSince } = enrolment;
  const only = { body: { enrolments: [id] } };
  if (missingSince !== null) {
    const body = { properties: [property.id], engines: [enrolment.engine.id], reach: enrolment.reach };
    return (
      <div className="mt-2">
        <WorkButton look="main" start={() => api.enrol({ body })}>
          Enrol again
        </WorkButton>
      </div>
    );
  }
  if (byHand)
    return (
      <div className="mt-2 flex flex-wrap gap-3">
        <PasteToken enrolment={enrolment} />
        {placements.length > 0 && <WorkButton start={() => api.check(only)}>Check</WorkButton>}
        {placements.length > 0 && <RecordVerdict enrolment={enrolment} />}
      </div>
    );
  return (
    <div className="mt-2 flex flex-wrap gap-3">
      {placements.length < enrolment.methods.length && (
        <WorkButton look={badge === 'bare' ? 'main' : 'plain'} start={() => api.getTokens(only)}>
          Get tokens
        </WorkButton>
      )}
      {placements.length > 0 && <WorkButton start={() => api.check(only)}>Check</WorkButton>}
      {placements.length > 0 && badge !== 'held' && <ClaimButton enrolment={enrolment} />}
    </div>
  );
}

interface EnrolmentViewProps {
  enrolment: Enrolment;
  property: Property;
  mayWork: boolean;
}

/** Brings the enrolment into view that the address names, so that a cell of the yard opens its own. */
function useArrival(id: string) {
  const place = useRef<HTMLElement>(null);
  const { hash } = useLocation();
  const isMeant = hash === `#${id}`;
  useEffect(() => {
    if (!isMeant) return;
    place.current?.scrollIntoView({ block: 'start' });
    place.current?.focus({ preventScroll: true });
  }, [isMeant]);
  return { place, isMeant };
}

function Word({ enrolment }: { enrolment: Enrolment }) {
  const { claim, ownership, suspended, missingSince, engine } = enrolment;
  return (
    <div className="mt-2 space-y-2 empty:hidden">
      {missingSince !== null && (
        <Notice kind="harms">
          {engine.title} does not know this enrolment any more, since <When time={missingSince} />. Nothing is
          wrong with the site.
        </Notice>
      )}
      {suspended.map((one) => (
        <Notice key={one.work} kind="note">
          {engine.title} has switched {one.work} off until <When time={one.until} />. A wait, not a failure.
        </Notice>
      ))}
      {claim?.verdict === 'refused' && (
        <Notice kind="harms">
          {engine.title} refused on <When time={claim.answeredAt} />: “{claim.reason}”
          {claim.recordedBy !== null && `, recorded by ${claim.recordedBy}`}. What our check saw stands below.
        </Notice>
      )}
      {ownership !== null && ownership.recordedBy !== null && (
        <p className="text-sm text-faint">
          {ownership.kind === 'confirmed' ? 'Confirmed' : 'Withdrawn'} <When time={ownership.at} />, recorded
          by {ownership.recordedBy}.
        </p>
      )}
    </div>
  );
}

function EnrolmentView({ enrolment, property, mayWork }: EnrolmentViewProps) {
  const { step } = enrolment;
  const { place, isMeant } = useArrival(enrolment.id);
  return (
    <section
      ref={place}
      id={enrolment.id}
      tabIndex={-1}
      aria-label={enrolment.name}
      className={`mb-4 border bg-sheet p-4 outline-none ${isMeant ? 'border-accent' : 'border-rule'}`}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="text-lg">{enrolment.engine.title}</h2>
        <TagMark badge={enrolment.badge} />
        <span className="text-sm text-faint">
          since <When time={enrolment.badgeSince} />
        </span>
        <span className="ml-auto font-mono text-sm text-faint">{enrolment.name}</span>
      </div>
      <p className="mt-1 text-sm">
        By {enrolment.reach}: <span className="font-mono break-all">{enrolment.targetForPeople}</span>{' '}
        <span className="text-faint">under the account {enrolment.account.handle}</span>
      </p>
      <p className="mt-1">
        <span className="font-semibold">Next: </span>
        {step.says}
        {step.until !== null && (
          <>
            {' '}
            Until <When time={step.until} />.
          </>
        )}{' '}
        {mayWork && <WriteAbout kind={step.kind} property={property.handle} enrolments={[enrolment.name]} />}
      </p>
      <Word enrolment={enrolment} />
      {mayWork && <Actions enrolment={enrolment} property={property} />}
      {enrolment.placements.every(({ check }) => check?.tried !== true) && (
        <MethodAdvice enrolment={enrolment} />
      )}
      <div className="mt-3">
        {enrolment.placements.map((placement, at) => (
          <PlacementView
            key={placement.method}
            placement={placement}
            asOf={enrolment.asOf}
            open={isOpen(enrolment, at)}
            spare={
              placement.check?.seen === false &&
              (enrolment.badge === 'held' ||
                enrolment.badge === 'in-place' ||
                (!placement.check.tried && enrolment.placements.some((one) => one.check?.tried === true)))
            }
          />
        ))}
      </div>
      {mayWork && <Undoing enrolment={enrolment} />}
    </section>
  );
}

/** An engine with both reaches can be enrolled with by the other one too. */
function OtherReach({ property, enrolments }: { property: Property; enrolments: readonly Enrolment[] }) {
  const engines = useQuery({ queryKey: ['engines'], queryFn: () => api.listEngines() });
  const missing = (engines.data?.items ?? [])
    .filter(({ id }) => enrolments.some((one) => one.engine.id === id))
    .flatMap((engine) =>
      engine.reaches
        .filter((reach) => !enrolments.some((one) => one.engine.id === engine.id && one.reach === reach))
        .map((reach) => ({ engine, reach })),
    );
  if (missing.length === 0) return null;
  const start = (engine: string, reach: Reach) => () =>
    api.enrol({ body: { properties: [property.id], engines: [engine], reach } });
  return (
    <div className="mb-4 flex flex-wrap gap-3">
      {missing.map(({ engine, reach }) => (
        <WorkButton key={engine.id + reach} start={start(engine.id, reach)}>
          {`Enrol at ${engine.title} by ${reach} too`}
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
  return (
    <QueryView query={enrolments} rows={8}>
      {({ items }) => (
        <>
          {items.length === 0 && (
            <div className="mb-3">
              <Notice kind="note">
                Not enrolled with any engine yet. Those that matter stand below, the first one first.
              </Notice>
            </div>
          )}
          {items.map((enrolment) => (
            <EnrolmentView key={enrolment.id} enrolment={enrolment} property={property} mayWork={mayWork} />
          ))}
          {mayWork && <OtherReach property={property} enrolments={items} />}
          <Fitting property={property} mayWork={mayWork} />
        </>
      )}
    </QueryView>
  );
}
