import { useMutation, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { WorkEntry } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { api, queries } from '../api.js';
import { Button } from '../parts/button.js';
import { Choice } from '../parts/choice.js';
import { DayField, dayGiven } from '../parts/day-field.js';
import { Field } from '../parts/field.js';
import { FormSheet } from '../parts/form-sheet.js';
import { useReporting } from '../parts/settling.js';
import { When } from '../parts/when.js';
import { WriteAbout } from '../parts/write-about.js';
import { StepButton } from './step-button.js';

/** Which steps an entry of the list is: of one property, or of all that are to be enrolled. */
function meant({ step, property, properties, engines }: WorkEntry) {
  return {
    kind: step.kind,
    ...(properties > 1 ? {} : { property: property.id }),
    ...(engines.length === 0 ? {} : { engines: engines.map(({ id }) => id) }),
  };
}

const DAY_MS = 24 * 3_600_000;

/** A day to come by the service's clock, as a field for days takes it. */
function useDaysOn(): (days: number) => string | undefined {
  const { data } = useQuery({ queryKey: ['session'], queryFn: () => api.whoAmI() });
  return (days) => data && new Date(Date.parse(data.now) + days * DAY_MS).toISOString().slice(0, 10);
}

function PutOff({ entry }: { entry: WorkEntry }) {
  const daysOn = useDaysOn();
  return (
    <FormSheet
      opener="Put off"
      look="quiet"
      title="Put it off until a day"
      says="It moves to the end of everybody’s list until then. If things change earlier, it goes away by itself."
      send="Put off"
      onSend={async ({ until = '', why = '' }) =>
        api.putOffSteps({ body: { ...meant(entry), until: await dayGiven(until), why } })
      }
      outcome={({ until = '' }) => ({
        says: `Put off: ${until}.`,
        undo: async () => {
          await api.takeUpSteps({ body: meant(entry) });
          await queries.invalidateQueries();
        },
      })}
    >
      <DayField label="Until" name="until" required defaultValue={daysOn(7) ?? ''} />
      <Field
        label="Why"
        name="why"
        required
        maxLength={300}
        hint="For your colleagues, for example “the client is on holiday”."
      />
    </FormSheet>
  );
}

function Hand({ entry }: { entry: WorkEntry }) {
  return (
    <FormSheet
      opener={entry.person === null ? 'Hand over' : `Handed to ${entry.person}`}
      look="quiet"
      title="Hand it to a person"
      says="Their name stands beside the step, and the list can be narrowed to it."
      send="Hand over"
      onSend={({ person = '' }) =>
        api.handSteps({ body: { ...meant(entry), person: person === NOBODY ? null : person } })
      }
      outcome={({ person = '' }) => ({
        says: person === NOBODY ? 'Handed to nobody in particular.' : `Handed to ${person}.`,
        undo: async () => {
          await api.handSteps({ body: { ...meant(entry), person: entry.person } });
          await queries.invalidateQueries();
        },
      })}
    >
      <Persons current={entry.person} />
    </FormSheet>
  );
}

const NOBODY = 'nobody in particular';

function TakeUp({ takeUp }: { takeUp: () => Promise<unknown> }) {
  const report = useReporting();
  const taking = useMutation({
    mutationFn: takeUp,
    onSuccess: async () => {
      report({ says: 'Taken up again.' });
      await queries.invalidateQueries();
    },
  });
  return (
    <Button
      look="quiet"
      disabled={taking.isPending}
      onClick={() => {
        taking.mutate();
      }}
    >
      Take up again
    </Button>
  );
}

function Persons({ current }: { current: string | null }) {
  const persons = useQuery({ queryKey: ['session', 'persons'], queryFn: () => api.listPersons({}) });
  if (!persons.data) return <p className="waiting text-faint">Reading who is here …</p>;
  const names = persons.data.items.filter(({ role }) => role !== 'onlooker').map(({ name }) => name);
  return (
    <Choice
      label="To"
      name="person"
      options={[...names, NOBODY].map((name) => [name, name] as const)}
      {...(current === null ? {} : { value: current })}
    />
  );
}

/** What can be said of a step: that it is left, or whose it is. */
function Said({ entry }: { entry: WorkEntry }) {
  const takeUp = () => api.takeUpSteps({ body: meant(entry) });
  return (
    <span className="flex flex-wrap gap-x-3">
      {entry.putOff ? <TakeUp takeUp={takeUp} /> : <PutOff entry={entry} />}
      <Hand entry={entry} />
    </span>
  );
}

/** By which an entry is told from others, as long as it says the same. */
export function keyOfStep({ step, property, engines }: WorkEntry): string {
  return `${step.kind} ${property.id} ${engines.map(({ id }) => id).join(' ')} ${step.says}`;
}

/** What an entry that is done is called. */
export function titleOfStep({ step, property, properties }: WorkEntry): string {
  return `${step.kind.replaceAll('-', ' ')}, ${properties > 1 ? counted(properties, 'property', 'properties') : property.handle}`;
}

/** The columns of what the morning and the list of next steps show. */
export const STEP_COLUMNS = 'grid gap-x-4 border-t border-rule px-3 py-2 md:grid-cols-[9rem_12rem_1fr_11rem]';

/** Whether it is about the enrolment of a whole name, which another of one address may stand beside. */
function isByName({ enrolments }: WorkEntry): boolean {
  return enrolments.length === 1 && enrolments[0]?.name.endsWith(':name') === true;
}

/** One thing to do, in the columns of a list: its kind, where, why with what can be done about it, and since when. */
export function StepLine({
  entry,
  mayWork,
  where,
}: {
  entry: WorkEntry;
  mayWork: boolean;
  where?: ReactNode;
}) {
  const { step, property, properties, putOff } = entry;
  return (
    <li className={STEP_COLUMNS}>
      <span className="font-semibold">{step.kind.replaceAll('-', ' ')}</span>
      <span>
        {properties > 1 ? (
          counted(properties, 'property', 'properties')
        ) : (
          <Link to={`/properties/${property.handle}`}>{property.handle}</Link>
        )}
        {where}
        {isByName(entry) && <span className="text-sm text-faint"> by name</span>}
      </span>
      <span>
        {step.says}
        {putOff && (
          <span className="block text-sm">
            Put off{putOff.who === null ? '' : ` by ${putOff.who}`}: {putOff.why}
          </span>
        )}
        {mayWork && (
          <span className="mt-1 block empty:hidden">
            <StepButton entry={entry} />
            {properties === 1 && (
              <WriteAbout
                kind={step.kind}
                property={property.handle}
                enrolments={entry.enrolments.map(({ name }) => name)}
              />
            )}
          </span>
        )}
      </span>
      <span className="text-sm text-faint">
        {putOff ? 'put off until ' : step.until === null ? 'since ' : 'until '}
        <When time={putOff?.until ?? step.until ?? step.since} />
        {mayWork && <Said entry={entry} />}
      </span>
    </li>
  );
}
