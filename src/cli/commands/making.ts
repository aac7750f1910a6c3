import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Option, type Command } from 'commander';
import type { MadeVersion } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { finish, openContext, output, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { progressOf } from '../../api/making/words.js';
import { printHandOut, printMaking, printPages, printVersion } from '../print/making.js';
import { plain, say, sayAside } from '../print/text.js';
import { readText } from '../read-file.js';

type Edit = InputOf<'editRecipe'>['body'];
type Weighing = NonNullable<Edit['weighing']>[number];

interface RecipeOptions {
  by?: string[];
  list?: string;
  feeds?: string[];
  sitemaps?: string[];
  pages?: string;
  depth?: string;
  minutes?: string;
  megabytes?: string;
  row?: string;
  atOnce?: string;
  include?: string[];
  exclude?: string[];
  without?: string[];
  add?: string[];
  drop?: string[];
  most?: string;
  dates?: string[];
  with?: string[];
  priority?: string[];
  frequency?: string[];
  gzip?: boolean;
  recent?: string;
  every?: string;
  afterChange?: string;
  mostFall?: string;
  json?: boolean;
}

interface GatheredOptions {
  state?: string;
  why?: string;
  folder?: string;
  match?: string;
  after?: string;
  limit: string;
  json?: boolean;
}

const NONE = 'none';

/** A number as it was typed. Throws Usage. */
function number(text: string | undefined, option: string): number | undefined {
  if (text === undefined) return undefined;
  if (/^\d+$/u.test(text)) return Number(text);
  throw new Usage(`${option} “${text}” is no number; expected such as 500.`);
}

/** Words of a list; “none” empties it. */
function words<Word extends string>(given: string[] | undefined): Word[] | undefined {
  return given?.length === 1 && given[0] === NONE ? [] : (given as Word[] | undefined);
}

function orNone<Word extends string>(text: string | undefined): Word | null | undefined {
  return text === NONE ? null : (text as Word | undefined);
}

/** What rules of the form `WHAT=VALUE` say; WHAT is a path pattern, `kind:article` or `depth:2`. Throws Usage. */
function weighings(options: RecipeOptions): Weighing[] | undefined {
  const { priority, frequency } = options;
  if (priority === undefined && frequency === undefined) return undefined;
  const rules = (given: string[] | undefined, option: string) =>
    (words(given) ?? []).map((text) => {
      const at = text.lastIndexOf('=');
      if (at < 1)
        throw new Usage(
          `${option} “${text}” is no rule; expected such as /news/*=0.8, kind:article=0.6 or depth:0=1.`,
        );
      return { what: whatOf(text.slice(0, at)), value: text.slice(at + 1) };
    });
  return [
    ...rules(priority, '--priority').map(({ what, value }) => ({ ...what, priority: Number(value) })),
    ...rules(frequency, '--frequency').map(({ what, value }) => ({
      ...what,
      frequency: value as NonNullable<Weighing['frequency']>,
    })),
  ];
}

function whatOf(text: string): Weighing {
  const [, key, value = ''] = /^(kind|depth):(.+)$/u.exec(text) ?? [];
  if (key === 'kind') return { kind: value as NonNullable<Weighing['kind']> };
  if (key === 'depth') return { depth: Number(value) };
  return { pattern: text };
}

/** What the options say of the recipe; what they do not say stays as it is. */
function editOf(options: RecipeOptions): Edit {
  const most = options.most === 'all' ? null : number(options.most, '--most');
  const edit: { [Key in keyof Edit]: Edit[Key] | undefined } = {
    sources: words(options.by),
    list: options.list === undefined ? undefined : linesOf(options.list),
    feeds: words(options.feeds),
    sitemaps: words(options.sitemaps),
    pages: number(options.pages, '--pages'),
    depth: number(options.depth, '--depth'),
    minutes: number(options.minutes, '--minutes'),
    megabytes: number(options.megabytes, '--megabytes'),
    row: number(options.row, '--row'),
    atOnce: options.atOnce === 'usual' ? null : number(options.atOnce, '--at-once'),
    include: words(options.include),
    exclude: words(options.exclude),
    without: words(options.without),
    add: words(options.add),
    drop: words(options.drop),
    most,
    dates: words(options.dates),
    extensions: words(options.with),
    weighing: weighings(options),
    gzip: options.gzip,
    feed: orNone(options.recent),
    every: orNone(options.every),
    afterChange: orNone(options.afterChange),
    mostFall: number(options.mostFall, '--most-fall'),
  };
  return Object.fromEntries(Object.entries(edit).filter(([, value]) => value !== undefined)) as Edit;
}

function linesOf(file: string): string[] {
  return readText(file)
    .split(/\r?\n/u)
    .map((line) => line.trim())
    .filter((line) => line !== '');
}

function choosing(command: Command): Command {
  return command
    .option('--include <pattern...>', 'only paths that fit one of these, such as /news/*')
    .option('--exclude <pattern...>', 'no paths that fit one of these')
    .option(
      '--without <kind...>',
      'kinds of pages to leave out: front, page, article, product, listing, with-query, document',
    )
    .option('--add <address...>', 'put in by hand (looked at by the next “sitemap make”)')
    .option('--drop <address...>', 'take out by hand')
    .option('--most <number>', 'how many at most, the newest first; “all” for all')
    .option(
      '--dates <source...>',
      'who is believed about the last change, first come first: page, header, seen; “none” for no dates',
    )
    .option('--with <extension...>', 'images, videos, news, alternates; “none” for none')
    .option('--priority <rule...>', 'such as depth:0=1.0, kind:article=0.8 or /shop/*=0.3')
    .option('--frequency <rule...>', 'such as /news/*=daily')
    .option('--gzip', 'pack the files')
    .option('--no-gzip', 'do not')
    .addOption(
      new Option('--recent <form>', 'a feed of the most recent pages beside it').choices([
        'atom',
        'rss',
        NONE,
      ]),
    )
    .option('--every <duration>', 'make it by itself so often, such as P1D; “none” only by hand')
    .option(
      '--after-change <duration>',
      'and once a feed or sitemap of the website has changed, so long after the last time; “none” not',
    )
    .option('--most-fall <percent>', 'by how much it may fall without a yes')
    .option('--json', 'print the document');
}

/** `sitemap make|choose|write|made|hand-out` */
export function makingCommands(sitemap: Command): void {
  choosing(
    sitemap
      .command('make <property>')
      .description(
        'gather the addresses for a sitemap, and show what would be written; nothing is written by it',
      )
      .option('--by <source...>', 'where addresses come from: site, menus, sitemap, feed, list')
      .option('--list <file>', 'addresses, one in a line; - for standard input')
      .option('--feeds <address...>', 'feeds to read, in place of those that the front page names')
      .option('--sitemaps <address...>', 'sitemaps to read, in place of those that are noted')
      .option('--pages <number>', 'how many pages to read at most')
      .option('--depth <number>', 'how many links from the front door to follow at most')
      .option('--minutes <number>', 'stop after this many minutes')
      .option('--megabytes <number>', 'stop after this many megabytes')
      .option('--row <number>', 'read so many pages in a row that have nothing of their own')
      .option(
        '--at-once <number>',
        'how many requests to make at once at most, where the website answers quickly; “usual” for the number in the settings',
      ),
  ).action(async (property: string, options: RecipeOptions) => {
    const context = openContext(options);
    const edit = editOf({
      ...options,
      by: options.by ?? (options.list === undefined ? undefined : ['list']),
    } as RecipeOptions);
    const job = await context.client.makeSitemap({ params: { property }, body: edit });
    await followed(context, property, job.id);
    await show(context, property);
  });
  choosing(
    sitemap
      .command('choose <property>')
      .description(
        'change what goes in and what is said of it, then show the result; without options, show it',
      ),
  ).action(async (property: string, options: RecipeOptions) => {
    const context = openContext(options);
    const edit = editOf(options);
    if (Object.keys(edit).length > 0) await context.client.editRecipe({ params: { property }, body: edit });
    await show(context, property);
  });
  sitemap
    .command('gathered <property>')
    .description('the addresses that were gathered, one by one')
    .addOption(new Option('--state <state>').choices(['in', 'out', 'waiting']))
    .option('--why <reason>', 'only those left out for this reason, such as gone or redirect')
    .option('--folder <folder>', 'only of this folder, such as /news/')
    .option('--match <text>', 'only those that hold this text')
    .option('--limit <number>', 'how many', '50')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(async (property: string, options: GatheredOptions) => {
      const context = openContext(options);
      const { state, why, folder, match, after, limit } = options;
      const given = { state, why, folder, match, after, limit: number(limit, '--limit') };
      const query = Object.fromEntries(
        Object.entries(given).filter(([, value]) => value !== undefined),
      ) as NonNullable<InputOf<'listMadePages'>['query']>;
      output(context, await context.client.listMadePages({ params: { property }, query }), printPages);
    });
  sitemap
    .command('write <property>')
    .description('write what was gathered and chosen, and have our own reader read it')
    .option('--out <folder>', 'put the files there too')
    .option('--anyway', 'although it fell by more than it may')
    .option('--json', 'print the document')
    .action(async (property: string, options: { out?: string; anyway?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const body = options.anyway === true ? { anyway: true } : {};
      const version = await context.client.writeSitemap({ params: { property }, body });
      if (options.out !== undefined) await putInto(context, version, options.out);
      output(context, version, printVersion, () => [`sitemap hand-out ${property}`, `publish ${property}`]);
      if (version.heldBack !== null) process.exitCode = 1;
    });
  sitemap
    .command('made <property> [version]')
    .description('the versions that were written; one of them with --out puts its files into a folder')
    .option('--out <folder>', 'put the files there')
    .option('--allow', 'let one go out that was held back')
    .option('--json', 'print the document')
    .action(
      async (
        property: string,
        id: string | undefined,
        options: { out?: string; allow?: boolean; json?: boolean },
      ) => {
        const context = openContext(options);
        const { versions } = await context.client.showMaking({ params: { property } });
        const version = id === undefined ? versions[0] : versions.find((one) => one.id === id);
        if (!version)
          throw new Usage(
            versions.length === 0
              ? `No sitemap of ${property} was written yet. “sitemap make ${property}” begins.`
              : `${property} has no version “${String(id)}”: ${versions.map((one) => one.id).join(', ')}.`,
          );
        const shown =
          options.allow === true
            ? await context.client.allowVersion({ params: { version: version.id } })
            : version;
        if (options.out !== undefined) await putInto(context, shown, options.out);
        output(context, id === undefined ? versions : [shown], (all) => {
          for (const one of all) printVersion(one);
        });
      },
    );
  sitemap
    .command('hand-out <property>')
    .description('have the service hand the sitemap out, with the rule for the website’s own server')
    .option('--stop', 'hand it out no more')
    .option('--json', 'print the document')
    .action(async (property: string, options: { stop?: boolean; json?: boolean }) => {
      const context = openContext(options);
      await context.client.editRecipe({ params: { property }, body: { handOut: options.stop !== true } });
      if (options.stop === true) {
        say(`The sitemap of ${plain(property)} is not handed out any more.`);
        return;
      }
      output(context, await context.client.showHandOut({ params: { property } }), printHandOut);
    });
}

/** Follows a gathering, its counts in one line on the other stream. */
async function followed(context: Context, property: string, id: string): Promise<void> {
  const isShown = process.stderr.isTTY;
  const tell = async (): Promise<void> => {
    const { gathering } = await context.client.showMaking({ params: { property } });
    if (gathering?.state === 'under-way') process.stderr.write(`\r\u001b[K${plain(progressOf(gathering))}`);
  };
  const timer = isShown ? setInterval(() => void tell().catch(() => undefined), 1_000) : null;
  try {
    await finish(context, { id });
  } finally {
    if (timer) clearInterval(timer);
    if (isShown) process.stderr.write('\r\u001b[K');
  }
}

async function show(context: Context, property: string): Promise<void> {
  output(context, await context.client.showMaking({ params: { property } }), printMaking, (making) =>
    making.gathering === null
      ? [`sitemap make ${property}`]
      : [
          `sitemap choose ${property} --without listing`,
          `sitemap gathered ${property} --state out`,
          `sitemap write ${property}`,
        ],
  );
}

async function putInto(context: Context, version: MadeVersion, folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  for (const { name } of version.files)
    writeFileSync(join(folder, name), await context.client.madeFile(version.id, name));
  sayAside(`Put ${version.files.map(({ name }) => name).join(', ')} into ${folder}.`);
}
