import { writeFileSync } from 'node:fs';
import { Option, type Command } from 'commander';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { plain, say, sayAside, sayBlock, sayJson, when } from '../print/text.js';
import { timeGiven } from '../time-given.js';

interface ReportOptions {
  from?: string;
  to?: string;
  as: 'markdown' | 'html' | 'json';
  out?: string;
  keep?: boolean;
  sendTo?: string;
  contact?: string;
  kept?: boolean;
  show?: string;
  json?: boolean;
}

/** `report C` */
export function reportCommand(program: Command): void {
  program
    .command('report <client>')
    .description(
      'what a client’s owner is told: how each website stands, what changed, what we did, what they have to do',
    )
    .option('--from <day>', 'from this day on; thirty days where none is named')
    .option('--to <day>', 'until this day')
    .addOption(
      new Option('--as <form>', 'as what it is written')
        .choices(['markdown', 'html', 'json'])
        .default('markdown'),
    )
    .option('--out <file>', 'write it to this file')
    .option('--keep', 'keep it as it is now')
    .option('--send-to <address>', 'keep it, and send it there')
    .option('--contact <name>', 'keep it, and send it to one of the client’s people')
    .option('--kept', 'those that were kept')
    .option('--show <report>', 'one that was kept, as it was')
    .option('--json', 'print the document')
    .action(report);
}

async function report(client: string, options: ReportOptions): Promise<void> {
  const context = openContext(options);
  const { from, to, sendTo, contact } = options;
  const span = {
    ...(from === undefined ? {} : { from: await timeGiven(context, from) }),
    ...(to === undefined ? {} : { to: await timeGiven(context, to) }),
  };
  if (options.kept === true) {
    output(context, await context.client.listKeptReports({ params: { client } }), ({ items }) => {
      table(
        ['report', 'at (UTC)', 'of', 'sent to', 'by'],
        items.map((one) => [
          one.id,
          when(one.at),
          one.title,
          one.sentTo ?? 'nobody',
          one.by ?? 'the service',
        ]),
        'None was kept yet.',
      );
    });
    return;
  }
  if (options.show !== undefined) {
    const kept = await context.client.showKeptReport({ params: { id: options.show } });
    put(options, options.as === 'html' ? kept.html : kept.markdown);
    return;
  }
  if (options.keep === true || sendTo !== undefined || contact !== undefined) {
    const kept = await context.client.keepReport({
      params: { client },
      body: {
        ...span,
        ...(sendTo === undefined ? {} : { email: sendTo }),
        ...(contact === undefined ? {} : { contact }),
      },
    });
    output(
      context,
      kept,
      ({ title, sentTo }) => {
        say(`${plain(title)} is kept${sentTo === null ? '.' : `, and goes to ${plain(sentTo)}.`}`);
      },
      ({ id }) => [`report ${client} --show ${id}`, `report ${client} --kept`],
    );
    return;
  }
  const written = await context.client.writeReport({ params: { client }, query: span });
  if (options.json === true || (options.as === 'json' && options.out === undefined)) sayJson(written.report);
  else
    put(
      options,
      options.as === 'json' ? `${JSON.stringify(written.report, null, 2)}\n` : written[options.as],
    );
}

function put({ out, as }: ReportOptions, text: string): void {
  if (out === undefined) {
    if (as === 'html') throw new Usage('A page is written to a file: give --out report.html.');
    sayBlock(text.trimEnd().split('\n').map(plain).join('\n'));
    return;
  }
  writeFileSync(out, text);
  sayAside(`Written to ${out}.`);
}
