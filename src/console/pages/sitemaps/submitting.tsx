import { useMutation } from '@tanstack/react-query';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import type { Sitemap } from '../../../api/documents.js';
import { api, sayError } from '../../api.js';
import { Asking } from '../../parts/asking.js';
import { Button } from '../../parts/button.js';
import { useWork } from '../../parts/work.js';

type Finding = NonNullable<Sitemap['reading']>['findings'][number];

/**
 * Makes a sitemap known to the engines whose badge covers it. One that no engine knows so far is read first, and asked about where
 * something is wrong with it; the service itself refuses one that cannot be read.
 */
export function Submit({ sitemap }: { sitemap: Pick<Sitemap, 'id' | 'submissions'> }) {
  const [wrong, setWrong] = useState<readonly Finding[]>([]);
  const submit = useWork(() => api.submitSitemap({ body: { sitemap: sitemap.id } }));
  const look = useMutation({
    mutationFn: async () => {
      if (sitemap.submissions.length > 0) return [];
      await api.finished(await api.readSitemaps({ body: { sitemap: sitemap.id } }));
      const { reading } = await api.showSitemap({ params: { sitemap: sitemap.id } });
      return (reading?.findings ?? []).filter(({ grade }) => grade === 'harms');
    },
    onSuccess: (harms) => {
      if (harms.length === 0) submit.run();
      else setWrong(harms);
    },
  });
  const says = look.isPending ? 'Reading it first …' : look.error ? sayError(look.error) : submit.says;
  const stops = look.error !== null || submit.stops;
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <Button
        disabled={look.isPending || submit.isRunning}
        onClick={() => {
          look.mutate();
        }}
      >
        Submit
      </Button>
      <AlertDialog.Root
        open={wrong.length > 0}
        onOpenChange={() => {
          setWrong([]);
        }}
      >
        <Asking
          title="Submit it all the same?"
          says="It can be read, but the engines will find this in it:"
          act="Submit it"
          leave="Leave it"
          onAct={submit.run}
        >
          <ul className="mb-4 list-disc pl-5 text-sm">
            {wrong.map((one) => (
              <li key={one.code + one.says}>{one.says}</li>
            ))}
          </ul>
        </Asking>
      </AlertDialog.Root>
      <span role="status" className={`text-sm ${stops ? 'text-stops' : 'text-faint'}`}>
        {says}
      </span>
    </span>
  );
}
