import { useQuery } from '@tanstack/react-query';
import type { Property, WantedFact } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { given } from '../../../api/given.js';

/** Something that an engine asks, to be answered. */
export function FactField({ fact, value }: { fact: WantedFact; value?: string }) {
  const { id, title, oneOf, form } = fact;
  if (oneOf)
    return (
      <Choice
        label={title}
        name={id}
        required
        options={oneOf.map((one) => [one, one])}
        {...given({ value })}
      />
    );
  return (
    <Field
      label={title}
      name={id}
      required
      defaultValue={value ?? ''}
      {...(form === 'languages'
        ? { hint: 'By code or name, for example “fi, en” or “Finnish, English”.' }
        : {})}
    />
  );
}

/** What engines ask about a property at registration, and what they are told. */
export function FactsTold({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const engines = useQuery({ queryKey: ['engines'], queryFn: () => api.listEngines({}) });
  const asked = new Map(
    (engines.data?.items ?? []).flatMap(({ facts }) => facts.map((fact) => [fact.id, fact])),
  );
  const known = Object.entries(property.facts);
  if (known.length === 0) return null;
  const fields = known.flatMap(([id]) => asked.get(id) ?? []);
  const askedBy = (id: string) =>
    (engines.data?.items ?? []).filter(({ facts }) => facts.some((fact) => fact.id === id));
  return (
    <div className="mb-3">
      <h3 className="text-sm font-semibold">Told to engines at registration</h3>
      <dl className="mt-1 mb-2 grid grid-cols-[8rem_1fr] gap-x-4 text-sm">
        {known.map(([id, answer]) => (
          <div key={id} className="contents">
            <dt className="text-faint">{asked.get(id)?.title ?? id}</dt>
            <dd>
              {answer}
              <span className="text-faint">
                {' '}
                {askedBy(id)
                  .map(({ title }) => title)
                  .join(', ')}
              </span>
            </dd>
          </div>
        ))}
      </dl>
      {mayWork && fields.length > 0 && (
        <FormSheet
          opener="Correct what is told"
          title={`What engines are told of ${property.handle}`}
          says="Counts for future registrations. What an engine already knows, change on its own pages."
          send="Keep it"
          onSend={(filled) =>
            api.editProperty(
              { params: { property: property.id }, body: { facts: { ...filled } } },
              { ifMatch: property.version },
            )
          }
        >
          {fields.map((fact) => (
            <FactField key={fact.id} fact={fact} value={property.facts[fact.id] ?? ''} />
          ))}
        </FormSheet>
      )}
    </div>
  );
}
