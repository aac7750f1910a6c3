import { readFile } from 'node:fs/promises';
import { WORK } from '../desk/works.js';
import { JobRunner } from '../desk/jobs/runner.js';
import { machineClock } from '../net/time/machine-clock.js';
import { Lease } from '../store/lease.js';
import { PersonRow } from '../store/models/people.js';
import { Projections } from '../desk/projections/projections.js';
import { ClockKeeper } from '../desk/clock/clock-keeper.js';
import { letGo } from '../desk/history/tidying.js';
import { watchWork } from '../desk/watch/watch-work.js';
import { requireKeyFile } from './key-file.js';
import { openLog } from './log.js';
import { Outages } from '../desk/outages/outages.js';
import { Watcher } from '../desk/watch/watcher.js';
import { Sender } from '../desk/notifications/sender.js';
import { Notifier } from '../desk/notifications/notifier.js';
import { Mailer } from '../net/mail.js';
import { createApp } from './app.js';
import { closeDesk, openDesk } from './desk.js';
import { Replays } from './plugins/replay.js';
import { ProcessFaults } from './process-faults.js';
import type { Settings } from './settings/schema.js';
import { productVersion } from './version.js';

export interface Running {
  /** Where it answers, such as `http://127.0.0.1:7420`. */
  readonly url: string;
  close(): Promise<void>;
}

/** How often it is looked what is due, and what is to be told. */
const TICK_MS = 1_000;
const JUMPING_TICK_MS = 100;
/** How often what is too old is thrown away. */
const TIDY_MS = 3_600_000;

/**
 * Starts the service: opens the records, makes sure that nobody else works on them, listens, and only then takes up jobs that
 * were left.
 * @throws SettingsFault, ProfileFault or RecordsHeld for what the one who starts it has to mend
 */
export async function serve(
  settings: Settings,
  env: NodeJS.ProcessEnv,
  options: {
    checkAnswers?: boolean;
    pause?: (ms: number) => Promise<void>;
    /** Told when another process has taken the records over; the service has stopped its work by then. */
    onLost?: () => void;
  } = {},
): Promise<Running> {
  const logger = openLog(settings.log);
  const faults = new ProcessFaults(logger);
  const desk = await openDesk(settings, env, options.pause);
  const undo: (() => Promise<void>)[] = [() => closeDesk(desk)];
  const close = async (): Promise<void> => {
    for (const step of undo.splice(0).reverse()) await step();
  };
  try {
    const lease = await Lease.take(desk.store, machineClock, () => {
      logger.fatal('another process has taken the records over: this one stops');
      void close().finally(options.onLost);
    });
    undo.push(() => lease.release());
    await requireKeyFile(desk.store, settings.keyFile);
    faults.watch();
    undo.push(() => Promise.resolve(faults.unwatch()));
    const outages = new Outages(desk);
    const jobs = new JobRunner(desk, [...WORK, ...watchWork(outages)], (error, where) => {
      logger.error({ err: error }, where);
    });
    const replays = new Replays(desk, desk.book.requireVault());
    const kept = new Projections(desk, (error) => {
      logger.error({ err: error }, 'where things stand');
    });
    undo.push(() => kept.stop());
    const version = productVersion();
    const app = await createApp({
      desk,
      jobs,
      kept,
      logger,
      replays,
      faults,
      settings,
      version,
      checkAnswers: options.checkAnswers ?? env['YARDBADGE_CHECK_ANSWERS'] === '1',
    });
    undo.push(() => jobs.stop());
    undo.push(() => app.close());
    if ((await PersonRow.count()) === 0)
      logger.warn('nobody may sign in yet: make the first lead with “yardbadge person add NAME --role lead”');
    const url = await app.listen({ host: settings.listen.host, port: settings.listen.port });
    const tidy = (): void => {
      Promise.all([replays.tidy(), letGo(desk, settings.keep)]).catch((error: unknown) => {
        logger.error({ err: error }, 'tidying');
      });
    };
    tidy();
    const tidying = setInterval(tidy, TIDY_MS).unref();
    undo.push(() => Promise.resolve(clearInterval(tidying)));
    // A clock that somebody else sets may jump: what is due then is not waited for.
    const tickMs = settings.clock === null ? TICK_MS : JUMPING_TICK_MS;
    const keeper = new ClockKeeper(
      desk,
      (error) => {
        logger.error({ err: error }, 'the clock');
      },
      tickMs,
    );
    await keeper.start();
    undo.push(() => keeper.stop());
    const watcher = new Watcher(
      desk,
      jobs,
      kept,
      outages,
      (error) => {
        logger.error({ err: error }, 'the watch');
      },
      tickMs,
    );
    const left = await jobs.resume();
    watcher.start();
    undo.push(() => watcher.stop());
    const base = (settings.publicUrl ?? url).replace(/\/+$/u, '');
    const ca = settings.net.ca === null ? null : await readFile(settings.net.ca, 'utf8');
    const mailer = settings.mail.host === null ? null : new Mailer(settings.mail, env, ca);
    const teller = new Notifier(
      desk,
      kept,
      new Sender(desk, mailer, base, (error) => {
        logger.error({ err: error }, 'telling programs');
      }),
      base,
      (error) => {
        logger.error({ err: error }, 'telling people');
      },
      tickMs,
    );
    teller.start();
    undo.push(() => teller.stop());
    if (left > 0) logger.info({ left }, 'took up work that was left');
    return { url, close };
  } catch (error) {
    await close();
    throw error;
  }
}
