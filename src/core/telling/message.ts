import { aboutWords } from '../time/duration.js';
import { writtenMinute } from '../time/written.js';
import type { CaseKind } from './cases.js';

/** A case as it is told: opened, or over. */
export interface CaseTold {
  readonly id: string;
  readonly kind: CaseKind;
  /** The handle of its property; null where it is ourselves. */
  readonly property: string | null;
  readonly client: string | null;
  readonly says: string;
  readonly remedy: string;
  readonly touches: readonly string[];
  readonly since: Date;
  readonly openedAt: Date;
  /** When it was over; null where it is told that it has come. */
  readonly endedAt: Date | null;
}

/** What is sent: a subject, and the same as plain text and as HTML. */
export interface Message {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

const TITLE: Readonly<Record<CaseKind, string>> = {
  lost: 'badge lost',
  slipping: 'token gone',
  'enrolment-lost': 'enrolment lost at the engine',
  moved: 'front door moved',
  'stays-away': 'engines are asked to stay away',
  'out-of-reach': 'out of reach',
  'sitemap-unreachable': 'sitemap out of reach',
  'sitemap-fallen': 'sitemap fell',
  'cut-off': 'nothing can be reached from here',
  certificate: 'certificate runs out',
  'token-ends': 'token runs out',
  'reading-overdue': 'reading overdue',
  'sitemap-still': 'sitemap stands still',
};

/** Which tab of a property's page shows a case. */
const TAB: Readonly<Partial<Record<CaseKind, string>>> = {
  moved: 'variants',
  'stays-away': 'variants',
  certificate: 'variants',
  'sitemap-unreachable': 'sitemaps',
  'sitemap-fallen': 'sitemaps',
  'sitemap-still': 'sitemaps',
  'reading-overdue': 'sitemaps',
};

/** Cases of a storm that are named one by one; the rest is counted. */
const MOST_NAMED = 12;
/** What a case touches is named so far. */
const MOST_TOUCHED = 8;

/**
 * What is told at once: the cases of one property, or a storm over many.
 * @param base where the console is, without a slash at its end
 */
export function messageAtOnce(cases: readonly CaseTold[], base: string): Message {
  const properties = [...new Set(cases.map(({ property }) => property))];
  const [first] = cases;
  if (!first) throw new RangeError('a message tells of something');
  const isOver = cases.every(({ endedAt }) => endedAt !== null);
  const titles = [...new Set(cases.map(({ kind }) => TITLE[kind]))].join(', ');
  const subject =
    properties.length > 1
      ? `${String(properties.length)} properties at once: ${titles}${isOver ? ' – over' : ''}`
      : `${first.property === null ? '' : `${first.property}: `}${isOver ? `over – ${titles}` : titles}`;
  return written(subject, [{ heading: null, cases }], base, null);
}

/** The digest of a day. Null where there is nothing in it. */
export function digest(
  { opened, over }: { readonly opened: readonly CaseTold[]; readonly over: readonly CaseTold[] },
  base: string,
): Message | null {
  if (opened.length + over.length === 0) return null;
  const parts = [
    { heading: 'To look at', cases: opened },
    { heading: 'Over', cases: over },
  ].filter(({ cases }) => cases.length > 0);
  const subject = [
    opened.length === 0 ? '' : `${String(opened.length)} to look at`,
    over.length === 0 ? '' : `${String(over.length)} over`,
  ]
    .filter((part) => part !== '')
    .join(', ');
  return written(`Yard Badge today: ${subject}`, parts, base, `${base}/`);
}

interface Part {
  readonly heading: string | null;
  readonly cases: readonly CaseTold[];
}

function written(subject: string, parts: readonly Part[], base: string, more: string | null): Message {
  const text: string[] = [];
  const html: string[] = [];
  for (const { heading, cases } of parts) {
    if (heading !== null) {
      text.push(heading.toUpperCase(), '');
      html.push(`<h2 style="font-size:16px;margin:24px 0 8px">${escaped(heading)}</h2>`);
    }
    for (const one of cases.slice(0, MOST_NAMED)) {
      const { title, lines, link } = lineOf(one, base);
      text.push(title, ...lines.map((line) => `  ${line}`), `  ${link}`, '');
      html.push(
        `<p style="margin:0 0 16px"><a href="${escaped(link)}" style="font-weight:bold;color:#0b4f6c">${escaped(title)}</a><br>${lines.map(escaped).join('<br>')}</p>`,
      );
    }
    const rest = cases.length - MOST_NAMED;
    if (rest > 0) {
      text.push(`… and ${String(rest)} more.`, '');
      html.push(`<p>… and ${String(rest)} more.</p>`);
    }
  }
  const where = more ?? `${base}/`;
  text.push(`All of it: ${where}`);
  html.push(`<p style="color:#555">All of it: <a href="${escaped(where)}">${escaped(where)}</a></p>`);
  return {
    subject,
    text: `${text.join('\n')}\n`,
    html: `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(subject)}</title></head><body style="font:16px/1.45 sans-serif;color:#1b1b1b;background:#fff;max-width:640px;margin:0 auto;padding:16px">${html.join('')}</body></html>`,
  };
}

function lineOf(one: CaseTold, base: string): { title: string; lines: string[]; link: string } {
  const { kind, property, says, remedy, touches, since, endedAt } = one;
  const tab = TAB[kind];
  const page = `${base}/properties/${property ?? ''}`;
  const link = property === null ? `${base}/` : tab === undefined ? page : `${page}?tab=${tab}`;
  const name = property === null ? 'This service' : property;
  if (endedAt) {
    const lasted = aboutWords(Math.max(0, endedAt.getTime() - since.getTime()));
    return { title: `${name}: over – ${TITLE[kind]}`, lines: [`It lasted ${lasted}.`, says], link };
  }
  const shown = touches.slice(0, MOST_TOUCHED).join(', ');
  const rest = touches.length - MOST_TOUCHED;
  return {
    title: `${name}: ${TITLE[kind]}`,
    lines: [
      says,
      ...(touches.length === 0 ? [] : [`It touches ${shown}${rest > 0 ? ` and ${String(rest)} more` : ''}.`]),
      ...(remedy === '' ? [] : [remedy]),
      `Since ${writtenMinute(since)} UTC.`,
    ],
    link,
  };
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (sign) => ENTITIES[sign] ?? sign);
}

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
