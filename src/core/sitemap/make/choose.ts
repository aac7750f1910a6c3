import type { DateSource, PageKind, Selection, Weighing } from './recipe.js';
import { Ruleset } from '../../robots/ruleset.js';

/** What is known of one page that was gathered, as far as choosing goes. */
export interface Gathered {
  readonly url: string;
  readonly kind: PageKind;
  readonly depth: number;
  /** When it changed: by its own word, by its header, by our own looks. RFC 3339, or a day. */
  readonly dates: Readonly<Partial<Record<DateSource, string>>>;
}

/** Why a page that could go in is left out by choice. */
export const CHOICES = ['not-included', 'excluded', 'kind', 'by-hand', 'too-many'] as const;
export type Choice = (typeof CHOICES)[number];

/** Decides by the selection which pages go in, and what is said of them. */
export class Chooser {
  private readonly include: Ruleset | null;
  private readonly exclude: Ruleset | null;
  private readonly without: ReadonlySet<PageKind>;
  private readonly dropped: ReadonlySet<string>;
  private readonly weighings: readonly { readonly rule: Weighing; readonly pattern: Ruleset | null }[];

  /** @param now nothing is said to have changed later than that */
  constructor(
    private readonly selection: Selection,
    private readonly now: Date,
  ) {
    this.include = patterns(selection.include);
    this.exclude = patterns(selection.exclude);
    this.without = new Set(selection.without);
    this.dropped = new Set(selection.drop);
    this.weighings = selection.weighing.map((rule) => ({
      rule,
      pattern: rule.pattern === undefined ? null : patterns([rule.pattern]),
    }));
  }

  /** Why a page is left out; null where it goes in. */
  against({ url, kind }: Pick<Gathered, 'url' | 'kind'>): Choice | null {
    const path = pathOf(url);
    if (this.dropped.has(url)) return 'by-hand';
    if (this.without.has(kind)) return 'kind';
    if (this.include && !this.include.deciding(path)) return 'not-included';
    return this.exclude?.deciding(path) ? 'excluded' : null;
  }

  /** When a page changed, by the first who is believed and knows; null where nobody does. Never a time to come. */
  changedAt({ dates }: Pick<Gathered, 'dates'>): string | null {
    for (const source of this.selection.dates) {
      const date = dates[source];
      if (date !== undefined && Date.parse(date) <= this.now.getTime()) return date;
    }
    return null;
  }

  /** Priority and frequency, where a rule was made for the page. */
  weighing({
    url,
    kind,
    depth,
  }: Pick<Gathered, 'url' | 'kind' | 'depth'>): Pick<Weighing, 'priority' | 'frequency'> {
    const fitting = this.weighings.filter(
      ({ rule, pattern }) =>
        (pattern === null || pattern.deciding(pathOf(url)) !== null) &&
        (rule.kind === undefined || rule.kind === kind) &&
        (rule.depth === undefined || rule.depth === depth),
    );
    const priority = fitting.find(({ rule }) => rule.priority !== undefined)?.rule.priority;
    const frequency = fitting.find(({ rule }) => rule.frequency !== undefined)?.rule.frequency;
    return {
      ...(priority === undefined ? {} : { priority }),
      ...(frequency === undefined ? {} : { frequency }),
    };
  }
}

function patterns(all: readonly string[]): Ruleset | null {
  if (all.length === 0) return null;
  return new Ruleset(all.map((pattern, at) => ({ allows: true, pattern, line: at + 1 })));
}

/** Path and query of an address, as a pattern is held against it. */
export function pathOf(url: string): string {
  const at = url.indexOf('/', url.indexOf('//') + 2);
  return at === -1 ? '/' : url.slice(at);
}

/** The first folder of an address, by which pages are counted. */
export function folderOf(url: string): string {
  const path = pathOf(url).split('?')[0] ?? '/';
  const end = path.indexOf('/', 1);
  return end === -1 ? '/' : path.slice(0, end + 1);
}

/** Whether a Last-Modified header says something: one that is the time of the answer itself is made up by the server for each. */
export function headerDate(headers: Readonly<Record<string, string>>, now: Date): string | null {
  const time = Date.parse(headers['last-modified'] ?? '');
  if (Number.isNaN(time) || time <= 0) return null;
  const answered = Date.parse(headers['date'] ?? '');
  const nearest = Number.isNaN(answered) ? now.getTime() : answered;
  return Math.abs(nearest - time) < 5_000 || time > now.getTime()
    ? null
    : `${new Date(time).toISOString().slice(0, 19)}Z`;
}
