import { useQuery } from '@tanstack/react-query';
import type { Property } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { Button } from '../../parts/button.js';
import { useWork } from '../../parts/work.js';
import { Preview, Report } from './preview.js';
import { Progress } from './progress.js';
import { RecipeForm } from './recipe-form.js';
import { VersionRow, Write } from './versions.js';

/** Milliseconds after which a gathering that is under way is looked at again. */
const AGAIN_MS = 1_000;

/** How the sitemap of a property is made: gathered, looked at, written. */
export function MakingView({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const params = { property: property.id };
  const gather = useWork(() => api.makeSitemap({ params, body: {} }));
  const making = useQuery({
    queryKey: ['making', property.id],
    queryFn: () => api.showMaking({ params }),
    refetchInterval: ({ state }) =>
      gather.isRunning || state.data?.gathering?.state === 'under-way' ? AGAIN_MS : false,
  });
  return (
    <QueryView query={making}>
      {(one) => (
        <>
          <p className="mb-2 text-sm">
            A sitemap made here, to stand at <span className="font-mono break-all">{one.url}</span>.{' '}
            {one.nextAt !== null && (
              <span className="text-faint">
                Made next by itself <When time={one.nextAt} />.
              </span>
            )}
          </p>
          {mayWork && <RecipeForm making={one} property={property.id} />}
          {mayWork && (
            <p className="mb-4 flex flex-wrap gap-3">
              <span className="inline-flex flex-wrap items-center gap-2">
                <Button
                  look={one.gathering ? 'plain' : 'main'}
                  disabled={gather.isRunning}
                  onClick={gather.run}
                >
                  {one.gathering ? 'Gather anew' : 'Gather its pages'}
                </Button>
                <span role="status" className={`text-sm ${gather.stops ? 'text-stops' : 'text-faint'}`}>
                  {gather.says}
                </span>
              </span>
              {one.preview && <Write property={property.id} />}
            </p>
          )}
          {one.gathering ? (
            <Progress gathering={one.gathering} />
          ) : (
            <Notice kind="note">
              Nothing was gathered yet. Its pages are read politely, two at a time, and nothing is written
              before somebody has looked at what was found.
            </Notice>
          )}
          <Preview making={one} property={property.id} mayWork={mayWork} />
          <Report making={one} />
          {one.versions.length > 0 && (
            <section aria-label="Versions">
              <h2 className="mb-1 text-lg">What was written</h2>
              <ul>
                {one.versions.map((version, at) => (
                  <VersionRow key={version.id} version={version} isNewest={at === 0} mayWork={mayWork} />
                ))}
              </ul>
            </section>
          )}
        </>
      )}
    </QueryView>
  );
}
