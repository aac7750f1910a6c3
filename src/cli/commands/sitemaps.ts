import type { Command } from 'commander';
import type { NewSitemap, Sitemap, Submission } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { agrees, isSaid } from '../confirm.js';
import { finish, openContext, output, printItems, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { contentsCommand } from './contents.js';
import { makingCommands } from './making.js';
import { isMeant, sitemapOf, whole } from './sitemap-of.js';
import { sayNext } from '../print/next.js';
import { inWords, sayShown } from '../print/list-footer.js';
import {
  printDifference,
  printFindings,
  printFound,
  printSitemap,
  printSitemaps,
  SHOWN,
} from '../print/sitemaps.js';
import { paint, plain, say, sayAside } from '../print/text.js';
import { given } from '../../api/given.js';

const ENTRY = 'by its path, such as /sitemap.xml, its file name or its address';

interface ListOptions {
  client?: string;
  engine?: string;
  work?: boolean;
  order?: string;
  limit: string;
  after?: string;
  json?: boolean;
}

type Query = NonNullable<InputOf<'listSitemaps'>['query']>;

/** What is to be listed; the service says what it does not know. */
function queryOf(property: string | undefined, { json: _, work, limit, ...narrow }: ListOptions): Query {
  return {
    ...(narrow as Query),
    ...given({ property, limit: whole(limit, '--limit') }),
    ...(work === true ? { work: 'yes' } : {}),
  };
}

/** `sitemap find|note|submit|read|list|show|compare|withdraw`, and making */
export function sitemapCommands(program: Command): void {
  const sitemap = program.command('sitemap').description('sitemaps: ours and the engines’ readings');
  findAndNote(sitemap);
  readAndShow(sitemap);
  submitAndWithdraw(sitemap);
  rightAndDrop(sitemap);
  contentsCommand(sitemap);
  makingCommands(sitemap);
}

/** What was heard of an engine longer ago than this is old. */
const OLD_MS = 24 * 3_600_000;
/** Properties whose engines are asked before a list is shown. */
const MOST_ASKED = 10;

/**
 * Asks the engines for what they have read, where they are overdue by what was heard of them long ago: they may have read since.
 * @returns whether somebody was asked
 */
async function askFirst(context: Context, items: readonly Sitemap[]): Promise<boolean> {
  const overdue = items.filter(({ submissions }) =>
    submissions.some(({ counts, byHand }) => counts.state === 'overdue' && !byHand),
  );
  if (overdue.length === 0) return false;
  const { person, now } = await context.client.whoAmI();
  if (person.role === 'onlooker') return false;
  const since = Date.parse(now) - OLD_MS;
  const old = overdue.filter(({ submissions }) =>
    submissions.some(
      ({ counts, engineReading, askedAt }) =>
        counts.state === 'overdue' && isOld(askedAt ?? engineReading?.at ?? null, since),
    ),
  );
  const properties = [...new Set(old.map(({ property }) => property.handle))].slice(0, MOST_ASKED);
  if (properties.length === 0) return false;
  sayAside(`Asking the engines first, since what is known of ${properties.join(', ')} is old.`);
  for (const property of properties)
    await context.client.finished(await context.client.readSitemaps({ body: { property, sample: 0 } }));
  return true;
}

function isOld(at: string | null, since: number): boolean {
  return at === null || Date.parse(at) < since;
}

function findAndNote(sitemap: Command): void {
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
      output(
        context,
        job,
        ({ items }) => {
          for (const { result } of items) {
            printFound(result?.found ?? []);
            say(plain(result?.says ?? ''));
          }
        },
        ({ items }) => {
          const best = items.flatMap(({ result }) => result?.found ?? []).find(({ submit }) => submit);
          return best ? [`sitemap submit ${property} ${best.url}`] : [`sitemap note ${property} ADDRESS`];
        },
      );
      if (job.items.some(({ result }) => result?.stops === true)) process.exitCode = 1;
    });
  sitemap
    .command('note <property> <address>')
    .description(`note a sitemap, ${ENTRY}`)
    .option('--json', 'print the document')
    .action(async (property: string, address: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.addSitemap({ body: { property, address } }),
        (added) => {
          say(`Noted ${plain(added.url)}.`);
          if (added.note !== null) say(plain(added.note));
        },
        (added) => [
          `sitemap read ${added.property.handle}`,
          `sitemap submit ${added.property.handle} ${added.url}`,
        ],
      );
    });
}

function readAndShow(sitemap: Command): void {
  sitemap
    .command('read [property]')
    .description('read sitemaps, try some of their pages, and ask the engines for their readings')
    .option('--all', 'of every property')
    .option('--sample <number>', 'how many pages of each to try; 0 for none')
    .option('--seed <number>', 'which pages to try: the same number picks the same')
    .option('--json', 'print the sitemaps')
    .action(
      async (
        property: string | undefined,
        options: { all?: boolean; sample?: string; seed?: string; json?: boolean },
      ) => {
        if (property === undefined && options.all !== true)
          throw new Usage('Name a property, or give --all.');
        const context = openContext(options);
        const which = property === undefined ? { all: true } : { property };
        const body = {
          ...which,
          ...given({ sample: whole(options.sample, '--sample'), seed: whole(options.seed, '--seed') }),
        };
        const job = await finish(context, await context.client.readSitemaps({ body }));
        const document = await context.client.listSitemaps({ query: given({ property }) });
        output(
          context,
          document,
          ({ items }) => {
            for (const item of job.items)
              if (item.result?.problem) say(`${paint.red('✗')} ${plain(item.result.says)}`);
            printSitemaps(items);
            printFindings(items);
          },
          ({ items }) =>
            items
              .slice(0, 1)
              .map((one) => `sitemap show ${one.property.handle} ${new URL(one.url).pathname}`),
        );
      },
    );
  sitemap
    .command('list [property]')
    .description('sitemaps with our count and the engines’')
    .option('--client <client>', 'of one client')
    .option('--engine <engine>', 'submitted at one engine')
    .option('--work', 'only what needs work')
    .option('--order <order>', 'gap, age, fall or property')
    .option('--limit <number>', 'how many', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(async (property: string | undefined, options: ListOptions) => {
      const context = openContext(options);
      const query = queryOf(property, options);
      const known = await context.client.listSitemaps({ query });
      const isNews = await askFirst(context, known.items);
      const document = isNews ? await context.client.listSitemaps({ query }) : known;
      output(context, document, ({ items }) => {
        printSitemaps(items);
        printFindings(property === undefined ? [] : items);
      });
      const { items, next, counts } = document;
      const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
      const of = property === undefined ? '' : ` of ${property}`;
      const list = { shown: items.length, all, one: 'sitemap', of, kinds: inWords(counts), next };
      await sayShown(context, list);
      const [first] = items;
      if (first && options.json !== true)
        sayNext(`sitemap show ${first.property.handle} ${new URL(first.url).pathname}`);
    });
  sitemap
    .command('show <property> [address]')
    .description('one sitemap: the sitemaps in it, the counts over time, what was found')
    .option('--json', 'print the document')
    .action(async (property: string, address: string | undefined, options: { json?: boolean }) => {
      const context = openContext(options);
      const { id } = await sitemapOf(context, property, address);
      output(context, await context.client.showSitemap({ params: { sitemap: id } }), printSitemap, (one) => [
        `sitemap compare ${one.property.handle} ${new URL(one.url).pathname}`,
        `sitemap read ${one.property.handle}`,
      ]);
    });
  sitemap
    .command('compare <property> [address]')
    .description('which addresses came and went between two readings')
    .option('--from <reading>', 'the earlier one, by its day or identifier; the one before otherwise')
    .option('--to <reading>', 'the later one; the newest otherwise')
    .option('--limit <number>', 'how many of each to print', String(SHOWN))
    .option('--json', 'print the document')
    .action(
      async (
        property: string,
        address: string | undefined,
        options: { from?: string; to?: string; limit?: string; json?: boolean },
      ) => {
        const context = openContext(options);
        const { id } = await sitemapOf(context, property, address);
        const { from, to } = options;
        const query = given({ from, to, limit: whole(options.limit, '--limit') });
        output(
          context,
          await context.client.compareReadings({ params: { sitemap: id }, query }),
          printDifference,
          () => [`sitemap show ${property}${address === undefined ? '' : ` ${address}`}`],
        );
      },
    );
}

/**
 * Reads a sitemap before it is made known to anybody: one that cannot be read is refused, and not kept where it was noted for this
 * alone; one that is flawed is asked about.
 * @returns whether it is to be submitted, and whether somebody said so although it is flawed
 */
async function isWorthSubmitting(
  context: Context,
  { id, url, isNew }: NewSitemap,
  anyway: boolean,
): Promise<boolean | 'anyway'> {
  const read = await context.client.finished(await context.client.readSitemaps({ body: { sitemap: id } }));
  const { reading, state, submissions } = await context.client.showSitemap({ params: { sitemap: id } });
  const findings = reading?.findings ?? [];
  const stops = findings.find(({ grade }) => grade === 'stops');
  if (stops && !anyway) {
    const isDropped = isNew && submissions.length === 0;
    if (isDropped) await context.client.dropSitemap({ params: { sitemap: id } });
    throw new Usage(
      `${stops.says} Nothing was submitted${isDropped ? ', and it is not kept' : ''}. “sitemap find” looks for the right one.`,
    );
  }
  const harms = findings.filter(({ grade }) => grade === 'harms');
  const [first] = harms;
  if (anyway || state !== 'flawed' || !first || submissions.length > 0) return read.items.length > 0;
  const says = `${url} can be read, but ${harms.length === 1 ? 'this is wrong with it' : `${String(harms.length)} things are wrong with it, the first`}: ${first.says}`;
  const isAgreed = await agrees(`${says} Submit it all the same?`);
  if (isAgreed === null) throw new Usage(`${says} Say --anyway to submit it all the same.`);
  return isAgreed ? 'anyway' : false;
}

function rightAndDrop(sitemap: Command): void {
  sitemap
    .command('right <property> <address>')
    .description('accept the lower count of a sitemap, so that it is no longer reported as a fall')
    .action(async (property: string, address: string) => {
      const context = openContext({});
      const { id } = await sitemapOf(context, property, address);
      printItems(await finish(context, await context.client.acceptFall({ params: { sitemap: id } })), '');
    });
  sitemap
    .command('drop <property> <address>')
    .description('take out a sitemap that was noted by mistake, with our readings of it')
    .option('--yes', 'without asking')
    .action(async (property: string, address: string, options: { yes?: boolean }) => {
      const context = openContext({});
      const { id, url } = await sitemapOf(context, property, address);
      if (!(await isSaid(options.yes, `This takes ${url} out, with our readings of it.`))) return;
      await context.client.dropSitemap({ params: { sitemap: id } });
      say(`${plain(url)} is not looked at any more, and stands in no list.`);
    });
}

function submitAndWithdraw(sitemap: Command): void {
  sitemap
    .command('submit <property> <address>')
    .description('make a sitemap known to the engines whose badge covers it; again, it tells that it changed')
    .option('--to <enrolment...>', 'only to these, such as ferries@veldrane:address')
    .option(
      '--anyway',
      'although it is flawed, or the engine knows it already by an index or another enrolment',
    )
    .option('--json', 'print the job')
    .action(
      async (
        property: string,
        address: string,
        options: { to?: string[]; anyway?: boolean; json?: boolean },
      ) => {
        const context = openContext(options);
        const added = await context.client.addSitemap({ body: { property, address } });
        const isWanted = await isWorthSubmitting(context, added, options.anyway === true);
        if (!isWanted) return;
        const anyway = options.anyway === true || isWanted === 'anyway';
        // As its own lists name them: the engine, or the engine and the reach, of this property.
        const enrolments = options.to?.map((to) => (to.includes('@') ? to : `${property}@${to}`));
        const body = { sitemap: added.id, ...given({ enrolments, anyway: anyway || undefined }) };
        const job = await finish(context, await context.client.submitSitemap({ body }));
        output(context, job, (done) => {
          if (added.note !== null) say(plain(added.note));
          printItems(done, '');
          sayNext(`sitemap read ${added.property.handle}`, `sitemap list ${added.property.handle}`);
        });
      },
    );
  sitemap
    .command('withdraw <property> [address]')
    .description('withdraw a sitemap from the engines that know it')
    .option('--from <engine>', 'only from this engine, or by this enrolment, such as veldrane:name')
    .option('--spare', 'all duplicates: files beside their index, and sitemaps known twice')
    .option('--yes', 'without asking')
    .action(
      async (
        property: string,
        address: string | undefined,
        options: { from?: string; spare?: boolean; yes?: boolean },
      ) => {
        const context = openContext({});
        const { items } = await context.client.listSitemaps({ query: { property } });
        const submissions = toWithdraw(items, property, address, options);
        const what = submissions.map((one) => `${one.sentAs} from ${one.engine.title}`).join(', ');
        const isAgreed = options.yes === true || (await agrees(`Withdraw ${what}?`));
        if (isAgreed === null) throw new Usage(`This withdraws ${what}. Say --yes to do it.`);
        if (!isAgreed) return;
        const body = { submissions: submissions.map(({ id }) => id) };
        printItems(await finish(context, await context.client.withdrawSitemaps({ body })), '');
      },
    );
}

/** Whether a submission is by an engine, or by one enrolment there, in any form in which these are written. */
function isFrom({ engine, enrolmentName }: Submission, from: string): boolean {
  return engine.id === from || enrolmentName === from || enrolmentName.endsWith(`@${from}`);
}

function toWithdraw(
  items: readonly Sitemap[],
  property: string,
  address: string | undefined,
  options: { from?: string; spare?: boolean },
): Submission[] {
  if (address === undefined && options.spare !== true)
    throw new Usage('Name a sitemap, or give --spare for all duplicates.');
  const submissions = items
    .filter(({ url }) => address === undefined || isMeant(url, address))
    .flatMap((one) => one.submissions)
    .filter((one) => options.from === undefined || isFrom(one, options.from))
    .filter((one) => options.spare !== true || one.tooMany !== null);
  if (submissions.length > 0) return submissions;
  throw new Usage(
    options.spare === true
      ? `No engine knows a duplicate sitemap of ${property}.`
      : options.from === undefined
        ? `No engine knows ${address ?? ''} of ${property}.`
        : `Nothing of ${property} that is meant is known at ${options.from}; expected an engine, or an enrolment such as veldrane:name.`,
  );
}
