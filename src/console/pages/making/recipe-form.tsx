import type { FormEvent } from 'react';
import type { Making } from '../../../api/documents.js';
import { sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { useEdit } from './edit.js';

/** How long after the last making at the least, where nobody has said. */
const USUAL_AFTER = 'PT6H';

const RHYTHMS = [
  ['', 'only by hand'],
  ['PT6H', 'every six hours'],
  ['P1D', 'every day'],
  ['P7D', 'every week'],
] as const;

/** Where addresses come from, how far it goes and how often it is made: what most people change. */
export function RecipeForm({ making, property }: { making: Making; property: string }) {
  const edit = useEdit(property);
  const { recipe, every } = making;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const lines = (name: string) =>
      String(form.get(name))
        .split(/\s+/u)
        .filter((line) => line !== '');
    const most = String(form.get('most'));
    edit.mutate({
      sources: form.getAll('source') as Making['recipe']['sources'],
      pages: Number(form.get('pages')),
      exclude: lines('exclude'),
      add: lines('add'),
      most: most === '' ? null : Number(most),
      gzip: form.get('gzip') !== null,
      every: String(form.get('every')) || null,
      afterChange: form.get('afterChange') === null ? null : (making.afterChange ?? USUAL_AFTER),
    });
  };
  const field = 'rounded-sm border border-faint bg-paper px-2 py-1';
  return (
    <details className="mb-4">
      <summary className="cursor-pointer text-accent">How it is made</summary>
      <form onSubmit={submit} className="mt-2 grid max-w-3xl gap-x-8 gap-y-3 text-sm sm:grid-cols-2">
        <fieldset>
          <legend className="font-semibold">Addresses come from</legend>
          {(
            [
              ['site', 'the links of its pages, from the front door'],
              ['menus', 'the links of its menus alone'],
              ['sitemap', 'the sitemaps that it has'],
              ['feed', 'its feeds'],
            ] as const
          ).map(([source, says]) => (
            <label key={source} className="flex items-center gap-2">
              <input
                type="checkbox"
                name="source"
                value={source}
                defaultChecked={recipe.sources.includes(source)}
              />
              {says}
            </label>
          ))}
        </fieldset>
        <div className="space-y-2">
          <label className="flex items-center justify-between gap-3">
            Pages that are read at most
            <input
              name="pages"
              type="number"
              min={1}
              defaultValue={recipe.reach.pages}
              className={`${field} w-28`}
            />
          </label>
          <label className="flex items-center justify-between gap-3">
            Addresses at most, the newest first
            <input
              name="most"
              type="number"
              min={1}
              defaultValue={recipe.selection.most ?? ''}
              className={`${field} w-28`}
            />
          </label>
          <label className="flex items-center justify-between gap-3">
            By itself
            <select name="every" defaultValue={every ?? ''} className={field}>
              {RHYTHMS.map(([value, title]) => (
                <option key={value} value={value}>
                  {title}
                </option>
              ))}
              {every !== null && !RHYTHMS.some(([value]) => value === every) && (
                <option value={every}>{every}</option>
              )}
            </select>
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" name="afterChange" defaultChecked={making.afterChange !== null} />
            And once a feed or a sitemap of the website has changed
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" name="gzip" defaultChecked={recipe.selection.gzip} />
            Pack the files (gzip)
          </label>
        </div>
        <label>
          <span className="block font-semibold">Leave out, by patterns as in a robots.txt</span>
          <textarea
            name="exclude"
            rows={3}
            defaultValue={recipe.selection.exclude.join('\n')}
            className={`${field} w-full font-mono`}
          />
        </label>
        <label>
          <span className="block font-semibold">Put in by hand, whole addresses</span>
          <textarea
            name="add"
            rows={3}
            defaultValue={recipe.selection.add.join('\n')}
            className={`${field} w-full font-mono`}
          />
        </label>
        <p className="flex items-center gap-3">
          <Button type="submit" disabled={edit.isPending}>
            Keep it so
          </Button>
          <span role="status" className={edit.error ? 'text-stops' : 'text-faint'}>
            {edit.error ? sayError(edit.error) : edit.data && 'Kept.'}
          </span>
        </p>
      </form>
    </details>
  );
}
