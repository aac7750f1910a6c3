import type { Command } from 'commander';
import type { Enrolment, Met, Method } from '../../api/documents.js';
import { isSaid, unlessUnwanted } from '../confirm.js';
import { finish, openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { timeGiven } from '../time-given.js';
import { badge } from '../print/badge-mark.js';
import { table } from '../print/table.js';
import { plain, say, when } from '../print/text.js';
import { given } from '../../api/given.js';

const VERDICTS = ['confirmed', 'refused', 'withdrawn'] as const;

function count(text: string | undefined, what: string): number | undefined {
  if (text === undefined) return undefined;
  if (!/^\d+$/.test(text)) throw new Usage(`“${text}” is no count of ${what}; expected a whole number.`);
  return Number(text);
}

function printBadge(one: Enrolment): void {
  say(`${badge(one.badge)}  ${plain(one.name)} since ${when(one.badgeSince)} UTC`);
  say(`  next: ${plain(one.step.says)}`);
}

function nextOf({ property }: Enrolment): string[] {
  return [`next --property ${property.handle}`];
}

/** `record verdict|mistake|counts|ended` : what an engine without a link showed. */
function recordCommands(program: Command): void {
  const record = program.command('record').description('record what a manual engine showed on its own pages');
  record
    .command('verdict <enrolment> <verdict>')
    .description('its word about ownership: confirmed, refused or withdrawn')
    .option('--method <method>', 'claimed by meta, file or dns; the only one that our check sees otherwise')
    .option('--reason <words>', 'its reason, in its own words')
    .option('--on <day>', 'when it said so; now otherwise')
    .option('--anyway', 'although our check sees nothing stand')
    .option('--json', 'print the enrolment')
    .action(
      async (
        enrolment: string,
        verdict: string,
        options: { method?: Method; reason?: string; on?: string; anyway?: boolean; json?: boolean },
      ) => {
        const known = VERDICTS.find((one) => one === verdict);
        if (!known) throw new Usage(`“${verdict}” is no verdict; expected ${VERDICTS.join(', ')}.`);
        const context = openContext(options);
        const { method, reason, on } = options;
        const body = {
          verdict: known,
          ...given({ method, reason }),
          ...(on === undefined ? {} : { at: await timeGiven(context, on) }),
        };
        const recorded = await unlessUnwanted(
          options.anyway === true,
          (anyway) =>
            context.client.recordVerdict({
              params: { enrolment },
              body: { ...body, ...(anyway ? { anyway } : {}) },
            }),
          'Record it all the same?',
        );
        if (recorded) output(context, recorded, printBadge, nextOf);
      },
    );
  record
    .command('mistake <enrolment>')
    .description('take back the newest verdict that was recorded by mistake, and what followed from it')
    .option('--json', 'print the enrolment')
    .action(async (enrolment: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.takeBackVerdict({ params: { enrolment } }), printBadge, nextOf);
    });
  record
    .command('ended <enrolment>')
    .description('that it has ended on the engine’s own pages; its records stay')
    .option('--json', 'print the document')
    .action(async (enrolment: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.recordEnding({ params: { enrolment } }),
        (one) => {
          say(`Ended ${plain(one.enrolment)} on ${when(one.endedAt)} UTC; its records stay.`);
        },
        (one) => [`next --property ${one.enrolment.slice(0, one.enrolment.lastIndexOf('@'))}`],
      );
    });
  record
    .command('counts <enrolment> <sitemap>')
    .description('what it says of a sitemap that was submitted to it')
    .option('--found <number>', 'how many addresses it found')
    .option('--listed <number>', 'how many of them it lists')
    .option('--read <day>', 'when it last read the sitemap; now otherwise')
    .option('--trouble <words>', 'what it could not do, in its own words')
    .option('--json', 'print the sitemap')
    .action(
      async (
        enrolment: string,
        address: string,
        options: { found?: string; listed?: string; read?: string; trouble?: string; json?: boolean },
      ) => {
        const found = count(options.found, 'addresses found');
        const listed = count(options.listed, 'addresses listed');
        const { read, trouble } = options;
        if (found === undefined && trouble === undefined)
          throw new Usage('Give what it says: --found NUMBER, or --trouble WORDS.');
        const context = openContext(options);
        const { name } = await context.client.showEnrolment({ params: { enrolment } });
        const property = name.slice(0, name.lastIndexOf('@'));
        const { items } = await context.client.listSitemaps({ query: { property } });
        const submission = items
          .filter(
            ({ url }) => url === address || new URL(url).pathname === address || url.endsWith(`/${address}`),
          )
          .flatMap(({ submissions }) => submissions)
          .find((one) => one.enrolmentName === name);
        if (!submission)
          throw new Usage(`No sitemap “${address}” was submitted for ${name}. “sitemap submit” does it.`);
        const body = {
          ...given({ found, listed }),
          ...(read === undefined ? {} : { readAt: await timeGiven(context, read) }),
          ...given({ trouble }),
        };
        output(
          context,
          await context.client.recordReading({ params: { id: submission.id }, body }),
          (sitemap) => {
            const ours = sitemap.reading ? String(sitemap.reading.addresses) : 'unread';
            say(
              `${plain(sitemap.url)}: ours ${ours}, found ${String(found ?? '–')}, listed ${String(listed ?? '–')}.`,
            );
          },
        );
      },
    );
}

function printMet(met: readonly Met[]): void {
  table(
    ['there', 'reach', 'ownership', 'here', 'so'],
    met.map((one) => [one.target, one.reach, one.ownership, one.state, one.says]),
    'Nothing is enrolled there under this account.',
  );
}

/** `record …`, `adopt`, `unenrol` */
export function byHandCommands(program: Command): void {
  recordCommands(program);
  program
    .command('adopt <engine>')
    .description('look what is enrolled at an engine already, beside what is recorded here')
    .option('--account <name>', 'under which account; the agency’s own otherwise')
    .option('--take', 'take over what is new here; nothing that is recorded is written over')
    .option('--json', 'print the job')
    .action(async (engine: string, options: { account?: string; take?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const { account, take } = options;
      const body = {
        engine,
        ...given({ account }),
        ...(take === true ? { take } : {}),
      };
      const job = await finish(context, await context.client.adopt({ body }));
      output(
        context,
        job,
        ({ items }) => {
          for (const { result } of items) {
            if (result?.met) printMet(result.met);
            say(plain(result?.says ?? ''));
            if (take !== true && result?.met?.some(({ state }) => state === 'new') === true)
              say('--take takes over what is new here.');
          }
        },
        () => ['yard', 'next'],
      );
    });
  program
    .command('unenrol <enrolment>')
    .description('end an enrolment at its engine; its records stay')
    .option('--yes', 'without asking')
    .option('--json', 'print the job')
    .action(async (enrolment: string, options: { yes?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const one = await context.client.showEnrolment({ params: { enrolment } });
      const asked = one.byHand
        ? `This notes that ${one.name} (${one.badge}) is to be ended on ${one.engine.title}’s own pages.`
        : `This ends ${one.name} (${one.badge}) at ${one.engine.title}.`;
      if (!(await isSaid(options.yes, asked))) return;
      const job = await finish(context, await context.client.endEnrolment({ params: { enrolment } }));
      output(
        context,
        job,
        ({ items }) => {
          for (const { result } of items) say(plain(result?.says ?? ''));
        },
        () => [`next --property ${one.property.handle}`],
      );
    });
}
