import { writeFileSync } from 'node:fs';
import type { Command } from 'commander';
import type { Handover, HandoverEnrolment } from '../../api/documents.js';
import { agrees, unlessUnwanted } from '../confirm.js';
import { finish, openContext, output, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { paint, plain, say, sayAside, when } from '../print/text.js';
import { timeGiven } from '../time-given.js';
import { given } from '../../api/given.js';

interface HandoverOptions {
  look?: boolean;
  begin?: boolean;
  done?: string;
  open?: string;
  note?: string;
  archive?: string;
  end?: boolean;
  deleteOn?: string;
  callOff?: boolean;
  yes?: boolean;
  anyway?: boolean;
  json?: boolean;
}

/** `handover C`, `record holders NAME` */
export function handoverCommand(program: Command): void {
  program
    .command('handover <client>')
    .description(
      'what a client takes along when it goes, or brings when it comes: who holds what at each engine, what has to stay, what is to be done before',
    )
    .option('--look', 'ask the engines who else holds what')
    .option('--begin', 'begin to hand it over')
    .option('--done <item>', 'tick something off')
    .option('--open <item>', 'take a tick back')
    .option('--note <words>', 'with a tick: how, or by whom')
    .option('--archive <file>', 'write the client’s part of the records to this file, as a ZIP')
    .option('--call-off', 'call it off: the client stays, and its ticks go')
    .option('--end', 'end it: nothing is watched any more, and the client is archived')
    .option('--delete-on <day>', 'with --end: the day on which its records are due to be deleted')
    .option('--yes', 'end it, do not ask first')
    .option('--anyway', 'end it although something is open')
    .option('--json', 'print the document')
    .action(handOver);
  program
    .command('holders <enrolment> <says>')
    .description('note who holds it at a manual engine, as its own pages show')
    .action(async (enrolment: string, says: string) => {
      const { client } = openContext({});
      await client.noteHolders({ params: { enrolment }, body: { says } });
      say('Noted.');
    });
}

async function handOver(client: string, options: HandoverOptions): Promise<void> {
  const context = openContext(options);
  const params = { client };
  if (options.archive !== undefined) {
    writeFileSync(options.archive, await context.client.clientArchive(client));
    sayAside(`Written to ${options.archive}; tick “archive” off once the client has it.`);
    return;
  }
  if (options.look === true) await look(context, client);
  if (options.callOff === true) {
    output(context, await context.client.callOffHandover({ params }), ({ name }) => {
      say(`The handing over of ${plain(name)} was called off; nothing else has changed.`);
    });
    return;
  }
  const item = options.done ?? options.open;
  const shown =
    options.end === true
      ? await end(context, client, options)
      : options.begin === true
        ? await context.client.beginHandover({ params })
        : item !== undefined
          ? await context.client.tickHandover({
              params,
              body: {
                item,
                ...given({ note: options.note }),
                ...(options.open === undefined ? {} : { undo: true }),
              },
            })
          : await context.client.showHandover({ params });
  if (shown) output(context, shown, item === undefined ? print : (one) => printTick(one, item), next);
}

async function look(context: Context, client: string): Promise<void> {
  const job = await finish(context, await context.client.askHolders({ params: { client } }));
  for (const { subject, result } of job.items) sayAside(`${plain(subject)}: ${plain(result?.says ?? '')}`);
}

/** Ends it, once whoever asks has said so. */
async function end(context: Context, client: string, options: HandoverOptions): Promise<Handover | null> {
  const isWanted =
    options.yes === true ||
    (await agrees(`${client} is archived then, and nothing of it is looked at any more. End it?`));
  if (isWanted === null) throw new Usage('Ending asks first. Give --yes to end without being asked.');
  if (!isWanted) return null;
  const day = options.deleteOn === undefined ? {} : { deleteOn: await timeGiven(context, options.deleteOn) };
  return unlessUnwanted(
    options.anyway === true,
    (anyway) =>
      context.client.endHandover({ params: { client }, body: { ...day, ...(anyway ? { anyway } : {}) } }),
    'End it all the same?',
  );
}

function holdersOf({ holders, engine }: HandoverEnrolment): string | string[] {
  if (engine.id === 'house') return 'the proof is our own';
  if (holders === null) return 'not asked';
  if (holders.says !== null) return `by hand: ${holders.says}`;
  const others = holders.items.filter(({ own }) => !own);
  if (others.length === 0) return 'nobody but us';
  return others.map(
    ({ account, since, method }) => `${account}, since ${since.slice(0, 10)} by ${method ?? '–'}`,
  );
}

function print(shown: Handover): void {
  const { begun } = shown;
  if (begun) {
    const ended = begun.endedAt === null ? 'under way' : `ended ${when(begun.endedAt)}`;
    const deleted =
      begun.deleteOn === null ? '' : `; records due to be deleted on ${begun.deleteOn.slice(0, 10)}`;
    say(paint.bold(`${plain(shown.name)}: handed over since ${when(begun.at)}, ${ended}${deleted}`));
  } else say(paint.bold(plain(shown.name)));
  say();
  table(
    ['enrolment', 'badge', 'by', 'our account', 'who else holds it'],
    shown.enrolments.map((one) => [
      one.enrolment,
      one.badge,
      one.method ?? '–',
      `${one.account} at ${one.engine.title}`,
      holdersOf(one),
    ]),
    'Nothing is enrolled.',
  );
  list('Has to stay', shown.stays);
  list('May go', shown.mayGo);
  list('Somebody else’s', shown.foreign);
  say();
  table(
    ['', 'to be done', 'item'],
    shown.items.map(({ item, says, done }) => [
      done ? '✓' : '·',
      done?.note == null ? says : `${says} (${done.note})`,
      item,
    ]),
    'Nothing is to be done.',
  );
}

/** What a tick came to, and what is left; the whole of it is there without one. */
function printTick({ items }: Handover, item: string): void {
  const ticked = items.find((one) => one.item === item);
  if (ticked) say(`${ticked.done ? '✓ Done' : '· Open again'}: ${plain(ticked.says)}`);
  const left = items.filter(({ done }) => done === null);
  say(
    left.length === 0
      ? 'Nothing is open any more.'
      : `Still open: ${left.map((one) => plain(one.item)).join(', ')}.`,
  );
}

function list(title: string, some: Handover['stays']): void {
  if (some.length === 0) return;
  say();
  table(
    [title.toLowerCase(), 'at', 'for'],
    some.map(({ what, place, engine }) => [what, place, engine]),
    '',
  );
}

function next({ client, begun, items, enrolments }: Handover): string[] {
  if (begun?.endedAt != null) return [];
  const open = items.find(({ done }) => done === null);
  return [
    ...(enrolments.some(
      ({ holders, engine, badge }) =>
        holders === null && engine.id !== 'house' && badge !== 'issued' && badge !== 'bare',
    )
      ? [`handover ${client} --look`]
      : []),
    ...(begun === null ? [`handover ${client} --begin`] : []),
    ...(begun && open ? [`handover ${client} --done "${open.item}"`] : []),
    ...(begun && !open ? [`handover ${client} --end`] : []),
  ];
}
