import { PARTS, REPORT_WORDS, type ReportPart } from './report-words.js';
import { outcomeOf, type ClientReport, type StandsAt } from './report.js';

/** More of a part is no overview any more, even where there is room. */
const MOST: Readonly<Record<ReportPart, number>> = {
  ...{ toDo: 12, properties: 20, harms: 8, did: 10, changed: 10, sitemaps: 2 },
};
/** Lines that two pages of Letter, the shorter sheet, have for what is listed, beside headings and what is left free at a page's end. */
const LINES = 82;
/** Letters of usual width on a line. */
const WIDTH = 96;
const PLOT_LINES = 9;
/** A row of the table of websites is somewhat higher than a line. */
const ROW_LINES = 1.15;
/** Of the table's width, the column of addresses. */
export const ADDRESSES_WIDTH = 0.34;
/** How each website stands is what most owners look for. */
const A_TURN: Readonly<Record<ReportPart, number>> = {
  ...{ toDo: 1, properties: 3, harms: 1, did: 1, changed: 1, sitemaps: 1 },
};
const LONGEST_SAID = 280;
const LONGEST_NAME = 100;

/** What is left of a report on two pages, and how much of each part is not on them. */
export interface OnTwoPages {
  readonly shown: ClientReport;
  readonly left: Readonly<Record<ReportPart, number>>;
}

/**
 * So much of a report that two printed pages hold it. The parts take turns, each with what it tells next, until there is no room: none goes
 * short because another has much to tell. Of websites it is those first that are not held everywhere, of what was done and what changed
 * the newest; what is very long is cut.
 */
export function onTwoPages(report: ClientReport): OnTwoPages {
  const cut = withShortTexts(report);
  const properties = [...cut.properties].sort((a, b) => Number(isWhole(a)) - Number(isWhole(b)));
  const engines = new Set(cut.properties.flatMap(({ at }) => at.map(({ engine }) => engine))).size;
  const lines: Readonly<Record<ReportPart, readonly number[]>> = {
    toDo: cut.toDo.map(({ property, says }) => linesOf(`${property} ${says}`)),
    properties: properties.map(({ address, at }) => rowLines(address, at, engines)),
    harms: cut.harms.map((one) =>
      linesOf(`2026-01-01 ${one.property} ${one.says} ${outcomeOf(one, REPORT_WORDS[cut.language])}`),
    ),
    did: cut.did.map(({ property, says }) => linesOf(`2026-01-01 ${property} ${says}`)).reverse(),
    changed: cut.changed.map(({ property, says }) => linesOf(`2026-01-01 ${property} ${says}`)).reverse(),
    sitemaps: cut.sitemaps.map(() => PLOT_LINES),
  };
  const count = takingTurns(lines);
  const told = new Set(properties.slice(0, count.properties));
  return {
    shown: {
      ...cut,
      toDo: cut.toDo.slice(0, count.toDo),
      properties: cut.properties.filter((one) => told.has(one)),
      harms: cut.harms.slice(0, count.harms),
      did: count.did === 0 ? [] : cut.did.slice(-count.did),
      changed: count.changed === 0 ? [] : cut.changed.slice(-count.changed),
      sitemaps: cut.sitemaps.slice(0, count.sitemaps),
    },
    left: {
      toDo: report.toDo.length - count.toDo,
      properties: report.properties.length - count.properties,
      harms: report.harms.length - count.harms,
      did: report.did.length - count.did,
      changed: report.changed.length - count.changed,
      sitemaps: report.sitemaps.length - count.sitemaps,
    },
  };
}

const isWhole = ({ at }: ClientReport['properties'][number]): boolean => at.every(({ isHeld }) => isHeld);

function takingTurns(
  lines: Readonly<Record<ReportPart, readonly number[]>>,
): Readonly<Record<ReportPart, number>> {
  const count = { toDo: 0, properties: 0, harms: 0, did: 0, changed: 0, sitemaps: 0 };
  let room = LINES;
  const takes = (part: ReportPart): boolean => {
    const next = lines[part][count[part]];
    if (next === undefined || count[part] === MOST[part] || next > room) return false;
    room -= next;
    count[part] += 1;
    return true;
  };
  let open: readonly ReportPart[] = PARTS;
  while (open.length > 0)
    open = open.filter((part) => Array.from({ length: A_TURN[part] }).every(() => takes(part)));
  return count;
}

function withShortTexts(report: ClientReport): ClientReport {
  const short = <One extends { readonly property: string; readonly says: string }>(one: One): One => ({
    ...one,
    property: shortened(one.property, LONGEST_NAME),
    says: shortened(one.says, LONGEST_SAID),
  });
  return {
    ...report,
    client: shortened(report.client, LONGEST_NAME),
    properties: report.properties.map((one) => ({ ...one, address: shortened(one.address, LONGEST_NAME) })),
    toDo: report.toDo.map(short),
    harms: report.harms.map(short),
    did: report.did.map(short),
    changed: report.changed.map(short),
    sitemaps: report.sitemaps.map((one) => ({ ...one, url: shortened(one.url, LONGEST_NAME) })),
  };
}

/** A text of at most so many letters, cut between words where there are any. */
function shortened(text: string, most: number): string {
  const all = [...text];
  if (all.length <= most) return text;
  const cut = all.slice(0, most - 1).join('');
  const space = cut.lastIndexOf(' ');
  return `${(space > most / 2 ? cut.slice(0, space) : cut).trimEnd()}…`;
}

/** Wide letters count as more than one: capitals, and what takes a full square (UAX #11). */
function widthOf(text: string): number {
  let width = 0;
  for (const letter of text) {
    if (/[\u1100-\u11FF\u2E80-\uD7FF\uF900-\uFAFF\uFE30-\uFFEF\u{1F000}-\u{3FFFF}]/u.test(letter)) width += 2;
    else width += /[\p{Lu}mw@%…—]/u.test(letter) ? 1.5 : 1;
  }
  return width;
}

const linesOf = (text: string): number => Math.max(1, Math.ceil(widthOf(text) / WIDTH));

/** A row is as high as its highest cell; words that do not fit a line leave some of it free. */
function rowLines(address: string, at: readonly StandsAt[], engines: number): number {
  const inColumn = (text: string, part: number): number =>
    Math.ceil((widthOf(text) * 1.15) / Math.max(1, WIDTH * part - 2));
  const part = (1 - ADDRESSES_WIDTH) / Math.max(1, engines);
  const cells = at.map(({ says, isHeld }) => inColumn(isHeld ? `✓ ${says}` : says, part));
  return ROW_LINES * Math.max(inColumn(address, ADDRESSES_WIDTH), ...cells);
}
