import type { Command } from 'commander';
import type { FoundSitemap, Sitemap, Submission } from '../../api/documents.js';
import { finish, openContext, output, printItems } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { paint, plain, say, when } from '../print/text.js';

function counts(submission: Submission): string {
  const { state, gap, dueBy } = submission.counts;
  if (state === 'equal') return 'equal';
  if (state === 'apart') return gap === null ? 'ours is unread' : `apart by ${String(gap)}`;
  if (state === 'waiting') return `waiting, due by ${when(dueBy)}`;
  return state === 'overdue' ? `overdue since ${when(dueBy)}` : 'the engine could not read it';
}

function printSitemaps(items: readonly Sitemap[]): void {
  const rows = items.flatMap((sitemap) => {
    const ours = sitemap.reading ? String(sitemap.reading.addresses) : '–';
    const first = [sitemap.property.handle, sitemap.url, sitemap.state, ours];
    if (sitemap.submissions.length === 0) return [[...first, '–', '–', '–', 'not submitted']];
    return sitemap.submissions.map((one, at) => [
      ...(at === 0 ? first : ['', '', '', '']),
      one.enrolmentName.slice(one.enrolmentName.lastIndexOf('@') + 1),
      String(one.engineReading?.found ?? '–'),
      String(one.engineReading?.listed ?? '–'),
      counts(one),
    ]);
  });
  table(
    ['property', 'sitemap', 'reading', 'ours', 'engine', 'found', 'listed', 'compared'],
    rows,
    'No sitemaps yet. “sitemap submit PROPERTY PATH” notes and submits one.',
  );
  for (const sitemap of items) {
    for (const one of sitemap.reading?.findings ?? []) {
      say(`${one.grade === 'stops' ? paint.red('✗') : paint.yellow('!')} ${plain(one.says)}`);
      if (one.remedy !== '') say(`  ${paint.cyan('→')} ${plain(one.remedy)}`);
    }
  }
}

const WHY: Readonly<Record<FoundSitemap['why'], string>> = {
  robots: 'named in robots.txt',
  usual: 'under a usual name',
  feed: 'linked as a feed',
  noted: 'noted before',
};

function printFound(found: readonly FoundSitemap[]): void {
  table(
    ['', 'sitemap', 'found', 'is', 'entries', ''],
    found.map((one) => [
      one.submit ? '★' : '',
      one.url,
      WHY[one.why],
      one.kind ?? 'not to be read',
      one.kind === null ? '–' : String(one.entries),
      one.says ?? (one.noted ? 'noted' : ''),
    ]),
    'None was found.',
  );
}

/** `sitemap find|note|submit|read|list|show|withdraw` */
export function sitemapCommands(program: Command): void {
  const sitemap = program.command('sitemap').description('sitemaps: ours and the engines’ readings');
  sitemap
    .command('find <property>')
    .description(
      'look for its sitemaps: in the robots.txt, under the usual names, as feeds of the front page',
    )
    .option('--note', 'note the one to submit')
    .option('--json', 'print the job')
    .action(async (property: string, options: { note?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const body = options.note === true ? { note: true } : {};
      const job = await finish(context, await context.client.findSitemaps({ params: { property }, body }));
      output(context, job, ({ items }) => {
        for (const { result } of items) {
          printFound(result?.found ?? []);
          say(plain(result?.says ?? ''));
        }
      });
      if (job.items.some(({ result }) => result?.stops === true)) process.exitCode = 1;
    });
  sitemap
    .command('note <property> <address>')
    .description('note a sitemap, by its path or address')
    .option('--json', 'print the document')
    .action(async (property: string, address: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.addSitemap({ body: { property, address } }), (added) => {
        say(`Noted ${plain(added.url)}.`);
        if (added.note !== null) say(plain(added.note));
      });
    });
  sitemap
    .command('submit <property> <address>')
    .description('make a sitemap known to the engines whose badge covers it')
    .option('--to <enrolment...>', 'only to these, such as ferries@veldrane:address')
    .option('--json', 'print the job')
    .action(async (property: string, address: string, options: { to?: string[]; json?: boolean }) => {
      const context = openContext(options);
      const added = await context.client.addSitemap({ body: { property, address } });
      const body = { sitemap: added.id, ...(options.to === undefined ? {} : { enrolments: options.to }) };
      const job = await finish(context, await context.client.submitSitemap({ body }));
      output(context, job, (done) => {
        if (added.note !== null) say(plain(added.note));
        printItems(done, '');
      });
    });
  sitemap
    .command('read [property]')
    .description('read sitemaps, and ask the engines for their readings')
    .option('--all', 'of every property')
    .option('--json', 'print the sitemaps')
    .action(async (property: string | undefined, options: { all?: boolean; json?: boolean }) => {
      if (property === undefined && options.all !== true) throw new Usage('Name a property, or give --all.');
      const context = openContext(options);
      const job = await finish(
        context,
        await context.client.readSitemaps({ body: property === undefined ? { all: true } : { property } }),
      );
      const document = await context.client.listSitemaps({
        query: property === undefined ? {} : { property },
      });
      output(context, document, ({ items }) => {
        for (const item of job.items)
          if (item.result?.problem) say(`${paint.red('✗')} ${plain(item.result.says)}`);
        printSitemaps(items);
      });
    });
  sitemap
    .command('list [property]')
    .alias('show')
    .description('sitemaps with our count and the engines’')
    .option('--json', 'print the document')
    .action(async (property: string | undefined, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.listSitemaps({ query: property === undefined ? {} : { property } }),
        ({ items }) => {
          printSitemaps(items);
        },
      );
    });
  sitemap
    .command('withdraw <property> <address>')
    .description('withdraw a sitemap from the engines that know it')
    .option('--from <engine>', 'only from this one')
    .option('--yes', 'without asking')
    .action(async (property: string, address: string, options: { from?: string; yes?: boolean }) => {
      const context = openContext({});
      const { items } = await context.client.listSitemaps({ query: { property } });
      const found = items.filter(
        ({ url }) => url === address || url.endsWith(address.startsWith('/') ? address : `/${address}`),
      );
      const submissions = found
        .flatMap((one) => one.submissions)
        .filter((one) => options.from === undefined || one.engine.id === options.from);
      if (submissions.length === 0) throw new Usage(`No engine knows ${address} of ${property}.`);
      if (options.yes !== true)
        throw new Usage(
          `This withdraws ${submissions.map((one) => `${one.sentAs} from ${one.engine.title}`).join(', ')}. Say --yes to do it.`,
        );
      for (const one of submissions)
        printItems(
          await finish(context, await context.client.withdrawSitemap({ params: { id: one.id } })),
          '',
        );
    });
}
