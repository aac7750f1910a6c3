import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../api.js';
import { Notice } from '../parts/notice.js';
import { QueryView } from '../parts/query-view.js';
import { TagMark } from '../parts/tag-mark.js';
import { When } from '../parts/when.js';

/** Everything that can be done or is waited for, worst and oldest harm first. */
export function NextPage() {
  const work = useQuery({ queryKey: ['worklist'], queryFn: () => api.worklist() });
  return (
    <>
      <h1 className="mb-3 text-2xl">Next steps</h1>
      <QueryView query={work}>
        {({ items }) =>
          items.length === 0 ? (
            <Notice kind="note">Nothing to do: every badge is held, every sitemap read.</Notice>
          ) : (
            <ol className="border-b border-rule bg-sheet">
              {items.map(({ property, engine, enrolment, badge, step }) => (
                <li
                  key={enrolment?.id ?? property.id + engine.id}
                  className="grid gap-x-4 border-t border-rule px-3 py-2 md:grid-cols-[9rem_14rem_1fr_9rem]"
                >
                  <span className="font-semibold">{step.kind.replaceAll('-', ' ')}</span>
                  <span>
                    <Link to={`/properties/${property.handle}`}>{property.handle}</Link> at{' '}
                    {engine.id === 'all' ? 'all engines' : engine.title}
                    <span className="block">
                      {badge ? (
                        <TagMark
                          badge={badge}
                          label={`${badge}, by ${enrolment?.name.split(':')[1] ?? ''}`}
                        />
                      ) : (
                        <span className="text-sm text-faint">
                          {step.kind === 'mend-site' ? 'the website itself' : 'not enrolled there'}
                        </span>
                      )}
                    </span>
                  </span>
                  <span>{step.says}</span>
                  <span className="text-sm text-faint">
                    {step.until === null ? 'since ' : 'until '}
                    <When time={step.until ?? step.since} />
                  </span>
                </li>
              ))}
            </ol>
          )
        }
      </QueryView>
    </>
  );
}
