import type { Command } from 'commander';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { EXIT, Usage } from '../exit.js';
import { plain, say, sayBlock, when } from '../print/text.js';
import { findLocal } from '../sign-in.js';
import { given } from '../../api/given.js';

const UNITS: Readonly<Record<string, number>> = { s: 1000, m: 60_000, h: 3_600_000, d: 86_400_000 };

function milliseconds(text: string): number {
  const match = /^(\d+)([smhd])$/.exec(text);
  const unit = UNITS[match?.[2] ?? ''];
  if (!match || unit === undefined)
    throw new Usage(`“${text}” is not a length of time; expected such as 90s, 20m, 6h or 3d.`);
  return Number(match[1]) * unit;
}

function controlUrl(): string {
  const file = process.env['YARDBADGE_REHEARSAL'] ?? findLocal('rehearsal.json');
  if (file === null) throw new Usage('No rehearsal is running here. “yardbadge demo” starts one.');
  return (JSON.parse(readFileSync(file, 'utf8')) as { control: string }).control;
}

async function order(body: object): Promise<void> {
  const control = controlUrl();
  const { sendOrder } = await import('../../rehearsal/command.js');
  const answer = await sendOrder(control, body);
  say(plain(answer.says));
  if (!answer.done) process.exitCode = EXIT.usage;
}

/** What the rehearsal's people got by mail, and their program by requests. */
async function showPost(last: number): Promise<void> {
  const { getPost } = await import('../../rehearsal/command.js');
  const { mails, events } = await getPost(controlUrl());
  for (const { at, to, subject, text } of mails.slice(-last)) {
    say(`${when(at)}  to ${plain(to)}: ${plain(subject)}`);
    sayBlock(text.replace(/^/gmu, '    '));
  }
  for (const { at, body } of events.slice(-last)) say(`${when(at)}  event ${plain(body)}`);
  if (mails.length + events.length === 0) say('Nobody got anything yet.');
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
    .command('pages <host> <count>')
    .description('let a website have so many pages that link to one another')
    .option('--traps', 'and be full of what keeps a reader busy without end')
    .action((host: string, count: string, options: { traps?: boolean }) =>
      order({ do: 'pages', host, count: Number(count), traps: options.traps === true }),
    );
  rehearsal
    .command('web-root <host> <folder>')
    .description('let a folder of this machine be the web root of a website')
    .action((host: string, folder: string) => order({ do: 'web-root', host, folder: resolve(folder) }));
  rehearsal
    .command('odd <host>')
    .description('let a website be odd, as many are')
    .option('--wall', 'let browsers in and nobody else')
    .option('--plain', 'answer at every host, over HTTP too')
    .option('--certificate <kind>', 'good, ends-soon, expired, other-name, self-signed, no-chain or unknown')
    .option('--keep <time>', 'a cache before it keeps the home page as it is now')
    .option('--answer <path>', 'answer so at this path, or at * for all that has nothing else')
    .option('--status <number>', 'with this status', '200')
    .option('--location <url>', 'leading there')
    .option('--body <text>', 'with this text')
    .option('--none', 'be as it should be')
    .action((host: string, options: OddSiteOptions) => order({ do: 'odd', host, ...oddSite(options) }));
  rehearsal
    .command('odd-variant <origin> <how> [to]')
    .description(
      'let one origin of a website do something of its own: redirect, refresh, script, frame, page, status, down or usual',
    )
    .option('--status <number>', 'with this status')
    .option('--words <text>', 'with these words on its page')
    .option('--certificate <kind>', 'good, ends-soon, expired, other-name, self-signed, no-chain or unknown')
    .action((origin: string, how: string, to: string | undefined, { status, ...rest }: OddVariantOptions) =>
      order({
        do: 'odd-variant',
        origin,
        how,
        ...given({ to }),
        ...(status === undefined ? {} : { status: Number(status) }),
        ...rest,
      }),
    );
  rehearsal
    .command('new-site <host> <title>')
    .description('a website that was not there before, with its www')
    .action((host: string, title: string) =>
      order({ do: 'new-site', host, title, aliases: [`www.${host}`] }),
    );
  rehearsal
    .command('read-mail <who> <way>')
    .description('somebody of a client’s reads their newest mail and does: all, half, whole-line or never')
    .action((who: string, way: string) => order({ do: 'read-mail', who, way }));
  rehearsal
    .command('odd-name <name>')
    .description('let a name in the DNS be odd')
    .option('--alias <name>', 'an alias for another name')
    .option('--fails <how>', 'its servers fail: servfail, refused or silent')
    .option('--remember <time>', 'the resolver keeps what it would say now')
    .option('--lag', 'the second server gets no newer records')
    .option('--attic <value>', 'put a record with this value at a host that nothing refers to')
    .option('--none', 'be as it should be')
    .action((name: string, options: OddNameOptions) => {
      const { remember, ...rest } = options;
      return order({
        do: 'odd-name',
        name,
        ...rest,
        ...(remember === undefined ? {} : { rememberMs: milliseconds(remember) }),
      });
    });
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
    .option('--retry-after <time>', 'with how long to wait')
    .option('--cut', 'cut the connection before the answer')
    .option('--odd', 'answer in a shape that nobody expects')
    .option('--times <number>', 'so many times', '1')
    .option('--suspend <work>', 'switch off enrolments, tokens, claims, sitemaps, lookups or visits')
    .option('--for <time>', 'for so long', '21d')
    .action((engine: string, options: EngineOptions) =>
      order({ do: 'engine', engine, ...mischief(options) }),
    );
  rehearsal
    .command('lose <engine> <target>')
    .description('let an engine lose an enrolment')
    .action((engine: string, target: string) => order({ do: 'engine-loses', engine, target }));
  rehearsal
    .command('renew <engine> <target> <method>')
    .description('let an engine hand out another token from now on')
    .action((engine: string, target: string, method: string) =>
      order({ do: 'engine-renews', engine, target, method }),
    );
  rehearsal
    .command('resolver <how>')
    .description('let our own resolver fail, or answer again')
    .action((how: string) => order({ do: 'resolver', how }));
  rehearsal
    .command('mail')
    .description('the mails and events that the rehearsal’s people got, newest last')
    .option('--last <number>', 'how many', '5')
    .action((options: { last: string }) => showPost(Number(options.last)));
  rehearsal
    .command('page <engine> <ask> <target> [more]')
    .description('look at the pages of an engine without a link: register, claim, sitemap or standing')
    .action((engine: string, ask: string, target: string, more?: string) => {
      const given = more === undefined ? {} : ask === 'sitemap' ? { address: more } : { method: more };
      return order({ do: 'page', engine, visit: { ask, target, ...given } });
    });
}

interface OddVariantOptions {
  status?: string;
  words?: string;
  certificate?: string;
}

interface OddNameOptions {
  alias?: string;
  fails?: string;
  remember?: string;
  lag?: boolean;
  attic?: string;
  none?: boolean;
}

interface OddSiteOptions {
  wall?: boolean;
  plain?: boolean;
  certificate?: string;
  keep?: string;
  answer?: string;
  status: string;
  location?: string;
  body?: string;
  none?: boolean;
}

function oddSite({ keep, answer, status, location, body, ...rest }: OddSiteOptions): object {
  const arranged = {
    path: answer,
    status: Number(status),
    ...(location === undefined ? {} : { headers: { location } }),
    ...given({ body }),
  };
  return {
    ...rest,
    ...(keep === undefined ? {} : { keepMs: milliseconds(keep) }),
    ...(answer === undefined ? {} : { answer: arranged }),
  };
}

interface EngineOptions {
  slow?: string;
  fail?: string;
  retryAfter?: string;
  cut?: boolean;
  odd?: boolean;
  times: string;
  suspend?: string;
  for: string;
}

function mischief(options: EngineOptions): object {
  const { slow, fail, retryAfter, suspend } = options;
  const times = Number(options.times);
  return {
    ...(slow === undefined ? {} : { slowMs: milliseconds(slow) }),
    ...(fail === undefined ? {} : { failStatus: Number(fail), failTimes: times }),
    ...(retryAfter === undefined ? {} : { retryAfter: milliseconds(retryAfter) / 1000 }),
    ...(options.cut === true ? { cutTimes: times } : {}),
    ...(options.odd === true ? { oddTimes: times } : {}),
    ...(suspend === undefined ? {} : { suspend: { work: suspend, ms: milliseconds(options.for) } }),
  };
}
