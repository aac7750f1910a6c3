import { escaped } from '../text/escaped.js';
import { aboutWords } from '../time/duration.js';
import { writtenMinuteIn } from '../time/time-formats.js';
import type { AlertKind } from './alert.js';

/** A case as it is told: opened, or over. */
export interface AlertMessage {
  readonly id: string;
  readonly kind: AlertKind;
  /** The handle of its property; null where it is ourselves. */
  readonly property: string | null;
  readonly client: string | null;
  readonly says: string;
  readonly remedy: string;
  readonly touches: readonly string[];
  /** The last good evidence beside the present one, line by line. */
  readonly difference: readonly string[];
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

const TITLE: Readonly<Record<AlertKind, string>> = {
  lost: 'badge lost',
  slipping: 'token gone',
  'enrolment-lost': 'enrolment lost at the engine',
  moved: 'front door moved',
  'stays-away': 'engines are asked to stay away',
  'out-of-reach': 'out of reach',
  'sitemap-unreachable': 'sitemap out of reach',
  'sitemap-fallen': 'sitemap fell',
  'server-down': 'a server of several websites is down',
  'cut-off': 'nothing can be reached from here',
  unsent: 'messages cannot be sent',
  certificate: 'certificate runs out',
  'name-ends': 'registered name ends',
  'token-ends': 'token runs out',
  'reading-overdue': 'reading overdue',
  'sitemap-still': 'sitemap stands still',
  'switched-off': 'switched off by an engine',
};

/** What stands in the place of a property. */
const OF_NO_PROPERTY: Readonly<Partial<Record<AlertKind, string>>> = {
  'switched-off': 'Engines',
  'server-down': 'Hosting',
};

/** Which tab of a property's page shows an alert. */
const TAB: Readonly<Partial<Record<AlertKind, string>>> = {
  moved: 'variants',
  'stays-away': 'variants',
  certificate: 'variants',
  'name-ends': 'about',
  'sitemap-unreachable': 'sitemaps',
  'sitemap-fallen': 'sitemaps',
  'sitemap-still': 'sitemaps',
  'reading-overdue': 'sitemaps',
};

/** For whom a message is written. */
export interface Receiver {
  /** Where the console is, without a slash at its end. */
  readonly base: string;
  /** Her time zone, by its IANA name. */
  readonly zone: string;
}

/** Cases of a storm that are named one by one; the rest is counted. */
const MOST_NAMED = 12;
/** What a case touches is named so far. */
const MOST_TOUCHED = 8;

/**
 * What is told at once: the cases of one property, or a storm over many.
 */
export function alertMessage(cases: readonly AlertMessage[], to: Receiver): Message {
  const properties = [...new Set(cases.map(({ property }) => property))];
  const [first] = cases;
  if (!first) throw new RangeError('a message tells of something');
  const isOver = cases.every(({ endedAt }) => endedAt !== null);
  const titles = [...new Set(cases.map(({ kind }) => TITLE[kind]))].join(', ');
  const subject =
    properties.length > 1
      ? `${String(properties.length)} properties at once: ${titles}${isOver ? ' – over' : ''}`
      : `${whose(first)}${isOver ? `over – ${titles}` : titles}`;
  return written(subject, [{ heading: null, entries: cases.map((one) => entryOf(one, to)) }], to);
}

/** Whose case it is, in a subject; empty where it is of ourselves. */
function whose({ property, kind }: AlertMessage): string {
  const name = property ?? OF_NO_PROPERTY[kind];
  return name === undefined ? '' : `${name}: `;
}

/** Something that was waited for and has come. */
export interface NewsTold {
  readonly kind: 'stands' | 'held' | 'refused';
  readonly property: string;
  readonly says: string;
  readonly at: Date;
}

const NEWS_TITLE: Readonly<Record<NewsTold['kind'], string>> = {
  stands: 'the token stands',
  held: 'held',
  refused: 'the claim was refused',
};

/** What has come of one property, in one message. */
export function newsMessage(news: readonly NewsTold[], to: Receiver): Message {
  const [first] = news;
  if (!first) throw new RangeError('a message tells of something');
  const titles = [...new Set(news.map(({ kind }) => NEWS_TITLE[kind]))].join(', ');
  const entries = news.map((one) => newsEntry(one, to));
  return written(`${first.property}: ${titles}`, [{ heading: null, entries }], to);
}

function newsEntry({ kind, property, says, at }: NewsTold, { base, zone }: Receiver): Entry {
  return {
    title: `${property}: ${NEWS_TITLE[kind]}`,
    lines: [{ says }, { says: `On ${writtenMinuteIn(at, zone)} (${zone}).` }],
    link: `${base}/properties/${property}`,
  };
}

/** Something that was done by a shared link. */
export interface LinkAnswer {
  readonly says: string;
  /** RFC 3339. */
  readonly at: string;
  /** By which the link is told from others. */
  readonly word: string | null;
  /** The handle; null where the link is for all of the client. */
  readonly property: string | null;
  readonly client: string;
}

/** What was heard by shared links, visit by visit, in one message. */
export function linkMessage(heard: readonly LinkAnswer[], to: Receiver): Message {
  const by = new Map<string, LinkAnswer[]>();
  for (const one of heard) {
    const key = JSON.stringify([one.property ?? one.client, one.word]);
    by.set(key, [...(by.get(key) ?? []), one]);
  }
  const entries = [...by.values()].flatMap((own): Entry[] => {
    const [first] = own;
    if (!first) return [];
    const { property, client, word } = first;
    return [
      {
        title: `${property ?? client}${word === null ? '' : `: ${word}`}`,
        lines: own.map(({ says, at }) => ({ says: `${writtenMinuteIn(new Date(at), to.zone)}  ${says}` })),
        link: property === null ? `${to.base}/` : `${to.base}/properties/${property}`,
      },
    ];
  });
  const [first] = entries;
  if (!first) throw new RangeError('a message tells of something');
  const subject = `${entries.length === 1 ? first.title : `${String(entries.length)} clients or websites`}: word by a shared link`;
  return written(subject, [{ heading: null, entries }], to);
}

/** The digest of a day. Null where there is nothing in it. */
export function digest(
  {
    opened,
    over,
    news = [],
  }: {
    readonly opened: readonly AlertMessage[];
    readonly over: readonly AlertMessage[];
    readonly news?: readonly NewsTold[];
  },
  to: Receiver,
): Message | null {
  if (opened.length + over.length + news.length === 0) return null;
  const parts = [
    { heading: 'To look at', entries: opened.map((one) => entryOf(one, to)) },
    { heading: 'Has come', entries: news.map((one) => newsEntry(one, to)) },
    { heading: 'Over', entries: over.map((one) => entryOf(one, to)) },
  ].filter(({ entries }) => entries.length > 0);
  const subject = [
    opened.length === 0 ? '' : `${String(opened.length)} to look at`,
    news.length === 0 ? '' : `${String(news.length)} that came`,
    over.length === 0 ? '' : `${String(over.length)} over`,
  ]
    .filter((part) => part !== '')
    .join(', ');
  return written(`Yard Badge today: ${subject}`, parts, to);
}

interface Part {
  readonly heading: string | null;
  readonly entries: readonly Entry[];
}

/** One thing that is told, with where more of it stands. */
interface Entry {
  readonly title: string;
  readonly lines: readonly Line[];
  readonly link: string;
}

function written(subject: string, parts: readonly Part[], to: Receiver): Message {
  const text: string[] = [];
  const html: string[] = [];
  for (const { heading, entries } of parts) {
    if (heading !== null) {
      text.push(heading.toUpperCase(), '');
      html.push(`<h2 style="font-size:16px;margin:24px 0 8px">${escaped(heading)}</h2>`);
    }
    for (const { title, lines, link } of entries.slice(0, MOST_NAMED)) {
      text.push(title, ...lines.flatMap(asText), `  ${link}`, '');
      html.push(
        `<div style="margin:0 0 20px;padding:0 0 0 10px;border-left:3px solid #0b4f6c"><p style="margin:0 0 4px"><a href="${escaped(link)}" style="font-weight:bold;color:#0b4f6c">${escaped(title)}</a></p>${lines.map(asHtml).join('')}</div>`,
      );
    }
    const rest = entries.length - MOST_NAMED;
    if (rest > 0) {
      text.push(`… and ${String(rest)} more.`, '');
      html.push(`<p>… and ${String(rest)} more.</p>`);
    }
  }
  const where = `${to.base}/`;
  text.push(`All of it: ${where}`);
  html.push(`<p style="color:#555">All of it: <a href="${escaped(where)}">${escaped(where)}</a></p>`);
  return {
    subject,
    text: `${text.join('\n').replace(/\n{3,}/g, '\n\n')}\n`,
    html: page(subject, html.join('')),
  };
}

/** A whole page of HTML as a mail has it: readable on a phone, without anything that is loaded from elsewhere. */
export function page(title: string, body: string, language = 'en'): string {
  return `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title></head><body style="font:16px/1.45 sans-serif;color:#1b1b1b;background:#fff;max-width:640px;margin:0 auto;padding:16px">${body}</body></html>`;
}

/** A line of what is told: as it is, set off with what it is before it, or text that keeps its columns. */
interface Line {
  readonly says: string;
  readonly label?: string;
  readonly kept?: readonly string[];
}

function asText({ says, label, kept }: Line): string[] {
  if (kept) return ['', ...kept.map((line) => `    ${line}`), ''];
  return label === undefined ? [`  ${says}`] : ['', `  ${label}: ${says}`, ''];
}

function asHtml({ says, label, kept }: Line): string {
  if (kept)
    return `<pre style="margin:6px 0;padding:8px;background:#f3f0e7;font:13px/1.4 monospace;white-space:pre-wrap;overflow-wrap:anywhere">${kept.map(escaped).join('\n')}</pre>`;
  if (label === undefined) return `<p style="margin:0 0 4px">${escaped(says)}</p>`;
  return `<p style="margin:8px 0"><strong>${escaped(label)}:</strong> ${escaped(says)}</p>`;
}

function entryOf(one: AlertMessage, { base, zone }: Receiver): Entry {
  const { kind, property, says, remedy, touches, difference, since, endedAt } = one;
  const tab = TAB[kind];
  const page = `${base}/properties/${property ?? ''}`;
  const link = property === null ? `${base}/` : tab === undefined ? page : `${page}?tab=${tab}`;
  const name = property ?? OF_NO_PROPERTY[kind] ?? 'This service';
  if (endedAt) {
    const lasted = aboutWords(Math.max(0, endedAt.getTime() - since.getTime()));
    return {
      title: `${name}: over – ${TITLE[kind]}`,
      lines: [{ says: `It lasted ${lasted}.` }, { says }],
      link,
    };
  }
  // The sentence of a server names its websites.
  const touched = kind === 'server-down' ? [] : touches;
  const shown = touched.slice(0, MOST_TOUCHED).join(', ');
  const rest = touched.length - MOST_TOUCHED;
  return {
    title: `${name}: ${TITLE[kind]}`,
    lines: [
      { says },
      ...(difference.length === 0 ? [] : [{ says: '', kept: difference }]),
      ...(remedy === '' ? [] : [{ says: remedy, label: 'To be done' }]),
      ...(touched.length === 0
        ? []
        : [{ says: `It touches ${shown}${rest > 0 ? ` and ${String(rest)} more` : ''}.` }]),
      { says: `Since ${writtenMinuteIn(since, zone)} (${zone}).` },
    ],
    link,
  };
}
