import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Option, type Command } from 'commander';
import type { ContentsQuery } from '../../api/contents/routes.js';
import type { SitemapOutline } from '../../api/documents.js';
import { ApiProblem } from '../../client/client.js';
import { finish, openContext, output, type Context } from '../context.js';
import { printContents, printOutline, type FolderLine } from '../print/contents.js';
import { plain, sayAside } from '../print/text.js';
import { sitemapOf, whole } from './sitemap-of.js';
import { given } from '../../api/given.js';

interface Options {
  match?: string;
  folder?: string;
  file?: string;
  since?: string;
  until?: string;
  finding?: string;
  asked?: 'listed' | 'unlisted' | 'any';
  order?: 'place' | 'address' | 'newest' | 'oldest';
  tree?: boolean;
  export?: string;
  again?: boolean;
  limit: string;
  after?: string;
  json?: boolean;
}

/** `sitemap contents` */
export function contentsCommand(sitemap: Command): void {
  sitemap
    .command('contents <property> [address]')
    .description('the addresses of a sitemap one by one, its folders, and what was found')
    .option('--match <letters>', 'letters in the address')
    .option('--folder <address>', 'in this folder and below, as --tree shows it')
    .option('--file <number>', 'only this file of an index')
    .option('--since <day>', 'changed since then')
    .option('--until <day>', 'changed before then')
    .option('--finding <code>', 'with this finding; “any” for any')
    .addOption(
      new Option('--asked <how>', 'that engines were asked about, by their answer').choices([
        'listed',
        'unlisted',
        'any',
      ]),
    )
    .addOption(
      new Option('--order <by>', 'how they are sorted').choices(['place', 'address', 'newest', 'oldest']),
    )
    .option('--tree', 'the folders with their counts in place of the addresses')
    .option('--export <file>', 'write all of them as a table (RFC 4180); - for standard output')
    .option('--again', 'fetch the sitemap anew before')
    .option('--limit <number>', 'how many to print', '30')
    .option('--after <place>', 'from here on, as the page before said')
    .option('--json', 'print the document')
    .action(async (property: string, address: string | undefined, options: Options) => {
      const context = openContext(options);
      const { id, url } = await sitemapOf(context, property, address);
      const params = { sitemap: id };
      if (options.again === true && !(await look(context, id))) return;
      const name = `${property} ${new URL(url).pathname}`;
      if (options.tree === true) {
        const query = given({ folder: options.folder });
        const outline = await lookedAt(context, id, () => context.client.outlineSitemap({ params, query }));
        if (!outline) return;
        const tree = context.json ? [] : await treeOf(context, id, outline);
        output(
          context,
          outline,
          (one) => {
            printOutline(one, tree);
          },
          ({ findings }) => [
            `sitemap contents ${name} ${findings.length > 0 ? '--finding any' : '--match LETTERS'}`,
          ],
        );
        return;
      }
      const asked = askedOf(options);
      if (options.export !== undefined) {
        const body = await lookedAt(context, id, () => context.client.contentsTable(id, asked));
        if (body) await written(body, options.export);
        return;
      }
      const query = { ...asked, ...given({ limit: whole(options.limit, '--limit'), after: options.after }) };
      const flags = flagsOf(options);
      const page = await lookedAt(context, id, () => context.client.listContents({ params, query }));
      if (!page) return;
      output(context, page, printContents, () =>
        page.next === null
          ? [`sitemap contents ${name} --tree`]
          : [
              `sitemap contents ${name}${flags} --after ${page.next}`,
              `sitemap contents ${name}${flags} --export FILE`,
            ],
      );
    });
}

const KEPT = ['match', 'folder', 'file', 'since', 'until', 'finding', 'asked', 'order'] as const;

/** What was asked for, as it would be typed again. */
function flagsOf(options: Options): string {
  return KEPT.map((name) => {
    const value = options[name];
    if (value === undefined) return '';
    return ` --${name} ${/^[\w./:-]+$/u.test(value) ? value : `'${value}'`}`;
  }).join('');
}

/** Folders that are shown with what is below them, and how deep. */
const MOST_OPENED = 12;
const DEEPEST = 3;
/** More folders below one are not told. */
const MOST_BELOW = 25;

/** The folders as lines, with those below them as far as they are few. */
async function treeOf(
  context: Context,
  sitemap: string,
  { folders }: SitemapOutline,
  level = 0,
): Promise<FolderLine[]> {
  const lines: FolderLine[] = [];
  for (const folder of folders) {
    lines.push({ folder, level });
    if (!folder.hasBelow || level >= DEEPEST || folders.length > MOST_OPENED) continue;
    const query = { folder: folder.folder };
    const below = await context.client.outlineSitemap({ params: { sitemap }, query });
    if (below.folders.length <= MOST_BELOW) lines.push(...(await treeOf(context, sitemap, below, level + 1)));
  }
  return lines;
}

function askedOf(options: Options): ContentsQuery {
  const { match, folder, since, until, finding, asked, order } = options;
  return given({ match, folder, file: whole(options.file, '--file'), since, until, finding, asked, order });
}

/** Fetches the sitemap, so that there is something to look at. @returns whether there is */
async function look(context: Context, sitemap: string): Promise<boolean> {
  const job = await finish(context, await context.client.readContents({ params: { sitemap } }));
  const [first] = job.items;
  if (first?.result?.stops !== true) return true;
  sayAside(plain(first.result.says));
  return false;
}

/** Does what needs the contents, and fetches them where they were not fetched yet. @returns null where it cannot be read */
async function lookedAt<T>(context: Context, sitemap: string, work: () => Promise<T>): Promise<T | null> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof ApiProblem) || error.problem.code !== 'contents-not-read') throw error;
    return (await look(context, sitemap)) ? work() : null;
  }
}

async function written(body: ReadableStream<Uint8Array>, file: string): Promise<void> {
  const source = Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]);
  if (file === '-') await pipeline(source, process.stdout, { end: false });
  else {
    await pipeline(source, createWriteStream(file));
    sayAside(`Written to ${file}.`);
  }
}
