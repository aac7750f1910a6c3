import { Command } from 'commander';
import { Net } from '../../net/net.js';
import { DEFAULT_BOUNDS } from '../../net/settings.js';
import { Asking } from './asking.js';
import { conform } from './rules.js';

interface Options {
  readonly keyFrom: string;
  readonly reach: string;
  readonly target?: string;
  readonly fact: string[];
}

/** Tries an engine's link against every rule of docs/engine-link.md. Exit 0 when all hold, 1 when one does not, 2 on wrong use. */
async function run(url: string, options: Options): Promise<number> {
  const key = process.env[options.keyFrom];
  if (key === undefined || !URL.canParse(url)) {
    process.stderr.write(
      key === undefined
        ? `Put the key of an account for trying into the environment variable ${options.keyFrom}.\n`
        : `“${url}” is no address; expected where the link’s v1 stands, such as http://127.0.0.1:7461/.\n`,
    );
    return 2;
  }
  const base = url.endsWith('/') ? url : `${url}/`;
  const reach = options.reach === 'name' ? 'name' : 'address';
  const net = new Net({
    resolver: null,
    // The one who runs this names the address herself: it may well be her own machine.
    allow: ['0.0.0.0/0', '::/0'],
    connect: [],
    ca: null,
    agent: 'YardBadge-conformance/1.0',
    bounds: DEFAULT_BOUNDS,
  });
  try {
    const held = await conform({
      asking: new Asking(net, base, key),
      reach,
      target: options.target ?? (reach === 'name' ? 'conformance.example' : 'https://conformance.example/'),
      facts: Object.fromEntries(
        options.fact.map((text) => [text.split('=')[0] ?? '', text.slice(text.indexOf('=') + 1)]),
      ),
    });
    for (const { says, departure } of held)
      process.stdout.write(departure === null ? `✓ ${says}\n` : `✗ ${says}\n    ${departure}\n`);
    const departures = held.filter(({ departure }) => departure !== null).length;
    process.stdout.write(`\n${String(held.length - departures)} rules hold, ${String(departures)} do not.\n`);
    return departures === 0 ? 0 : 1;
  } finally {
    await net.close();
  }
}

await new Command('engine-conformance')
  .description('Tries an engine against the engine link: enrols a made-up site, claims it, ends it.')
  .argument('<url>', 'where the link’s v1 stands, such as http://127.0.0.1:7461/')
  .option('--key-from <variable>', 'the environment variable that holds the account’s key', 'ENGINE_KEY')
  .option('--reach <reach>', 'address or name', 'address')
  .option('--target <target>', 'what to enrol for the purpose; https://conformance.example/ otherwise')
  .option('--fact <fact...>', 'what the engine asks at registration, such as kind=museum', [])
  .action(async (url: string, options: Options) => {
    process.exitCode = await run(url, options);
  })
  .parseAsync();
