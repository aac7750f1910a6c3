import type { Command } from 'commander';
import { say } from '../print/text.js';
import { table } from '../print/table.js';

/** Runs until the process is told to stop. */
async function untilStopped(close: () => Promise<void>, told = toldToStop()): Promise<void> {
  await told;
  await close();
}

function toldToStop(): Promise<void> {
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => {
        resolve();
      });
  });
}

interface ServeOptions {
  config?: string;
  host?: string;
  port?: string;
  data?: string;
}

function flags(options: ServeOptions): Record<string, string | undefined> {
  return { 'listen.host': options.host, 'listen.port': options.port, data: options.data };
}

/** `serve`, `config`, `demo` */
export function serviceCommands(program: Command): void {
  const withSettings = (command: Command): Command =>
    command
      .option(
        '--config <file>',
        'configuration file, “-” for standard input; ./yardbadge.yaml where there is one',
      )
      .option('--host <host>', 'address to listen at')
      .option('--port <port>', 'port to listen at')
      .option('--data <file>', 'the records');
  withSettings(program.command('serve').description('run the service')).action(
    async (options: ServeOptions) => {
      const [{ loadSettings }, { serve }, { sweepStart }] = await Promise.all([
        import('../../service/settings/load.js'),
        import('../../service/serve.js'),
        import('../../service/start-swept.js'),
      ]);
      const { settings } = await loadSettings(options.config, process.env, flags(options));
      const running = await serve(settings, process.env, { onLost: () => process.exit(1) });
      await sweepStart();
      say(`Yard Badge answers at ${running.url}`);
      await untilStopped(() => running.close());
    },
  );
  withSettings(
    program.command('config').description('print the settings in force and where each came from'),
  ).action(async (options: ServeOptions) => {
    const { loadSettings, tellSettings } = await import('../../service/settings/load.js');
    const loaded = await loadSettings(options.config, process.env, flags(options));
    table(
      ['setting', 'value', 'from'],
      tellSettings(loaded).map(({ key, value, from }) => [key, value, from]),
      '',
    );
  });
  program
    .command('demo')
    .description('run the service with the rehearsal and its demo data')
    .option('--empty', 'without the story')
    .option('--folder <folder>', 'where everything is kept', '.yardbadge')
    .option('--any-ports', 'let the system choose the ports')
    .action(async (options: { empty?: boolean; folder: string; anyPorts?: boolean }) => {
      // Heard from the beginning: told to stop while it starts, it ends what it started, and leaves nothing running.
      const told = toldToStop();
      const { runDemo } = await import('../../rehearsal/demo.js');
      const demo = await runDemo({
        folder: options.folder,
        empty: options.empty === true,
        anyPorts: options.anyPorts === true,
        say,
        addPeople: async (config, people) => {
          const [{ loadSettings }, { addPeopleWithKeysHere }] = await Promise.all([
            import('../../service/settings/load.js'),
            import('../../service/persons.js'),
          ]);
          return addPeopleWithKeysHere((await loadSettings(config, {}, {})).settings, people, 'demo');
        },
      });
      await untilStopped(() => demo.close(), told);
    });
}
