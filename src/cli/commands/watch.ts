import type { Command } from 'commander';
import type { Pause, Watch, WatchedThing } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { linesGiven } from '../lines-given.js';
import { sayNext } from '../print/next.js';
import { span } from '../print/span.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { paint, plain, say, when } from '../print/text.js';
import { timeGiven } from '../time-given.js';
import { given } from '../../api/given.js';

interface PauseOptions {
  client?: string;
  all?: boolean;
  json?: boolean;
}

/** What is to be left alone, or looked after again. Throws Usage where it is nothing, or two things. */
function pauseOf(property: string | undefined, { client, all }: PauseOptions): object {
  const given = [property, client, all].filter((one) => one !== undefined);
  if (given.length !== 1) throw new Usage('Expected a property, or --client CLIENT, or --all.');
  if (property !== undefined) return { property };
  return client === undefined ? { all: true } : { client };
}

const WHY: Readonly<Record<WatchedThing['why'], string>> = {
  rhythm: '',
  again: 'again soon: the last check failed or found something',
  alarm: 'soon: another check of this property failed or found something',
};

function nameOf({ property, client }: Pause): string {
  return property ?? (client === null ? 'everything' : `client ${client}`);
}

/** How the watch is, in a few lines. */
function sayHow({ on, counts, nextAt, pauses, cutOff, pastDay, asOf }: Watch): void {
  if (!on)
    say(`${paint.red('✗')} The watch is off, by the setting watch.on: nothing is looked at by itself.`);
  if (cutOff) say(`${paint.red('✗')} ${plain(cutOff.says)}`);
  const { placement = 0, variants = 0, sitemap = 0, due = 0, underWay = 0 } = counts;
  say(
    `Watched: ${counted(placement, 'placement', 'placements')}, the variants of ${counted(variants, 'property', 'properties')}, ${counted(sitemap, 'sitemap', 'sitemaps')}.`,
  );
  const isOver = nextAt !== null && nextAt <= asOf;
  const next = nextAt === null ? 'Nothing is watched yet.' : `Next at ${when(nextAt)}.`;
  say(`${String(due)} due now, ${String(underWay)} under way. ${isOver ? '' : next}`.trimEnd());
  const { looks, failed, lateMedian, lateMost } = pastDay;
  if (looks > 0)
    say(
      `In the past day: ${String(looks)} checks, ${String(failed)} without a result; median delay ${span(lateMedian)}, the longest ${span(lateMost)}.`,
    );
  for (const one of pauses)
    say(
      `Paused: ${plain(nameOf(one))} since ${when(one.since)}${one.until === null ? '' : `, until ${when(one.until)}`}${one.who === null ? '' : `, by ${plain(one.who)}`}: ${plain(one.why)}.`,
    );
}

/** `watch`, `watch pause|resume|set` */
export function watchCommands(program: Command): void {
  const watch = program
    .command('watch')
    .description('what is looked at by itself: what is due, what ran, how late, what is paused')
    .option('--property <property>', 'of one property')
    .option('--client <client>', 'of one client')
    .option('--due', 'only what is due now')
    .option('--limit <number>', 'how many lines', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(
      async (options: {
        property?: string;
        client?: string;
        due?: boolean;
        limit: string;
        after?: string;
        json?: boolean;
      }) => {
        const context = openContext(options);
        const { property, client, due, after, limit } = options;
        const narrow = {
          ...given({ property, client, due, after }),
        };
        const document = await context.client.showWatch({ query: { ...narrow, limit: linesGiven(limit) } });
        output(context, document, (shown) => {
          sayHow(shown);
          table(
            ['due (UTC)', 'what', 'of', 'every', 'looked at', ''],
            shown.items.map((one) => [
              when(one.dueAt),
              one.what,
              one.subject,
              span(one.every),
              one.lookedAt === null ? 'never' : when(one.lookedAt),
              one.paused === null ? paint.dim(WHY[one.why]) : paint.dim(plain(`paused: ${one.paused}`)),
            ]),
            options.due === true
              ? 'Nothing is due now.'
              : 'Nothing is watched yet: take on a property first.',
          );
        });
        const { items, counts, next } = document;
        // The counts are of everything: of one property or client nobody says how many there are in all.
        const isNarrow = property !== undefined || client !== undefined;
        const { placement = 0, variants = 0, sitemap = 0, due: dueNow = 0 } = counts;
        const whole = due === true ? dueNow : placement + variants + sitemap;
        const all = isNarrow ? undefined : whole;
        await sayShown(context, {
          shown: items.length,
          one: 'thing watched',
          many: 'things watched',
          next,
          ...given({ all }),
        });
        if (options.json !== true) sayNext('watch pause PROPERTY --why REASON', 'journal --who service');
      },
    );
  watch
    .command('pause [property]')
    .description('pause the checks of a property, a client or everything for a while')
    .option('--client <client>', 'all properties of one client')
    .option('--all', 'everything')
    .option('--why <reason>', 'why, for those who wonder')
    .option('--until <time>', 'until when; until “watch resume” otherwise')
    .option('--json', 'print the document')
    .action(
      async (property: string | undefined, options: PauseOptions & { why?: string; until?: string }) => {
        const context = openContext(options);
        const { why, until } = options;
        const body = {
          ...pauseOf(property, options),
          ...given({ why }),
          ...(until === undefined ? {} : { until: await timeGiven(context, until) }),
        };
        const document = await context.client.pauseWatch({ body });
        output(
          context,
          document,
          (one) => {
            const end = one.until === null ? '' : ` until ${when(one.until)}`;
            say(`The watch leaves ${plain(nameOf(one))} alone${end}: ${plain(one.why)}.`);
          },
          (one) => [
            `watch resume ${one.property ?? (one.client === null ? '--all' : `--client ${one.client}`)}`,
          ],
        );
      },
    );
  watch
    .command('resume [property]')
    .description('look after it again')
    .option('--client <client>', 'all properties of one client')
    .option('--all', 'everything')
    .option('--json', 'print the document')
    .action(async (property: string | undefined, options: PauseOptions) => {
      const context = openContext(options);
      const document = await context.client.resumeWatch({ body: pauseOf(property, options) });
      output(
        context,
        document,
        ({ items }) => {
          for (const one of items)
            say(
              `The watch looks after ${plain(nameOf(one))} again; what is due is looked at within a minute.`,
            );
        },
        () => ['watch'],
      );
    });
  watch
    .command('set <property>')
    .description('how often a property is looked at, where it is not as usual')
    .option('--placement <duration>', 'its placements, such as PT12H; “usual” for as usual')
    .option('--variants <duration>', 'its variants')
    .option('--sitemap <duration>', 'its sitemaps')
    .option('--json', 'print the document')
    .action(
      async (
        property: string,
        options: { placement?: string; variants?: string; sitemap?: string; json?: boolean },
      ) => {
        const context = openContext(options);
        const { placement, variants, sitemap } = options;
        const rhythms = Object.fromEntries(
          Object.entries({ placement, variants, sitemap })
            .filter(([, every]) => every !== undefined)
            .map(([what, every]) => [what, every === 'usual' ? null : every]),
        );
        if (Object.keys(rhythms).length === 0)
          throw new Usage('Expected --placement, --variants or --sitemap, such as --placement PT12H.');
        const document = await context.client.editProperty({ params: { property }, body: { rhythms } });
        output(
          context,
          document,
          (one) => {
            const own = Object.entries(one.rhythms).map(([what, every]) => `${what} ${every}`);
            say(
              own.length === 0
                ? `${plain(one.handle)} is looked at as usual.`
                : `${plain(one.handle)} is looked at by a rhythm of its own: ${own.join(', ')}.`,
            );
          },
          (one) => [`watch --property ${one.handle}`],
        );
      },
    );
}
