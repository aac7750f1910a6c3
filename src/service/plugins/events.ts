import type { FastifyInstance, FastifyReply } from 'fastify';
import { BASE, CHANGE_EVENTS, JOB_EVENTS } from '../../api/routes.js';
import { viewProgress } from '../../desk/jobs/view.js';
import type { Desk } from '../../desk/parts.js';
import { requireRole } from './sign-in.js';

const BEAT_MS = 25_000;
/** Many pieces end at once; one event for each such moment is enough. */
const GATHER_MS = 25;

interface Stream {
  send(event: string, data: unknown): void;
  end(): void;
  onClose(work: () => void): void;
}

/** Server-sent events (HTML standard §9.2): the progress of a job, and "something changed" for open pages. */
export function events(app: FastifyInstance, desk: Desk): void {
  const preHandler = requireRole(desk, 'onlooker');
  app.get<{ Params: { id: string } }>(BASE + JOB_EVENTS, { preHandler }, async (request, reply) => {
    const { id } = request.params;
    await viewProgress(id);
    const stream = open(reply);
    const tell = gathered(() => {
      void viewProgress(id).then((job) => {
        const isOver = job.state === 'done' || job.rests !== null;
        stream.send(isOver ? 'done' : 'progress', job);
        if (isOver) stream.end();
      });
    });
    const onJob = (changed: string) => {
      if (changed === id) tell();
    };
    desk.events.on('job', onJob);
    stream.onClose(() => desk.events.off('job', onJob));
    tell();
  });
  app.get(BASE + CHANGE_EVENTS, { preHandler }, (_request, reply) => {
    const stream = open(reply);
    const tell = gathered(() => {
      stream.send('change', {});
    });
    desk.events.on('change', tell);
    desk.events.on('job', tell);
    stream.onClose(() => {
      desk.events.off('change', tell);
      desk.events.off('job', tell);
    });
  });
}

function gathered(work: () => void): () => void {
  let timer: NodeJS.Timeout | null = null;
  return () => {
    timer ??= setTimeout(() => {
      timer = null;
      work();
    }, GATHER_MS);
  };
}

function open(reply: FastifyReply): Stream {
  reply.hijack();
  const { raw } = reply;
  raw.writeHead(200, {
    'content-type': 'text/event-stream',
    'cache-control': 'no-store',
    'x-accel-buffering': 'no',
  });
  raw.write('retry: 2000\n\n');
  const beat = setInterval(() => raw.write(': beat\n\n'), BEAT_MS);
  const closing = [
    () => {
      clearInterval(beat);
    },
  ];
  raw.on('close', () => {
    for (const work of closing) work();
  });
  return {
    send: (event, data) => {
      if (!raw.writableEnded) raw.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
    },
    end: () => {
      raw.end();
    },
    onClose: (work) => closing.push(work),
  };
}
