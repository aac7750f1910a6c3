import type { Gathering, HandOut, MadePage, MadeVersion, Making, Page } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { KIND_SAYS, paceSays, progressOf } from '../../api/making/words.js';
import { printFinding } from './sitemaps.js';
import { table } from './table.js';
import { paint, paragraph, plain, say, sayBlock, when } from './text.js';

/** Folders that are printed, reasons and their examples. */
const MOST_FOLDERS = 12;

function number(value: number): string {
  return value.toLocaleString('en');
}

const ENDS: Readonly<Record<NonNullable<Gathering['ended']>, string>> = {
  all: 'there was no more to look at',
  pages: 'it met its bound of pages',
  minutes: 'it met its bound of time',
  megabytes: 'it met its bound of bytes',
};

/** What was gathered, and what would be written of it. */
export function printMaking({
  property,
  url,
  recipe,
  gathering,
  preview,
  versions,
  every,
  afterChange,
  nextAt,
}: Making): void {
  say(`${paint.bold(plain(property.handle))}  ${plain(url)}`);
  say(
    `by ${recipe.sources.join(', ')}${every === null ? '' : `, by itself every ${every}`}${afterChange === null ? '' : `, after a change of its feeds or sitemaps not before ${afterChange}`}${nextAt === null ? '' : `, next ${when(nextAt)}`}`,
  );
  if (!gathering) {
    say(paint.dim('Nothing was gathered yet.'));
    return;
  }
  const how =
    gathering.ended === null ? 'is under way' : `ended ${when(gathering.endedAt)}: ${ENDS[gathering.ended]}`;
  say(`The gathering ${how}. ${progressOf(gathering)}. ${paceSays(gathering)}`);
  if (!preview) return;
  say();
  say(
    `${paint.bold(counted(preview.chosen, 'address', 'addresses'))} would be written, ${number(preview.dated)} of them with a date.`,
  );
  say();
  table(
    ['kind', 'found', 'goes in'],
    preview.kinds.map(({ kind, found, chosen }) => [KIND_SAYS[kind], number(found), number(chosen)]),
    '',
  );
  if (preview.foldersInAll > 1) {
    say();
    table(
      ['folder', 'found', 'goes in'],
      preview.folders
        .slice(0, MOST_FOLDERS)
        .map(({ folder, found, chosen }) => [folder, number(found), number(chosen)]),
      '',
    );
    if (preview.foldersInAll > MOST_FOLDERS)
      say(paint.dim(`… and ${number(preview.foldersInAll - MOST_FOLDERS)} more folders`));
  }
  if (preview.leftOut.length > 0) {
    say();
    table(
      ['left out', '', 'such as'],
      preview.leftOut.map(({ why, says, count, examples }) => [
        `${number(count)} ${why}`,
        says,
        examples.slice(0, 1).map((one) => new URL(one.url).pathname + new URL(one.url).search),
      ]),
      '',
    );
  }
  if (preview.findings.length > 0) say();
  for (const one of preview.findings) printFinding(one);
  const [last] = versions;
  if (last) {
    say();
    say(`Last written ${when(last.at)}: ${counted(last.addresses, 'address', 'addresses')}.`);
  }
}

/** A page of the addresses that were gathered. */
export function printPages({ items, next }: Page<MadePage>): void {
  table(
    ['', 'kind', 'last change', 'address'],
    items.map(({ url, state, why, kind, lastmod }) => [
      state === 'in' && why === null ? 'in' : (why ?? state),
      kind === null ? '–' : KIND_SAYS[kind],
      lastmod ?? '–',
      url,
    ]),
    'No address was gathered that fits.',
  );
  if (next !== null) say(paint.dim(`There are more: --after ${next}`));
}

/** A version with its files, and what our own reader says of it. */
export function printVersion({
  id,
  at,
  by,
  addresses,
  came,
  went,
  heldBack,
  findings,
  files,
}: MadeVersion): void {
  const change = came === null ? 'the first' : `${number(came)} came, ${number(went ?? 0)} went`;
  say(
    `${paint.bold(id)}  ${when(at)}${by === null ? '' : ` by ${plain(by)}`}: ${counted(addresses, 'address', 'addresses')}, ${change}`,
  );
  for (const { name, bytes, entries } of files)
    say(`  ${plain(name)}  ${counted(entries, 'entry', 'entries')}, ${number(bytes)} bytes`);
  if (heldBack !== null)
    paragraph(`${paint.red('✗')} `, `Held back. ${plain(heldBack)} “sitemap made … --allow” lets it go out.`);
  if (findings.length === 0) say(`${paint.green('✓')} Our own reader finds nothing wrong with it.`);
  for (const one of findings) printFinding(one);
}

/** The rules by which a website’s own server hands on what stands here. */
export function printHandOut({ from, to, rules, engines }: HandOut): void {
  say(`${paint.bold(plain(to))}`);
  say(`is what ${plain(from)} should lead to. One of these rules does it:`);
  for (const { server, how, text } of rules) {
    say();
    say(
      `${paint.bold(plain(server))}, ${how === 'proxy' ? 'by handing on (no engine notices)' : 'by a redirect'}`,
    );
    sayBlock(
      plain(text) === text
        ? `  ${text}`
        : text
            .split('\n')
            .map((line) => `  ${plain(line)}`)
            .join('\n'),
    );
  }
  say();
  for (const { redirect, says } of engines)
    paragraph(`${redirect ? paint.green('✓') : paint.magenta('!')} `, plain(says));
}
