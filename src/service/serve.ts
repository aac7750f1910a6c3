import { pino } from 'pino';
import { HANDLERS } from '../desk/jobs/handlers.js';
import { JobRunner } from '../desk/jobs/runner.js';
import { PersonRow } from '../store/models/people.js';
import { createApp } from './app.js';
import { closeDesk, openDesk } from './desk.js';
import { forgetUnanswered } from './plugins/replay.js';
import type { Settings } from './settings/schema.js';
import { productVersion } from './version.js';

export interface Running {
  /** Where it answers, such as `http://127.0.0.1:7420`. */
  readonly url: string;
  close(): Promise<void>;
}

/**
 * Starts the service: opens the records, takes up jobs that were left, listens.
 * @throws SettingsFault or ProfileFault for what the one who starts it has to mend
 */
export async function serve(
  settings: Settings,
  env: NodeJS.ProcessEnv,
  options: { checkAnswers?: boolean; pause?: (ms: number) => Promise<void> } = {},
): Promise<Running> {
  const logger = pino({ level: settings.log, redact: ['req.headers.authorization', 'req.headers.cookie'] });
  const desk = await openDesk(settings, env, options.pause);
  const jobs = new JobRunner(desk, HANDLERS, (error, where) => {
    logger.error({ err: error }, where);
  });
  const version = productVersion();
  const app = await createApp({
    desk,
    jobs,
    logger,
    version,
    checkAnswers: options.checkAnswers ?? env['YARDBADGE_CHECK_ANSWERS'] === '1',
  });
  await forgetUnanswered(desk);
  const left = await jobs.resume();
  if (left > 0) logger.info({ left }, 'took up work that was left');
  if ((await PersonRow.count()) === 0)
    logger.warn('nobody may sign in yet: make the first lead with “yardbadge person add NAME --role lead”');
  const url = await app.listen({ host: settings.listen.host, port: settings.listen.port });
  return {
    url,
    async close() {
      await app.close();
      await jobs.stop();
      await closeDesk(desk);
    },
  };
}
