import { useQuery } from '@tanstack/react-query';
import type { Property, Variants } from '../../../../api/documents.js';
import { api } from '../../../api.js';
import { Field } from '../../../parts/field.js';
import { FindingView } from '../../../parts/finding-view.js';
import { FormSheet } from '../../../parts/form-sheet.js';
import { Notice } from '../../../parts/notice.js';
import { QueryView } from '../../../parts/query-view.js';
import { When } from '../../../parts/when.js';
import { WorkButton } from '../../../parts/work-button.js';
import { History } from './history.js';
import { Picture } from './picture.js';
import { Plan } from './plan.js';
import { VariantTable } from './table.js';

function AddHost({ property }: { property: Property }) {
  return (
    <FormSheet
      opener="Add a host"
      title={`A host that belongs to ${property.handle} too`}
      says="In addition to the bare name and www. It is checked under both schemes."
      send="Add and look"
      onSend={async ({ host = '' }) =>
        api.finished(await api.addHost({ params: { property: property.id }, body: { host } }))
      }
    >
      <Field label="Host" name="host" required hint="For example shop.saltmarsh-ferries.example." />
    </FormSheet>
  );
}

function Hosts({ variants, property, mayWork }: ViewProps & { variants: Variants }) {
  const own = variants.hosts;
  if (own.length === 0) return null;
  return (
    <ul aria-label="Hosts beside the usual ones" className="mt-3 space-y-1 text-sm">
      {own.map(({ host, forPeople, why }) => (
        <li key={host} className="flex flex-wrap items-center gap-3">
          <span>
            <span className="font-mono">{forPeople}</span>{' '}
            <span className="text-faint">{why === 'by-hand' ? 'added by hand' : `met: ${why}`}</span>
          </span>
          {mayWork && (
            <WorkButton start={() => api.dropHost({ params: { property: property.id, host } })}>
              {`Take off ${forPeople}`}
            </WorkButton>
          )}
        </li>
      ))}
    </ul>
  );
}

interface ViewProps {
  property: Property;
  mayWork: boolean;
}

function Seen({ variants, property, mayWork }: ViewProps & { variants: Variants }) {
  if (variants.seenAt === null)
    return <Notice kind="note">The variants were not checked yet: “Check the variants” does it.</Notice>;
  return (
    <>
      <Picture variants={variants} />
      <VariantTable variants={variants} />
      <section aria-label="Findings" className="mt-4 text-sm">
        <h2 className="mb-1 text-lg">Found</h2>
        <p className="mb-2 text-faint">
          Looked <When time={variants.seenAt} />.
        </p>
        <ul className="space-y-2">
          {variants.findings.map((one) => (
            <FindingView
              key={one.code + one.says}
              one={one}
              tells={['stops', 'harms', 'note']}
              isOurs={one.since === null}
            />
          ))}
        </ul>
      </section>
      <Plan property={property} mayWork={mayWork} />
      <Hosts variants={variants} property={property} mayWork={mayWork} />
      <History variants={variants} />
    </>
  );
}

/** The variants of a property: picture, table, findings, plan, and what was so before. */
export function VariantsView({ property, mayWork }: ViewProps) {
  const query = useQuery({
    queryKey: ['variants', property.id],
    queryFn: () => api.showVariants({ params: { property: property.id } }),
  });
  return (
    <QueryView query={query}>
      {(variants) => (
        <>
          {mayWork && (
            <div className="mb-3 flex flex-wrap gap-3">
              <WorkButton start={() => api.lookAtVariants({ body: { properties: [property.id] } })}>
                Check the variants
              </WorkButton>
              <AddHost property={property} />
            </div>
          )}
          <Seen variants={variants} property={property} mayWork={mayWork} />
        </>
      )}
    </QueryView>
  );
}
