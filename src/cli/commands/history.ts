import type { Command } from 'commander';
import type { Badge, PropertyHistory } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { badge, mark } from '../print/badge-mark.js';
import { table } from '../print/table.js';
import { paint, plain, say, when } from '../print/text.js';

const DAY_MS = 86_400_000;
/** How far back the strip goes, and how many days one sign of it stands for. */
const STRIP_DAYS = 90;
const DAYS_A_SIGN = 2;

type Enrolment = PropertyHistory['enrolments'][number];

/** The badges of the past weeks as a strip, one sign for two days, the newest last; a dot where there was no enrolment. */
function strip({ badges }: Enrolment, asOf: string): string {
  const now = Date.parse(asOf);
  const signs = Array.from({ length: STRIP_DAYS / DAYS_A_SIGN }, (_, at) => {
    const time = now - (STRIP_DAYS - (at + 1) * DAYS_A_SIGN) * DAY_MS;
    const found = badges.find(
      ({ from, until }) => Date.parse(from) <= time && (until === null || Date.parse(until) > time),
    );
    return found ? mark(found.badge) : '·';
  });
  return signs.join('');
}

function until(time: string | null): string {
  return time === null ? 'now' : when(time);
}

function printEnrolment(one: Enrolment, asOf: string): void {
  say(`${paint.bold(plain(one.name))}${one.ended ? '  ended' : ''}`);
  say(`  ${strip(one, asOf)}  ${paint.dim(`the past ${String(STRIP_DAYS)} days`)}`);
  for (const { badge: kind, from, until: end } of [...one.badges].reverse())
    say(`  ${badge(kind satisfies Badge).padEnd(11)}  from ${when(from)} to ${until(end)}`);
}

function printHistory({ enrolments, doors, away, counts, asOf }: PropertyHistory): void {
  if (enrolments.length === 0) say(paint.dim('It was never enrolled anywhere.'));
  enrolments.forEach((one, at) => {
    if (at > 0) say();
    printEnrolment(one, asOf);
  });
  say();
  table(
    ['front door', 'from', 'to'],
    doors.map((one) => [one.forPeople, when(one.from), until(one.until)]),
    'Its front door was never known.',
  );
  if (away.length > 0) {
    say();
    table(
      ['from', 'to', 'engines were asked to stay away'],
      away.map((one) => [when(one.from), until(one.until), one.says]),
      '',
    );
  }
  if (counts.length === 0) return;
  say();
  table(
    ['engine', 'sitemap', 'from', 'to', 'found', 'listed', 'trouble'],
    counts.map((one) => [
      one.engine.title,
      new URL(one.sitemap).pathname,
      when(one.from),
      until(one.until),
      String(one.found ?? '–'),
      String(one.listed ?? '–'),
      one.trouble ?? '–',
    ]),
    '',
  );
}

/** `history` */
export function historyCommand(program: Command): void {
  program
    .command('history <property>')
    .description('how a property stood over its time, or at one engine: badges, front doors, sitemap counts')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const at = ref.lastIndexOf('@');
      const property = at === -1 ? ref : ref.slice(0, at);
      const engine =
        at === -1
          ? null
          : ref
              .slice(at + 1)
              .split(':')[0]
              ?.toLowerCase();
      const whole = await context.client.history({ params: { property } });
      const isMeant = (one: { readonly engine: { id: string; title: string } }) =>
        engine === null || one.engine.id === engine || one.engine.title.toLowerCase() === engine;
      const history = {
        ...whole,
        enrolments: whole.enrolments.filter(isMeant),
        counts: whole.counts.filter(isMeant),
      };
      if (engine !== null && history.enrolments.length === 0)
        throw new Usage(`${property} was never enrolled with “${engine ?? ''}”.`);
      output(context, history, printHistory, ({ property: { handle } }) => [`journal ${handle}`]);
    });
}
