import type { Command } from 'commander';
import type { Check, Enrolment, Job } from '../../api/documents.js';
import { finish, openContext, output } from '../context.js';
import { EXIT } from '../exit.js';
import { printCheck, printSpare } from '../print/check.js';
import { printEvidence } from '../print/evidence.js';
import { sayNext } from '../print/next.js';
import { paint, plain, say } from '../print/text.js';
import { enrolmentsOf, method, which, type Options } from './enrolment-options.js';

/** Each check as a block; methods that nobody needs or chose in a line, unless everything is to be explained. */
function printChecks(
  job: Job,
  checks: readonly Check[],
  enrolments: readonly Enrolment[],
  { settled, holds, explain }: { settled: Settled; holds: (check: Check) => boolean; explain: boolean },
): void {
  for (const item of job.items) {
    const check = item.result?.check;
    if (!check) {
      say(`${paint.red('✗')} ${plain(item.subject)}  ${plain(item.result?.says ?? '')}`);
      continue;
    }
    const isNeeded = check.forecast === 'accept' || !settled(check.enrolment) || holds(check);
    const isChosen = check.tried || !checks.some((one) => one.enrolment === check.enrolment && one.tried);
    if (explain || (isNeeded && isChosen)) printCheck(check);
    else printSpare(check, isNeeded ? 'not tried' : 'not needed');
    const seen = enrolments.flatMap(({ placements }) => placements).find((one) => one.check?.id === check.id);
    if (explain && seen?.check) printEvidence(seen.check);
  }
}

/** Whether one of the placements of an enrolment, by its name, is as the engine wants it. */
type Settled = (name: string) => boolean;

/** What can be done after a check: claim what stands, or look closer at what does not. */
function sayAfter(enrolments: readonly Enrolment[], settled: Settled): void {
  const ready = enrolments.find(({ badge, name }) => badge === 'in-place' && settled(name));
  const open = enrolments.find(({ name }) => !settled(name));
  const next = [
    ...(ready ? [ready.byHand ? `next --property ${ready.property.handle}` : `claim ${ready.name}`] : []),
    ...(open ? [`token ${open.name}`, `check ${open.name} --explain`] : []),
  ];
  if (next.length > 0) sayNext(...next);
}

/** `check` */
export function checkCommand(program: Command): void {
  program
    .command('check [enrolment...]')
    .description('look at the placements, and say what the engine will say')
    .option('--method <method>', 'only this method: meta, file or dns')
    .option('--all', 'every placement whose token is known')
    .option('--explain', 'with the whole evidence')
    .option('--json', 'print the checks')
    .action(async (refs: string[], options: Options & { explain?: boolean }) => {
      const context = openContext(options);
      const job = await finish(
        context,
        await context.client.check({ body: { ...which(refs, options.all), ...method(options.method) } }),
      );
      const checks = job.items.flatMap((item) => (item.result?.check ? [item.result.check] : []));
      const enrolments = await enrolmentsOf(context, job);
      // By what was seen just now: a badge says what stood when it was given.
      const settled = (name: string) =>
        enrolments.some(
          (one) => one.name === name && one.placements.some(({ check }) => check?.forecast === 'accept'),
        );
      const holds = (check: Check) =>
        enrolments.some(
          ({ name, ownership }) =>
            name === check.enrolment &&
            ownership?.kind === 'confirmed' &&
            (ownership.method ?? check.method) === check.method,
        );
      // A method that nobody uses does not stand in the way where another one is in place.
      const stops =
        checks.some((one) => one.forecast !== 'accept' && (!settled(one.enrolment) || holds(one))) ||
        checks.length < job.items.length;
      process.exitCode = stops ? EXIT.stops : EXIT.done;
      output(context, { checks }, () => {
        if (job.items.length === 0) say(paint.dim('Nothing to check: no token is known yet.'));
        printChecks(job, checks, enrolments, { settled, holds, explain: options.explain === true });
        const several = [...new Set(checks.map(({ enrolment }) => enrolment))].filter(
          (name) => !settled(name) && checks.filter(({ enrolment }) => enrolment === name).length > 1,
        );
        if (several.length > 0)
          say(paint.dim(plain(`One method is enough for each: ${several.join(', ')}.`)));
        sayAfter(enrolments, settled);
      });
    });
}
