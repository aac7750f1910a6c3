import type { Command } from 'commander';
import type { Marked, StepsMeant, WorkEntry } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { sayNext } from '../print/next.js';
import { inWords, sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { plain, say, when } from '../print/text.js';
import { timeGiven } from '../time-given.js';
import { isNarrowed, listing, narrowedTo, queryOf, type ListOptions } from './listing.js';
import { given } from '../../api/given.js';

/** The command by which a step is done, or begun. */
function commandFor({ step: { kind }, property, properties, engines, enrolments }: WorkEntry): string {
  const { handle } = property;
  const name = enrolments[0]?.name ?? handle;
  const at = engines.map(({ id }) => id).join(' ');
  if (kind === 'enrol')
    return properties > 1 ? `enrol --missing --engine ${at}` : `enrol ${handle} --engine ${at}`;
  return COMMANDS[kind]?.replace('NAME', name).replace('HANDLE', handle).replace('ENGINE', at) ?? 'yard';
}

const COMMANDS: Readonly<Record<string, string>> = {
  'mend-site': 'variants HANDLE',
  'prove-again': 'token NAME',
  repair: 'check NAME',
  'enrol-again': 'enrol HANDLE --engine ENGINE',
  'ask-engine': 'claim NAME',
  'enrol-door': 'enrol HANDLE --fitting',
  claim: 'claim NAME',
  'mend-sitemap': 'sitemap list HANDLE',
  'submit-sitemap': 'sitemap find HANDLE --note',
  check: 'check NAME',
  'renew-token': 'token NAME',
  place: 'check NAME',
  'get-token': 'token NAME',
  'end-there': 'record ended NAME',
  'read-sitemap': 'sitemap list HANDLE',
  'withdraw-sitemap': 'sitemap withdraw HANDLE --spare',
  'write-again': 'ask HANDLE',
  renew: 'ask HANDLE',
  publish: 'publish HANDLE',
};

/** Where a step is to be done, as short as it can be written: what can be given to a command again, where it is one enrolment. */
function whereOf({ property, properties, engines, enrolments }: WorkEntry): string {
  const [only, second] = enrolments;
  if (only && !second) return only.name;
  const at = engines.length === 0 ? '' : `@${engines.map(({ id }) => id).join(',')}`;
  return `${properties === 1 ? property.handle : `${String(properties)} properties`}${at}`;
}

/** Why, with what people said of it. */
function whyOf({ step, person, putOff }: WorkEntry): string {
  const says = step.until === null ? step.says : `until ${when(step.until)}: ${step.says}`;
  const to = person === null ? '' : `${person}: `;
  if (!putOff) return `${to}${says}`;
  const by = putOff.who === null ? '' : ` by ${putOff.who}`;
  return `${to}put off until ${when(putOff.until)}${by} (${putOff.why}): ${says}`;
}

interface Meant {
  client?: string;
  kind?: string;
  engine?: string;
  json?: boolean;
}

/** Which steps are meant by `HANDLE`, `HANDLE@ENGINE`, or by client, kind and engine. Throws Usage where none is said. */
function stepsMeant(where: string | undefined, { client, kind, engine }: Meant): StepsMeant {
  const at = where?.lastIndexOf('@') ?? -1;
  const property = where === undefined || at < 0 ? where : where.slice(0, at);
  const named = where === undefined || at < 0 ? engine : where.slice(at + 1).replace(/:.*$/u, '');
  if (property === undefined && client === undefined && kind === undefined)
    throw new Usage('Expected HANDLE, HANDLE@ENGINE, --client CLIENT or --kind KIND.');
  return {
    ...given({ property, client, kind }),
    ...(named === undefined ? {} : { engines: [named] }),
  };
}

function marking(command: Command): Command {
  return command
    .option('--client <client>', 'of one client')
    .option('--kind <kind>', 'of one kind, such as place')
    .option('--engine <engine>', 'at one engine')
    .option('--json', 'print the document');
}

function sayMarked({ steps, properties }: Marked, done: string): void {
  const at = properties === 1 ? '' : ` at ${counted(properties, 'property', 'properties')}`;
  say(plain(`${counted(steps, 'next step', 'next steps')}${at}: ${done}.`));
}

/** `next`, `next put-off|take-up|hand` */
export function nextCommands(program: Command): void {
  const next = listing(program.command('next').description('what to do next, worst and oldest harm first'))
    .option('--property <property>', 'for one property')
    .option('--acts <who>', 'what is up to us, client, engine or time')
    .option('--person <name>', 'what was handed to a person; “me”, or “nobody” for what was handed to nobody')
    .action(async (options: ListOptions) => {
      const context = openContext(options);
      const document = await context.client.worklist({ query: queryOf(options) });
      output(context, document, (list) => {
        table(
          ['do', 'where', 'since', 'why'],
          list.items.map((one) => [one.step.kind, whereOf(one), when(one.step.since), whyOf(one)]),
          isNarrowed(options)
            ? 'Nothing of that kind to do.'
            : 'Nothing to do. Every badge is held, every sitemap read.',
        );
      });
      const { items, next: after, counts } = document;
      const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
      const list = { shown: items.length, all, one: 'next step', kinds: inWords(counts), next: after };
      await sayShown(context, { ...list, of: narrowedTo(options) });
      const [first] = items;
      if (first && options.json !== true) sayNext(commandFor(first));
    });
  marking(
    next.command('put-off [where]').description('leave next steps until a day: HANDLE or HANDLE@ENGINE'),
  )
    .requiredOption('--until <day>', 'until when, such as 2026-12-01, tomorrow or next monday')
    .option('--why <reason>', 'why, for those who wonder')
    .action(async (where: string | undefined, options: Meant & { until: string; why?: string }) => {
      const context = openContext(options);
      const until = await timeGiven(context, options.until);
      const why = options.why === undefined ? {} : { why: options.why };
      const body = { ...stepsMeant(where, options), until, ...why };
      output(
        context,
        await context.client.putOffSteps({ body }),
        (done) => {
          sayMarked(done, `put off until ${when(until)}`);
        },
        () => ['next --kind put-off', `next take-up ${where ?? '…'}`],
      );
    });
  marking(next.command('take-up [where]').description('work at steps again that were put off')).action(
    async (where: string | undefined, options: Meant) => {
      const context = openContext(options);
      const body = stepsMeant(where, options);
      output(
        context,
        await context.client.takeUpSteps({ body }),
        (done) => {
          sayMarked(done, 'taken up again');
        },
        () => ['next'],
      );
    },
  );
  marking(next.command('hand [where]').description('hand next steps to a person: HANDLE or HANDLE@ENGINE'))
    .requiredOption('--to <name>', 'a person’s name; “me”, or “nobody” for nobody in particular')
    .action(async (where: string | undefined, options: Meant & { to: string }) => {
      const context = openContext(options);
      const person = options.to === 'nobody' ? null : options.to;
      const body = { ...stepsMeant(where, options), person };
      output(
        context,
        await context.client.handSteps({ body }),
        (done) => {
          sayMarked(done, `handed to ${person ?? 'nobody in particular'}`);
        },
        () => [`next --person ${options.to}`],
      );
    });
}
