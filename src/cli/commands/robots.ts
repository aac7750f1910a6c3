import type { Command } from 'commander';
import type { JobResult } from '../../api/documents.js';
import { finish, openContext, output, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { paint, paragraph, plain, say, sayBlock } from '../print/text.js';
import { readText } from '../read-file.js';

type Shown = NonNullable<JobResult['robots']>;

/** `robots P [ADDRESS…]` */
export function robotsCommand(program: Command): void {
  program
    .command('robots <property> [address...]')
    .description(
      'which line of the robots.txt decides for an address and an engine, what is wrong with it, and what is missing',
    )
    .option('--draft <file>', 'of this file in place of the one that stands there; - for standard input')
    .option('--proposal', 'print only what it should say, to be saved as robots.txt')
    .option('--keep', 'keep the draft, or the proposal, for “publish” to put there')
    .option('--anyway', 'keep it although it keeps engines from the front door')
    .option('--drop', 'drop what was kept; what was published stays')
    .option('--json', 'print the job')
    .action(async (property: string, addresses: string[], options: Options) => {
      const context = openContext(options);
      if (options.drop === true) {
        await context.client.dropRobots({ params: { property } });
        say('Nothing is kept any more.');
        return;
      }
      const body = {
        ...(addresses.length === 0 ? {} : { addresses }),
        ...(options.draft === undefined ? {} : { draft: readText(options.draft) }),
      };
      const job = await finish(context, await context.client.judgeRobots({ params: { property }, body }));
      const shown = job.items.flatMap(({ result }) => result?.robots ?? []);
      if (options.keep === true) {
        await keep(context, property, body.draft ?? null, shown[0], options.anyway === true);
        return;
      }
      if (options.proposal === true) {
        for (const { proposal, text } of shown)
          sayBlock((proposal ?? text).split('\n').map(plain).join('\n').trimEnd());
        return;
      }
      output(
        context,
        job,
        () => {
          for (const one of shown) printRobots(one);
          for (const { result } of job.items) say(plain(result?.says ?? ''));
        },
        () => (shown.some(({ proposal }) => proposal !== null) ? [`robots ${property} --proposal`] : []),
      );
    });
}

interface Options {
  draft?: string;
  proposal?: boolean;
  keep?: boolean;
  anyway?: boolean;
  drop?: boolean;
  json?: boolean;
}

/** Keeps the draft, or what is proposed, as that which is to take the place of what stands there now. */
async function keep(
  context: Context,
  property: string,
  draft: string | null,
  shown: Shown | undefined,
  anyway: boolean,
): Promise<void> {
  // Of a draft it was not looked what stands there.
  const stands =
    draft === null
      ? (shown?.stands ?? null)
      : ((
          await context.client.finished(await context.client.judgeRobots({ params: { property }, body: {} }))
        ).items.flatMap(({ result }) => result?.robots ?? [])[0]?.stands ?? null);
  const text = draft ?? shown?.proposal ?? null;
  if (text === null)
    throw new Usage('There is no proposal to keep: nothing is missing. Give a draft with --draft FILE.');
  const kept = await context.client.keepRobots({
    params: { property },
    body: { text, over: stands, ...(anyway ? { anyway } : {}) },
  });
  output(
    context,
    kept,
    () => {
      say(
        stands === null
          ? 'Kept. No robots.txt stands there now.'
          : 'Kept. It takes the place of the one that stands there now, and of no other.',
      );
    },
    () => [`publish ${property} --plan`],
  );
}

function printRobots({ url, status, draft, verdicts, faults, proposal }: Shown): void {
  say(
    `${paint.bold(plain(url))}  ${draft ? 'as drafted' : status === 200 ? 'as it stands' : `answers ${String(status ?? 'nothing')}`}`,
  );
  table(
    ['address', 'may', 'who', 'by the rules for', 'line', 'which says'],
    verdicts.flatMap(({ address, agents }) =>
      alike(agents).map(([{ allowed, group, rule, line }, titles], at) => [
        at === 0 ? new URL(address).pathname + new URL(address).search : '',
        allowed ? 'yes' : 'no',
        titles.join(', '),
        group === '*' ? 'everyone' : group,
        line === null ? '–' : String(line),
        rule ?? 'no line is about it',
      ]),
    ),
    '',
  );
  for (const { line, text, says } of faults)
    paragraph(`${paint.magenta('!')} `, `Line ${String(line)}, “${plain(text)}”: ${plain(says)}`);
  if (proposal !== null)
    paragraph(
      `${paint.bold('→')} `,
      status === 200 || draft
        ? 'It does not name every sitemap.'
        : 'There is none; engines then fetch everything.',
    );
}

type Told = Shown['verdicts'][number]['agents'][number];

/** Agents for which the same line decides, together. */
function alike(agents: readonly Told[]): [Told, string[]][] {
  const found = new Map<string, [Told, string[]]>();
  for (const one of agents) {
    const key = `${String(one.allowed)} ${one.group} ${String(one.line)}`;
    const known = found.get(key);
    if (known) known[1].push(one.title);
    else found.set(key, [one, [one.title]]);
  }
  return [...found.values()];
}
