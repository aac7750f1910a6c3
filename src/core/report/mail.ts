import { REPORT_WORDS, type ReportWords } from './report-words.js';
import type { SheetLanguage } from '../sheet/sentences.js';
import { writtenDayIn, writtenMinuteIn } from '../time/time-formats.js';
import { page, type Message } from '../alerts/message.js';
import { escaped } from '../text/escaped.js';

/** A property as a report tells it. */
export interface ReportedProperty {
  readonly handle: string;
  readonly address: string;
  /** Engines by title: where its badge is held, and where not, with how it stands there in words. */
  readonly held: readonly string[];
  readonly open: readonly { readonly engine: string; readonly stands: string }[];
  readonly sitemaps: readonly {
    readonly url: string;
    readonly addresses: number | null;
    /** What engines found in it; null where one has not read it. */
    readonly engines: readonly { readonly engine: string; readonly found: number | null }[];
  }[];
}

export interface Report {
  /** The client's name; null for all clients. */
  readonly client: string | null;
  readonly language: SheetLanguage;
  readonly from: Date;
  readonly to: Date;
  readonly properties: readonly ReportedProperty[];
  /** Of all, also where not each is told. */
  readonly totals: {
    readonly properties: number;
    readonly held: number;
    readonly slipping: number;
    readonly lost: number;
  };
  /** What changed meanwhile, newest first: of much, what is not told is the oldest. */
  readonly changed: readonly { readonly at: Date; readonly property: string; readonly says: string }[];
  /** What is to be done by the client's people. */
  readonly toDo: readonly { readonly property: string; readonly says: string }[];
}

export interface ReportReceiver {
  readonly zone: string;
  /** Where the console is, for one of the agency; null for somebody who cannot sign in there. */
  readonly base: string | null;
  /** Where to say that no more of it is wanted; null where it is only shown. */
  readonly stop: string | null;
}

/** So much of each part is told; the rest is counted. */
const MOST = 40;

/** A report of one client or of all, as a mail. @param isAttached whether the whole of it goes along as a page */
export function reportMail(report: Report, to: ReportReceiver, isAttached = false): Message {
  const { client, from, to: until, totals, language } = report;
  const words = REPORT_WORDS[language];
  const days = words.span(writtenDayIn(from, to.zone), writtenDayIn(until, to.zone));
  const subject = client === null ? `How all websites stand, ${days}` : words.mail.subject(client, days);
  const sum = [
    words.standing(totals.properties, totals.held),
    ...(totals.slipping === 0 ? [] : [words.unseen(totals.slipping)]),
    ...(totals.lost === 0 ? [] : [words.withdrawn(totals.lost)]),
  ].join(' ');
  const { heads, mail } = words;
  const parts: Part[] = [
    {
      heading: client === null ? 'What clients have to do' : heads.toDo.title,
      lines: toDo(report),
      none: heads.toDo.none,
    },
    { heading: heads.changed.title, lines: changed(report, to), none: heads.changed.none },
    {
      heading: client === null ? 'What needs care' : mail.howItStands,
      lines: report.properties.map((one) => stands(one, to, words)),
      none: client === null ? 'Nothing.' : mail.noneStands,
    },
  ];
  const heading = client ?? 'All clients';
  const sentBy =
    client === null ? 'This is sent by the agency that looks after these websites.' : mail.sentBy;
  const text = [
    `${heading}, ${days}`,
    sum,
    '',
    ...parts.flatMap((part) => asText(part, words)),
    ...(isAttached ? [mail.attached, ''] : []),
    ...(to.stop === null ? [] : [mail.stopText(to.stop), '']),
  ].join('\n');
  const html = [
    `<h1 style="font-size:20px;margin:0 0 4px">${escaped(heading)}</h1>`,
    `<p style="margin:0 0 8px;color:#555">${escaped(days)}</p><p>${escaped(sum)}</p>`,
    ...parts.map((part) => asHtml(part, words)),
    isAttached ? `<p style="margin-top:24px">${escaped(mail.attached)}</p>` : '',
    to.stop === null
      ? ''
      : `<p style="color:#555;margin-top:28px">${escaped(sentBy)} <a href="${escaped(to.stop)}">${escaped(mail.stop)}</a></p>`,
  ].join('');
  return { subject, text, html: page(subject, html, language) };
}

interface Line {
  readonly title: string;
  readonly says: readonly string[];
  readonly link: string | null;
}

interface Part {
  readonly heading: string;
  readonly lines: readonly Line[];
  /** What is said where there is nothing. */
  readonly none: string;
}

function toDo({ toDo: all }: Report): Line[] {
  return all.map(({ property, says }) => ({ title: property, says: [says], link: null }));
}

function changed({ changed: all }: Report, { zone }: ReportReceiver): Line[] {
  return all.map(({ at, property, says }) => ({
    title: `${writtenMinuteIn(at, zone)} ${property}`,
    says: [says],
    link: null,
  }));
}

function stands(
  { handle, address, held, open, sitemaps }: ReportedProperty,
  { base }: ReportReceiver,
  { mail, foundBy }: ReportWords,
): Line {
  return {
    // A handle is what the agency's own people call it.
    title: base === null ? address : `${handle} – ${address}`,
    says: [
      ...(held.length === 0 ? [] : [mail.proved(held.join(', '))]),
      ...(open.length === 0
        ? []
        : [mail.notYet(open.map(({ engine, stands: how }) => `${engine} (${how})`).join(', '))]),
      ...sitemaps.map(
        ({ url, addresses, engines }) =>
          `${url}: ${addresses === null ? mail.notRead : mail.addresses(addresses)}${engines
            .map(
              ({ engine, found }) =>
                `; ${found === null ? mail.unread(engine) : foundBy(engine, String(found))}`,
            )
            .join('')}.`,
      ),
    ],
    link: base === null ? null : `${base}/properties/${handle}`,
  };
}

function restOf({ lines }: Part, { more }: ReportWords): string[] {
  return lines.length > MOST ? [more(lines.length - MOST)] : [];
}

function asText(part: Part, words: ReportWords): string[] {
  const { heading, lines, none } = part;
  const shown = lines
    .slice(0, MOST)
    .flatMap(({ title, says, link }) => [
      title,
      ...says.map((line) => `  ${line}`),
      ...(link === null ? [] : [`  ${link}`]),
    ]);
  return [heading.toUpperCase(), ...(shown.length === 0 ? [none] : shown), ...restOf(part, words), ''];
}

function asHtml(part: Part, words: ReportWords): string {
  const { heading, lines, none } = part;
  const shown = lines.slice(0, MOST).map(({ title, says, link }) => {
    const name = link === null ? escaped(title) : `<a href="${escaped(link)}">${escaped(title)}</a>`;
    return `<p style="margin:0 0 10px"><strong>${name}</strong>${says.map((line) => `<br>${escaped(line)}`).join('')}</p>`;
  });
  const rest = restOf(part, words).map((line) => `<p>${escaped(line)}</p>`);
  return `<h2 style="font-size:16px;margin:24px 0 8px">${escaped(heading)}</h2>${shown.length === 0 ? `<p>${escaped(none)}</p>` : shown.join('')}${rest.join('')}`;
}
