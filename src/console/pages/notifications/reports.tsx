import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { NewReport, ReportOrder } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { FormSheet, type Filled } from '../../parts/form-sheet.js';
import { Listed, ListedLine } from '../../parts/listed.js';
import { QueryView } from '../../parts/query-view.js';
import { Sheet } from '../../parts/sheet.js';
import { When } from '../../parts/when.js';
import { Mono } from './mono.js';
import { given } from '../../../api/given.js';

const EVERY = [
  ['week', 'week, on Monday'],
  ['month', 'month, on the first'],
] as const;
const TO = [
  ['me', 'me'],
  ['contact', 'the client’s contact on record'],
  ['email', 'this address of the client’s people'],
] as const;

/** What was filled in, as the service takes it. */
function orderOf({ client, to, email, every, at = '07:00', zone }: Filled): NewReport {
  return {
    ...given({ client }),
    ...(to === 'me' ? { person: 'me' } : to === 'contact' ? { contact: true } : { email: email ?? '' }),
    every: every === 'month' ? 'month' : 'week',
    at,
    ...given({ zone }),
  };
}

/** @param onOrdered is told which one was ordered, so that it is seen before it first goes */
function OrderReport({ onOrdered }: { onOrdered: (id: string) => void }) {
  return (
    <FormSheet
      opener="Order a report"
      title="A report by mail"
      says="What stands, what changed, and what the client’s people have to do. Whoever gets it can stop it."
      send="Order it"
      onSend={async (filled) => {
        const { id } = await api.addReport({ body: orderOf(filled) });
        onOrdered(id);
      }}
    >
      <Field
        label="Of the client"
        name="client"
        hint="Its handle; leave it empty for all clients, for colleagues only."
      />
      <Choice label="To" name="to" options={TO} />
      <Field label="Address" name="email" type="email" hint="Only for a report to a mail address." />
      <Choice label="Every" name="every" options={EVERY} />
      <Field label="At" name="at" type="time" required defaultValue="07:00" />
      <Field label="Time zone" name="zone" hint="Such as Europe/Berlin; empty for yours." />
    </FormSheet>
  );
}

/** What it would say now, in a sheet. */
function ShowReport({ id, isNew }: { id: string; isNew: boolean }) {
  const [open, setOpen] = useState(isNew);
  const query = useQuery({
    queryKey: ['report', id],
    queryFn: () => api.showReport({ params: { id } }),
    enabled: open,
  });
  return (
    <Sheet
      opener="Show"
      title="If it were sent now"
      says="As plain text; the mail has the same with headings and links."
      open={open}
      onOpen={setOpen}
      wide
    >
      <QueryView query={query}>
        {({ subject, text }) => (
          <>
            <p className="font-semibold">{subject}</p>
            <Mono>{text}</Mono>
          </>
        )}
      </QueryView>
    </Sheet>
  );
}

function reportWords({ client, person, email, every, at, zone }: ReportOrder): string {
  return `of ${client ?? 'all clients'} to ${person ?? email ?? 'nobody'}, every ${every} at ${at}, ${zone}; next`;
}

export function Reports({ mayWork }: { mayWork: boolean }) {
  const [ordered, setOrdered] = useState<string | null>(null);
  const query = useQuery({ queryKey: ['reports'], queryFn: () => api.listReports() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed
          title="Reports"
          none="No report is scheduled."
          act={mayWork && <OrderReport onOrdered={setOrdered} />}
        >
          {items.map((one) => (
            <ListedLine
              key={one.id}
              name="Report"
              act={
                <>
                  <ShowReport id={one.id} isNew={one.id === ordered} />
                  {mayWork && (
                    <FormSheet
                      opener="End"
                      title="Send it no more"
                      says={`The report ${reportWords(one).replace(/; next$/u, '')}.`}
                      send="End it"
                      onSend={() => api.endReport({ params: { id: one.id } })}
                    >
                      <p className="mb-2">What was sent stays where it is.</p>
                    </FormSheet>
                  )}
                </>
              }
            >
              {reportWords(one)} <When time={one.nextAt} />
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}
