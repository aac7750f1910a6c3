import type { Command } from 'commander';
import type { Job } from '../../api/documents.js';
import { finish, openContext, output, printItems } from '../context.js';
import { Usage } from '../exit.js';
import { readText } from '../read-file.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { paint, say, when, plain } from '../print/text.js';

interface PageOptions {
  engine?: string;
  from?: string;
  json?: boolean;
}

/** The addresses that are meant: those given, or one a line of a file. */
function addresses(given: readonly string[], from: string | undefined): string[] {
  const read = from === undefined ? '' : readText(from);
  const all = [...given, ...read.split('\n').map((line) => line.trim())].filter((line) => line !== '');
  if (all.length === 0) throw new Usage('Give whole addresses, or a file with one a line by --from.');
  return all;
}

async function ask(work: 'lookUp' | 'askVisit', given: string[], options: PageOptions): Promise<void> {
  const context = openContext(options);
  const body = {
    addresses: addresses(given, options.from),
    ...(options.engine === undefined ? {} : { engine: options.engine }),
    ...(options.from === undefined ? {} : { spread: true }),
  };
  const job = await finish(context, await context.client[work]({ body }));
  output(
    context,
    job,
    (done) => {
      const isResting = done.rests !== null;
      printItems(isResting ? { ...done, items: done.items.filter(({ dueAt }) => dueAt === null) } : done, '');
      if (isResting) printRest(done);
    },
    () => ['rations'],
  );
}

/** What is put off to other days, and how to see how it goes. */
function printRest(job: Job): void {
  const resting = job.items.flatMap(({ dueAt }) => dueAt ?? []).sort();
  const first = when(resting[0] ?? null);
  const last = when(resting.at(-1) ?? null);
  say(
    `${String(job.finished)} of ${String(job.total)} are done; ${String(resting.length)} wait for the rations of the days to come, from ${first}${first === last ? '' : ` to ${last}`} UTC.`,
  );
  say(`They go on by themselves: “job ${job.id}” shows how far they are.`);
}

interface JobOptions {
  stop?: boolean;
  resume?: boolean;
  json?: boolean;
}

async function showJob(id: string | undefined, options: JobOptions): Promise<void> {
  if ((options.stop === true || options.resume === true) && id === undefined)
    throw new Usage('Name the job: “job” without one lists those there are.');
  if (options.stop === true && options.resume === true) throw new Usage('Give --stop or --resume, not both.');
  const context = openContext(options);
  if (options.stop === true && id !== undefined) {
    output(context, await context.client.stopJob({ params: { id } }), (job) => {
      say(
        `Stopped: ${String(job.finished)} of ${String(job.total)} are done, and what is left stays to be done. “job ${plain(id)} --resume” goes on.`,
      );
    });
    return;
  }
  if (options.resume === true && id !== undefined) await context.client.resumeJob({ params: { id } });
  if (id === undefined) {
    const document = await context.client.listJobs({ query: { limit: 30 } });
    output(context, document, ({ items }) => {
      table(
        ['job', 'kind', 'begun (UTC)', 'done', ''],
        items.map((one) => [
          one.id,
          one.kind,
          when(one.createdAt),
          `${String(one.finished)} of ${String(one.total)}`,
          one.rests === null ? one.state : `goes on ${when(one.rests)}`,
        ]),
        'No jobs yet. “check”, “enrol” and other commands start them.',
      );
    });
    await sayShown(context, { shown: document.items.length, one: 'newest job' });
    return;
  }
  output(context, await context.client.showJob({ params: { id } }), (job) => {
    printItems(
      { ...job, items: job.items.filter(({ state }) => state === 'done' || state === 'failed') },
      job.state === 'done' && job.total > 0
        ? `${String(job.finished)} of ${String(job.total)} are done. What each came to was let go for its age.`
        : '',
    );
    for (const { subject, progress } of job.items)
      if (progress !== null) say(`… ${paint.bold(plain(subject))}  ${plain(progress)}`);
    if (job.rests !== null) printRest(job);
    else if (job.state === 'stopped')
      say(
        `Stopped: ${String(job.finished)} of ${String(job.total)} are done. “job ${plain(job.id)} --resume” goes on.`,
      );
    else if (job.state !== 'done') say(`${String(job.finished)} of ${String(job.total)} are done.`);
    if (job.next !== null)
      say(`These are the first ${String(job.items.length)} pieces; --json shows the rest page by page.`);
  });
}

async function rations(options: { json?: boolean }): Promise<void> {
  const context = openContext(options);
  const document = await context.client.listRations();
  output(context, document, ({ items }) => {
    table(
      ['account', 'lookups left', 'visits left'],
      items.map((one) => [
        `${one.engine.id}/${one.account}`,
        `${String(one.lookups.left)} of ${String(one.lookups.ration)}`,
        one.visits.ration === 0 ? 'takes none' : `${String(one.visits.left)} of ${String(one.visits.ration)}`,
      ]),
      'No engine here takes lookups or visits.',
    );
    if (items[0]) say(`A new day begins on ${when(items[0].until)} UTC.`);
  });
  await sayShown(context, { shown: document.items.length, one: 'account' });
}

/** `lookup`, `visit`, `rations`, `job` */
export function pageLookupCommands(program: Command): void {
  const command = (name: string, says: string, work: 'lookUp' | 'askVisit') =>
    program
      .command(`${name} [address...]`)
      .description(says)
      .option('--engine <engine>', 'only at this one; at all that hold a badge over it otherwise')
      .option(
        '--from <file>',
        'addresses from a file, one a line, spread over days as rations allow; “-” for standard input',
      )
      .option('--json', 'print the job')
      .action((given: string[], options: PageOptions) => ask(work, given, options));
  command('lookup', 'ask engines whether they list a page, within the day’s ration', 'lookUp');
  command('visit', 'ask engines to visit a page, within the day’s ration', 'askVisit');
  program
    .command('job [id]')
    .description('how far a job is; the newest jobs without an identifier')
    .option('--stop', 'stop it; what is not done stays to be done')
    .option('--resume', 'go on with it after it was stopped')
    .option('--json', 'print the document')
    .action(showJob);
  program
    .command('rations')
    .description('what is left of today’s lookups and visits')
    .option('--json', 'print the document')
    .action(rations);
}
