import { escaped } from '../text/escaped.js';
import { number, plotOf } from './plot.js';
import { PARTS, REPORT_WORDS, type ReportPart } from './report-words.js';
import { outcomeOf, type ClientReport, type SitemapCounts, type Told } from './report.js';
import { ADDRESSES_WIDTH, onTwoPages } from './page-layout.js';

/** What an agency is called as long as its settings do not say. */
export const UNNAMED_AGENCY = 'Your agency';

/** Whose report it is: the agency, as its settings say. */
export interface Agency {
  readonly name: string;
  /** Of headings and rules: `#` and six hexadecimal digits. */
  readonly colour: string;
  /** A data URI; null where there is none. */
  readonly logo: string | null;
}

/** What an owner reads first, in one sentence for each thing. */
export function inShort({ language, totals, harms, toDo }: ClientReport): string[] {
  const words = REPORT_WORDS[language];
  const mended = harms.filter(({ overAt, actedAt }) => overAt !== null && actedAt === null).length;
  return [
    words.standing(totals.properties, totals.held),
    ...(totals.slipping > 0 ? [words.unseen(totals.slipping)] : []),
    ...(totals.lost > 0 ? [words.withdrawn(totals.lost)] : []),
    ...(harms.length > 0 ? [words.harms(harms.length, mended)] : []),
    toDo.length === 0 ? words.nothingToDo : words.toDo(toDo.length),
  ];
}

/** Whose report it is, and of which days. */
export function reportTitle({ language, client, from, to }: ClientReport): string {
  return `${client}, ${REPORT_WORDS[language].span(from.slice(0, 10), to.slice(0, 10))}`;
}

/** A report as Markdown (CommonMark), whole. */
export function reportMarkdown(report: ClientReport, agency: Agency): string {
  const words = REPORT_WORDS[report.language];
  const lines: Readonly<Record<ReportPart, string[]>> = {
    toDo: report.toDo.map(({ property, says }) => `- ${literal(property)}: ${literal(says)}`),
    properties: report.properties.map(
      ({ address, at }) =>
        `- ${literal(address)}: ${at.map(({ engine, says }) => `${literal(engine)} ${literal(says)}`).join('; ')}`,
    ),
    harms: report.harms.map(
      (one) =>
        `- ${one.seenAt.slice(0, 10)} ${literal(one.property)}: ${literal(one.says)} ${outcomeOf(one, words)}`,
    ),
    did: report.did.map(toldLine),
    changed: report.changed.map(toldLine),
    sitemaps: report.sitemaps.map(
      ({ url, ours, engines }) =>
        `- ${literal(url)}: ${words.countedLine(number(ours.at(-1)?.count ?? 0), number(ours[0]?.count ?? 0))}${engines
          .map(({ engine, found }) => `; ${words.foundBy(literal(engine), number(found.at(-1)?.count ?? 0))}`)
          .join('')}`,
    ),
  };
  return `${[
    `# ${literal(reportTitle(report))}`,
    inShort(report).map(literal).join(' '),
    ...PARTS.flatMap((part) => [
      `## ${words.heads[part].title}`,
      lines[part].length === 0 ? words.heads[part].none : lines[part].join('\n'),
    ]),
    `*${literal(agency.name)}*`,
  ].join('\n\n')}\n`;
}

function toldLine({ at, property, says }: Told): string {
  return `- ${at.slice(0, 10)} ${literal(property)}: ${literal(says)}`;
}

/** Letters that mean something in Markdown, as themselves. */
function literal(text: string): string {
  return text.replace(/[\\`*_{}[\]<>#|~]/gu, '\\$&').replace(/\s+/gu, ' ');
}

/** A report as a page of its own: nothing in it is fetched; on paper it has two pages, on A4 and Letter alike. */
export function reportHtml(report: ClientReport, agency: Agency): string {
  const { shown, left } = onTwoPages(report);
  const words = REPORT_WORDS[report.language];
  const title = reportTitle(shown);
  const bodies: Readonly<Record<ReportPart, string>> = {
    toDo: listed(shown.toDo.map(({ property, says }) => `<b>${escaped(property)}</b> ${escaped(says)}`)),
    properties: standings(shown),
    harms: listed(
      shown.harms.map(
        (one) =>
          `<time>${one.seenAt.slice(0, 10)}</time> <b>${escaped(one.property)}</b> ${escaped(one.says)} <i>${escaped(outcomeOf(one, words))}</i>`,
      ),
    ),
    did: told(shown.did),
    changed: told(shown.changed),
    sitemaps: shown.sitemaps.map((one) => figureOf(one, report)).join('\n'),
  };
  const sections = PARTS.map((part) => {
    const body =
      bodies[part] === '' && left[part] === 0 ? `<p>${escaped(words.heads[part].none)}</p>` : bodies[part];
    const more = left[part] > 0 ? `<p class="faint">${escaped(words.more(left[part]))}</p>` : '';
    return `<section><h2>${escaped(words.heads[part].title)}</h2>${body}${more}</section>`;
  });
  return `<!doctype html>
<html lang="${report.language}">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>${escaped(title)}</title><style>${styleOf(agency)}</style></head>
<body>
<header>${agency.logo === null ? '' : `<img src="${escaped(agency.logo)}" alt="">`}<p>${escaped(agency.name)}</p></header>
<main>
<h1>${escaped(shown.client)}</h1>
<p class="span">${escaped(words.span(report.from.slice(0, 10), report.to.slice(0, 10)))}</p>
<p class="short">${inShort(report).map(escaped).join(' ')}</p>
${sections.join('\n')}
</main>
</body>
</html>
`;
}

/** What did not change needs no plot. */
function figureOf(one: SitemapCounts, { from, to, language }: ClientReport): string {
  const words = REPORT_WORDS[language];
  const counts = new Set(
    [one.ours, ...one.engines.map(({ found }) => found)].flat().map(({ count }) => count),
  );
  const [only = 0] = counts;
  if (counts.size < 2) return `<p>${escaped(words.unchanged(one.url, number(only)))}</p>`;
  return `<figure><figcaption>${escaped(one.url)}</figcaption>${plotOf(one, from, to, words.itsAddresses)}</figure>`;
}

function listed(items: readonly string[]): string {
  return items.length === 0 ? '' : `<ul>${items.map((item) => `<li>${item}</li>`).join('')}</ul>`;
}

function told(lines: readonly Told[]): string {
  return listed(
    lines.map(
      ({ at, property, says }) =>
        `<time>${at.slice(0, 10)}</time> <b>${escaped(property)}</b> ${escaped(says)}`,
    ),
  );
}

/** One line for each website: a tick where it is held, the words where it is not. */
function standings({ properties, language }: ClientReport): string {
  if (properties.length === 0) return '';
  const engines = [...new Set(properties.flatMap(({ at }) => at.map(({ engine }) => engine)))];
  const head = engines.map((engine) => `<th scope="col">${escaped(engine)}</th>`).join('');
  const rows = properties.map(({ address, at }) => {
    const cells = engines.map((engine) => {
      const own = at.find((one) => one.engine === engine);
      return `<td>${own === undefined ? '–' : own.isHeld ? `✓ ${escaped(own.says)}` : escaped(own.says)}</td>`;
    });
    return `<tr><th scope="row">${escaped(address)}</th>${cells.join('')}</tr>`;
  });
  return `<table><thead><tr><th scope="col">${escaped(REPORT_WORDS[language].website)}</th>${head}</tr></thead><tbody>${rows.join('')}</tbody></table>`;
}

function styleOf({ colour }: Agency): string {
  return `
:root { color-scheme: light; --own: ${colour}; }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 54rem; padding: 1.2rem 1rem 3rem; background: #fff; color: #1f2a37; font: 15px/1.45 system-ui, sans-serif; overflow-wrap: anywhere; }
header { display: flex; align-items: center; gap: 0.8rem; border-bottom: 3px solid var(--own); padding-bottom: 0.5rem; }
header img { max-height: 2.6rem; max-width: 12rem; }
header p { margin: 0; font-weight: 600; color: var(--own); }
h1 { font-size: 1.6rem; line-height: 1.2; margin: 1rem 0 0; }
h2 { font-size: 1.05rem; margin: 1.3rem 0 0.3rem; border-bottom: 1px solid #c8ccd1; padding-bottom: 0.1rem; break-after: avoid; }
p { margin: 0.3rem 0; }
.span, .faint, time, i { color: #545d68; font-style: normal; }
.short { font-size: 1.05rem; margin: 0.7rem 0; }
ul { list-style: none; margin: 0; padding: 0; }
li { padding: 0.15rem 0; break-inside: avoid; }
table { width: 100%; table-layout: fixed; border-collapse: collapse; font-size: 0.92em; }
th:first-child { width: ${String(ADDRESSES_WIDTH * 100)}%; }
th, td { text-align: left; padding: 0.2rem 0.6rem 0.2rem 0; border-bottom: 1px solid #e3e6e9; vertical-align: baseline; }
tbody th { font-weight: 600; }
tr, figure { break-inside: avoid; }
figure { margin: 0.4rem 0 0.6rem; }
figcaption { font-size: 0.92em; }
svg { width: 100%; max-width: 42rem; height: auto; color: #1f2a37; }
@media (max-width: 34rem) { table, tbody, tr, th, td { display: block; width: auto; border: 0; padding: 0.1rem 0; } thead { display: none; } tr { border-bottom: 1px solid #e3e6e9; padding: 0.3rem 0; } }
@media print { body { max-width: none; padding: 0; font-size: 9pt; line-height: 1.3; } h1 { font-size: 15pt; margin-top: 5pt; } h2 { font-size: 10.5pt; margin-top: 7pt; } .short { font-size: 10pt; margin: 4pt 0; } svg { max-height: 24mm; } th, td { padding-top: 0.1rem; padding-bottom: 0.1rem; } li { padding: 0.06rem 0; } }
@page { margin: 13mm 15mm; }
`;
}
