import type { Command } from 'commander';
import { readFileSync } from 'node:fs';
import { EXIT, Usage } from '../exit.js';
import { plain, say } from '../print/text.js';
import { findLocal } from '../sign-in.js';

const UNITS: Readonly<Record<string, number>> = { s: 1000, m: 60_000, h: 3_600_000, d: 86_400_000 };

function milliseconds(text: string): number {
  const match = /^(\d+)([smhd])$/.exec(text);
  const unit = UNITS[match?.[2] ?? ''];
  if (!match || unit === undefined)
    throw new Usage(`“${text}” is not a length of time; expected such as 90s, 20m, 6h or 3d.`);
  return Number(match[1]) * unit;
}

async function order(body: object): Promise<void> {
  const file = process.env['YARDBADGE_REHEARSAL'] ?? findLocal('rehearsal.json');
  if (file === null) throw new Usage('No rehearsal is running here. “yardbadge demo” starts one.');
  const { control } = JSON.parse(readFileSync(file, 'utf8')) as { control: string };
  const { sendOrder } = await import('../../rehearsal/command.js');
  const answer = await sendOrder(control, body);
  say(plain(answer.says));
  if (!answer.done) process.exitCode = EXIT.usage;
}

/** `rehearsal …` : what the client’s developer, time and bad luck do in the stand-in world. */
export function rehearsalCommands(program: Command): void {
  const rehearsal = program
    .command('rehearsal')
    .description('the stand-in world: do what a client’s developer, time or bad luck would do');
  rehearsal
    .command('meta <host> <tag>')
    .description('put a tag into the home page')
    .option('--in-body', 'into the body, as some do')
    .action((host: string, tag: string, options: { inBody?: boolean }) =>
      order({ do: 'meta', host, tag, inBody: options.inBody === true }),
    );
  rehearsal
    .command('file <host> <path> <content>')
    .description('upload a file')
    .action((host: string, path: string, content: string) => order({ do: 'file', host, path, content }));
  rehearsal
    .command('txt <name> <value>')
    .description('add a TXT record')
    .action((name: string, value: string) => order({ do: 'txt', name, value }));
  rehearsal
    .command('clear <host> <what>')
    .description('lose what was placed: meta, files or txt')
    .action((host: string, what: string) => order({ do: 'clear', host, what }));
  rehearsal
    .command('site <host> <serves>')
    .description('let a website serve pages, errors, or be down')
    .action((host: string, serves: string) => order({ do: 'site', host, serves }));
  rehearsal
    .command('sitemap <host> <path> <addresses>')
    .description('change how many addresses a sitemap lists')
    .action((host: string, path: string, addresses: string) =>
      order({ do: 'sitemap', host, path, addresses: Number(addresses) }),
    );
  rehearsal
    .command('clock <time>')
    .description('put the clock forward, such as 6h or 3d')
    .action((time: string) => order({ do: 'clock', ms: milliseconds(time) }));
  rehearsal
    .command('engine <engine>')
    .description('let an engine misbehave; without options it behaves again')
    .option('--slow <time>', 'before every answer, such as 3s')
    .option('--fail <status>', 'answer this status')
    .option('--times <number>', 'so many times', '1')
    .action((engine: string, options: { slow?: string; fail?: string; times: string }) =>
      order({
        do: 'engine',
        engine,
        ...(options.slow === undefined ? {} : { slowMs: milliseconds(options.slow) }),
        ...(options.fail === undefined
          ? {}
          : { failStatus: Number(options.fail), failTimes: Number(options.times) }),
      }),
    );
}
