import type { PublishStep } from '../../core/publish/plan.js';

/** What was done about one thing, in a word. */
export const WORDS: Readonly<Record<PublishStep['act'], string>> = {
  put: 'put',
  replace: 'replaced',
  leave: 'left',
  refuse: 'refused',
  'take-away': 'took away',
};

/** What was done about one thing: why it was to be there, without what stood in its place before. */
export function saysDone({ act, says }: PublishStep): string {
  const [why = says] = says.split('; ');
  switch (act) {
    case 'put':
      return `${why}; put there now.`;
    case 'replace':
      return `${why}; the older one is replaced.`;
    case 'take-away':
      return 'Taken away: nobody needs it any more.';
    case 'leave':
    case 'refuse':
      return says;
  }
}

/** What was to be done about one thing and could not be. @param why undefined where nothing went wrong */
export function saysFailed({ act, says }: PublishStep, why: string | undefined): string {
  if (why === undefined) return says;
  const [what = says] = says.split('; ');
  return act === 'take-away' ? `Not taken away: ${why}` : `${what}; not put there: ${why}`;
}

/** What would be done at a target. */
export function sayPlan(steps: readonly PublishStep[]): string {
  const count = (act_: PublishStep['act']) => steps.filter((one) => one.act === act_).length;
  const parts = [
    [count('put') + count('replace'), 'to put'],
    [count('leave'), 'there already'],
    [count('refuse'), 'in the way'],
    [count('take-away'), 'no longer needed'],
  ] as const;
  const said = parts.filter(([many]) => many > 0).map(([many, what]) => `${String(many)} ${what}`);
  return said.length === 0 ? 'Nothing is to be published there.' : `${said.join(', ')}.`;
}

/** What was done there, and what was left. */
export function sayDone(
  steps: readonly PublishStep[],
  done: readonly PublishStep[],
  failed: ReadonlyMap<PublishStep, string>,
): string {
  const unreadable = steps.filter((one) => one.isUnreadable === true);
  const refused = steps.filter((one) => one.act === 'refuse' && !unreadable.includes(one));
  const nothing = failed.size > 0 ? 'Nothing was published.' : 'Nothing had to be published.';
  return [
    done.length === 0 ? nothing : `Published: ${namesOf(done)}.`,
    refused.length === 0 ? '' : `Left as it is, since we did not put it there: ${namesOf(refused)}.`,
    ...unreadable.map(({ says }) => says),
    ...reasons(failed).map(
      ([why, some]) =>
        `${some[0]?.act === 'take-away' ? 'Not taken away' : 'Not put there'}: ${namesOf(some)}. ${why}`,
    ),
  ]
    .filter(Boolean)
    .join(' ');
}

/** Names that are said; of a sitemap in hundreds of files nobody reads them all. */
const MOST_NAMED = 10;

export function namesOf(steps: readonly PublishStep[]): string {
  const names = steps.slice(0, MOST_NAMED).map(({ name }) => name);
  const more = steps.length - names.length;
  return `${names.join(', ')}${more > 0 ? ` and ${String(more)} more` : ''}`;
}

/** What could not be done, together where it is for the same reason. */
function reasons(failed: ReadonlyMap<PublishStep, string>): [why: string, steps: PublishStep[]][] {
  const found = new Map<string, PublishStep[]>();
  for (const [step, why] of failed) {
    const key = `${step.act === 'take-away' ? '-' : '+'}${why}`;
    found.set(key, [...(found.get(key) ?? []), step]);
  }
  return [...found].map(([key, steps]) => [key.slice(1), steps]);
}
