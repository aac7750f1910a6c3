import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { FastifyInstance } from 'fastify';
import { Counter, Gauge, Registry } from 'prom-client';
import type { Desk } from '../../desk/context/desk.js';
import { measures } from '../../desk/metrics/metrics.js';
import type { Callers } from '../../desk/people/callers.js';
import type { ProcessFaults } from '../process-faults.js';
import { requireRole } from './sign-in.js';

const PREFIX = 'yardbadge_';
const RESOLUTION_MS = 20;
const NANOSECONDS = 1e9;
const QUANTILES = [50, 90, 99];
const WATCHED = ['placement', 'variants', 'sitemap'];
const LANES = ['person', 'bulk', 'long'];
const WAYS = ['mail', 'hook'];

/** `/metrics` in OpenMetrics text 1.0, for whoever has a key: what is due, waits, is out of order. */
export function metrics(
  app: FastifyInstance,
  {
    desk,
    callers,
    faults,
  }: { readonly desk: Desk; readonly callers: Callers; readonly faults: ProcessFaults },
): void {
  const delay = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
  delay.enable();
  app.addHook('onClose', () => {
    delay.disable();
  });
  app.get('/metrics', { onRequest: requireRole(callers, 'onlooker') }, async (_, reply) => {
    const registry = new Registry<typeof Registry.OPENMETRICS_CONTENT_TYPE>();
    registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
    const gauge = (name: string, help: string, labels: readonly string[] = []) =>
      new Gauge({ name: PREFIX + name, help, labelNames: [...labels], registers: [registry] });
    const counted = await measures(desk);

    const due = gauge('watch_due', 'Looks that are due now.', ['what']);
    const late = gauge('watch_late_seconds', 'How late the look is that is due longest.', ['what']);
    for (const what of WATCHED) {
      const own = counted.due.find((one) => one.what === what);
      due.set({ what }, own?.count ?? 0);
      late.set({ what }, own?.late ?? 0);
    }
    const pieces = gauge('job_pieces', 'Pieces of jobs that wait or are under way.', ['lane']);
    for (const lane of LANES)
      pieces.set({ lane }, counted.pieces.find((one) => one.lane === lane)?.count ?? 0);
    const links = gauge('engine_links', 'Kinds of work over links to engines, by how they stand.', [
      'engine',
      'state',
    ]);
    for (const { engine, state, count } of counted.links) links.set({ engine, state }, count);
    const messages = gauge('messages', 'Messages that wait to be sent, or were given up.', ['way', 'state']);
    for (const way of WAYS)
      for (const state of ['waiting', 'dead'])
        messages.set(
          { way, state },
          counted.messages.find((one) => one.way === way && one.state === state)?.count ?? 0,
        );
    const cases = gauge('cases_open', 'What people are told of, by kind.', ['kind']);
    for (const { kind, count } of counted.cases) cases.set({ kind }, count);
    const loop = gauge(
      'event_loop_delay_seconds',
      'How long the process kept others waiting, since it was asked last.',
      ['quantile'],
    );
    for (const per of QUANTILES)
      loop.set({ quantile: String(per / 100) }, Math.max(0, delay.percentile(per) / NANOSECONDS));
    delay.reset();
    gauge('resident_memory_bytes', 'Memory that the process takes.').set(process.memoryUsage.rss());
    new Counter({
      name: `${PREFIX}process_faults`,
      help: 'Errors that reached the process, outside of everything that was to catch them.',
      registers: [registry],
    }).inc(faults.count);

    return reply.header('content-type', registry.contentType).send(await registry.metrics());
  });
}
