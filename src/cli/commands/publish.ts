import { Option, type Command } from 'commander';
import type { Target, Job, NewTarget } from '../../api/documents.js';
import { agrees } from '../confirm.js';
import { finish, openContext, output, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { paint, paragraph, plain, say, when } from '../print/text.js';
import { readText } from '../read-file.js';
import { given } from '../../api/given.js';

interface TargetOptions {
  folder?: string;
  sftp?: string;
  ftps?: string;
  webdav?: string;
  dns?: string;
  zone?: string;
  key?: string;
  secretFrom?: string;
  for?: 'lead' | 'consultant';
  watch?: boolean;
  json?: boolean;
}

/** What the options say of a target. Throws Usage. */
function targetOf(options: TargetOptions): NewTarget {
  const { folder, dns, zone, key, secretFrom } = options;
  const more = {
    ...(secretFrom === undefined ? {} : { secret: readText(secretFrom).trim() }),
    ...given({ role: options.for }),
    ...(options.watch === true ? { watchMay: true } : {}),
  };
  if (folder !== undefined) return { way: 'folder', root: folder, ...more };
  for (const way of ['sftp', 'ftps', 'webdav'] as const) {
    const text = options[way];
    if (text !== undefined) return { ...loginOf(way, text), ...more };
  }
  if (dns !== undefined) {
    const [, host, port] = /^([^:\s]+)(?::(\d+))?$/u.exec(dns) ?? [];
    const [, algorithm, keyName] = /^(?:(hmac-sha(?:256|384|512)):)?([\w.-]+)$/u.exec(key ?? '') ?? [];
    if (/^hmac-(?:sha1|md5|sha224)[.\w-]*:/u.test(key ?? ''))
      throw new Usage(
        `“${(key ?? '').split(':')[0] ?? ''}” is too weak to sign updates with (RFC 8945 §6). Expected hmac-sha256, hmac-sha384 or hmac-sha512: have the zone’s operator make a key for one of them.`,
      );
    if (host === undefined || zone === undefined || keyName === undefined)
      throw new Usage(
        'A zone needs --dns HOST[:PORT], --zone ZONE and --key [hmac-sha256:]NAME, and its key by --secret-from FILE.',
      );
    return {
      way: 'dns',
      host,
      ...(port === undefined ? {} : { port: Number(port) }),
      zone,
      keyName,
      ...(algorithm === undefined ? {} : { algorithm: algorithm as 'hmac-sha256' }),
      ...more,
    };
  }
  throw new Usage(
    'Say where: --folder PATH, --sftp, --ftps or --webdav USER@HOST/PATH, or --dns HOST with --zone and --key.',
  );
}

/** A login at a host, and the folder there. Throws Usage. */
function loginOf(way: 'sftp' | 'ftps' | 'webdav', text: string): NewTarget {
  const [, user, host, port, root] =
    /^(?:\w+:\/\/)?([^\s/]+)@([^:/@\s]+)(?::(\d+))?(\/.*)$/u.exec(text) ?? [];
  if (user === undefined || host === undefined || root === undefined)
    throw new Usage(
      `--${way} “${text}” is no web root; expected USER@HOST/PATH, for example jonas@files.example/srv/www${way === 'webdav' ? '' : ', or jonas@files.example/~/www below the login’s own folder'}.`,
    );
  return {
    way,
    user,
    host,
    ...(port === undefined ? {} : { port: Number(port) }),
    root: way === 'webdav' ? root : root.replace(/^\/~\//u, ''),
  };
}

/** `publish P`, `target add|list|trust|forget` */
export function publishCommands(program: Command): void {
  program
    .command('publish <property>')
    .description(
      'put tokens, made sitemaps and the robots.txt where they belong; shown first, done after a yes',
    )
    .option('--plan', 'only show it')
    .option('--yes', 'without asking')
    .option('--take-away', 'remove what we published and nobody needs any more')
    .option('--json', 'print the job')
    .action(
      async (
        property: string,
        options: { plan?: boolean; yes?: boolean; takeAway?: boolean; json?: boolean },
      ) => {
        const context = openContext(options);
        const planned = await context.client.finished(
          await context.client.publish({ params: { property }, body: { plan: true } }),
        );
        const left = planned.items.flatMap(({ result }) => result?.publication?.steps ?? []);
        const toDo = left.filter(
          ({ act }) =>
            act === 'put' || act === 'replace' || (act === 'take-away' && options.takeAway === true),
        );
        if (options.plan === true || toDo.length === 0) {
          output(context, planned, printPublication, () =>
            options.plan === true ? [`publish ${property}`] : [],
          );
          if (planned.items.some(({ result }) => result?.stops === true)) process.exitCode = 1;
          return;
        }
        if (options.yes !== true) {
          if (!context.json) printPublication(planned);
          const isWanted = await agrees(`Publish ${String(toDo.length)}?`);
          if (isWanted === null)
            throw new Usage('Nobody is there to ask. Say --yes to do it, or --plan to see it.');
          if (!isWanted) return;
        }
        const body = options.takeAway === true ? { takeAway: true } : {};
        const job = await finish(context, await context.client.publish({ params: { property }, body }));
        output(context, job, printPublication, () => [`check ${property}`, `claim ${property}`]);
      },
    );
  targetCommands(program);
}

function targetCommands(program: Command): void {
  const target = program.command('target').description('where a property’s files and records are published');
  target
    .command('add <handle>')
    .description(
      'add one: a folder of the service’s machine, a web root by SFTP, FTPS or WebDAV, a zone that takes updates',
    )
    .option('--folder <path>', 'a folder below those that the settings allow')
    .option('--sftp <web-root>', 'for example jonas@files.example:22/srv/www')
    .option('--ftps <web-root>', 'the same by FTP under TLS (RFC 4217)')
    .option('--webdav <web-root>', 'the same by WebDAV (RFC 4918), always under TLS')
    .option('--dns <server>', 'the zone’s primary name server (RFC 2136)')
    .option('--zone <zone>', 'for example saltmarsh-ferries.example')
    .option('--key <name>', 'the zone’s key (RFC 8945), for example hmac-sha256:yard')
    .option(
      '--secret-from <file>',
      'a file with the password, private key or zone’s key; - for standard input',
    )
    .addOption(new Option('--for <role>', 'who may publish there at least').choices(['lead', 'consultant']))
    .option('--watch', 'the watch may put back what has gone')
    .option('--json', 'print the document')
    .action(async (property: string, options: TargetOptions) => {
      const context = openContext(options);
      const added = await context.client.addTarget({ params: { property }, body: targetOf(options) });
      output(context, added, printTarget, () => [`publish ${property} --plan`]);
    });
  target
    .command('list <handle>')
    .description('the targets of a property')
    .option('--json', 'print the document')
    .action(async (handle: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.listTargets({ params: { property: handle } }), ({ items }) => {
        table(
          ['id', 'by', 'target', 'who', 'watch', 'its key'],
          items.map((one) => [
            one.id,
            one.way,
            one.says,
            `${one.role}s`,
            one.watchMay ? 'puts back' : '–',
            one.pin ?? '–',
          ]),
          `No target yet. “target add ${handle}” adds one.`,
        );
      });
    });
  target
    .command('trust <property> <fingerprint>')
    .description('trust the host key or certificate that a target shows now')
    .option('--target <id>', 'which, where there are several')
    .action(async (property: string, fingerprint: string, options: { target?: string }) => {
      const context = openContext({});
      const { id } = await chosenTarget(context, property, options.target, ({ pin }) => pin !== null);
      printTarget(await context.client.editTarget({ params: { target: id }, body: { trust: fingerprint } }));
    });
  target
    .command('forget <property>')
    .description('forget one with its secret; what was published there stays')
    .option('--target <id>', 'which, where there are several')
    .action(async (property: string, options: { target?: string }) => {
      const context = openContext({});
      const { id, says } = await chosenTarget(context, property, options.target, () => true);
      await context.client.endTarget({ params: { target: id } });
      say(`${plain(says)} is forgotten.`);
    });
}

async function chosenTarget(
  context: Context,
  property: string,
  id: string | undefined,
  fits: (target: Target) => boolean,
): Promise<Target> {
  const { items } = await context.client.listTargets({ params: { property } });
  const found = items.filter((one) => (id === undefined ? fits(one) : one.id === id));
  const [only, second] = found;
  if (only && !second) return only;
  throw new Usage(
    items.length === 0
      ? `${property} has no target.`
      : `Name one of the targets of ${property} with --target: ${items.map((one) => `${one.id} (${one.says})`).join(', ')}.`,
  );
}

function printTarget({ id, says, role, watchMay, pin, pinnedAt }: Target): void {
  say(
    `${paint.bold(id)}  ${plain(says)}, for ${role}s${watchMay ? ', the watch puts back what has gone' : ''}`,
  );
  if (pin !== null) say(`  its key is ${plain(pin)}, since ${when(pinnedAt)}`);
}

const MARKS = { put: '+', replace: '±', leave: '·', refuse: '✗', 'take-away': '−' } as const;

/** What is published at each target, or would be. */
function printPublication({ items }: Job): void {
  for (const { subject, result } of items) {
    say(`${paint.bold(plain(subject))}`);
    for (const { act, name, says, done } of result?.publication?.steps ?? []) {
      const mark =
        act === 'refuse'
          ? paint.red(MARKS[act])
          : act === 'leave'
            ? paint.dim(MARKS[act])
            : paint.green(done ? '✓' : MARKS[act]);
      paragraph(`  ${mark} `, `${plain(name)}  ${plain(says)}`, act === 'leave' ? paint.dim : undefined);
    }
    paragraph('  ', plain(result?.says ?? ''), result?.stops === true ? paint.red : undefined);
  }
}
