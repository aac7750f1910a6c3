import type { Sitemap, Submission } from '../../../api/documents.js';
import { When } from '../../parts/when.js';

/** States of comparison that are a case to work on, and those that only time mends. */
const CASES = new Set<Submission['counts']['state']>(['overdue', 'troubled', 'broken', 'apart']);

export function isCase({ counts, tooMany }: Submission): boolean {
  return CASES.has(counts.state) || tooMany !== null;
}

export function kindWords({ kind, children }: NonNullable<Sitemap['reading']>): string {
  switch (kind) {
    case 'index':
      return `index of ${String(children)}`;
    case 'rss':
      return 'RSS feed';
    case 'atom':
      return 'Atom feed';
    case 'text':
      return 'list of addresses';
    case 'urlset':
      return 'sitemap';
    case null:
      return 'unreadable';
  }
}

/** Whether a sitemap was made known by the enrolment of the site's name, beside which there may be one of its address. */
export function ByName({ submission }: { submission: Submission }) {
  if (!submission.enrolmentName.endsWith(':name')) return null;
  return <span className="text-sm font-normal text-faint"> by name</span>;
}

/** A gap in words: how many the engine lacks, or has too many. */
export function gapWords(gap: number): string {
  return gap > 0 ? `${String(gap)} fewer than ours` : `${String(-gap)} more than ours`;
}

/** What the counts of one submission say; a wait is told apart from what is to be done. */
export function Compared({ submission }: { submission: Submission }) {
  const { state, gap, dueBy, since } = submission.counts;
  const tone = CASES.has(state) ? 'font-semibold text-harms' : 'text-faint';
  return <span className={tone}>{words()}</span>;

  function words() {
    switch (state) {
      case 'equal':
        return 'equal to ours';
      case 'apart':
        return gap === null ? 'ours is unread' : withTime(gapWords(gap), 'since', since);
      case 'behind':
        return withTime('right when it looked; ours changed', '', since);
      case 'waiting':
        return withTime('waiting', 'due by', dueBy);
      case 'overdue':
        return (
          <>
            {withTime('overdue', 'since', dueBy)}
            {submission.askedAt !== null && withTime('', 'as of', submission.askedAt)}
          </>
        );
      case 'troubled':
        return 'says that it could not, though we can';
      case 'broken':
        return 'cannot be read before it is mended';
    }
  }
}

function withTime(says: string, word: string, time: string | null) {
  if (time === null) return says;
  return (
    <>
      {says}
      {word === '' ? ' ' : `, ${word} `}
      <When time={time} />
    </>
  );
}

/** A change of a count, with its sign. */
export function Change({ now, before }: { now: number; before: number | null }) {
  if (before === null || before === now) return null;
  const fell = now < before;
  return (
    <span className={`text-sm ${fell ? 'text-harms' : 'text-faint'}`}>
      {fell ? '−' : '+'}
      {Math.abs(now - before)}
      <span className="sr-only"> since the reading before</span>
    </span>
  );
}
