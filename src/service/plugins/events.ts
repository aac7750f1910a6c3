import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { Changes } from '../../api/documents.js';
import { BASE, CHANGE_EVENTS, JOB_EVENTS } from '../../api/routes.js';
import { Problem } from '../../api/problems.js';
import { viewProgress } from '../../desk/jobs/view.js';
import type { Callers } from '../../desk/people/callers.js';
import type { Changed, Desk } from '../../desk/context/desk.js';
import { callerOf, personOf, requireRole } from './sign-in.js';

const BEAT_MS = 25_000;
/** Much may happen at once; each listener is told at most so often, and of the first thing at once. */
const GATHER_MS = 1_000;
/** What comes together is told together, at the first time too. */
const FIRST_MS = 10;

/** Streams that one person may have open: a page has one, and one more for a job that it waits for. */
const MOST_OF_ONE = 60;

interface Stream {
  send(event: string, data: unknown): void;
  end(): void;
  onClose(work: () => void): void;
}

/** Server-sent events (HTML standard §9.2): the progress of a job, and "something changed" for open pages. */
export function events(app: FastifyInstance, desk: Desk, callers: Callers): void {
  const isSignedIn = requireRole(callers, 'onlooker');
  const streams = new Map<string, number>();
  const onRequest = async (request: FastifyRequest): Promise<void> => {
    await isSignedIn(request);
    const { person } = personOf(request);
    if ((streams.get(person.id) ?? 0) >= MOST_OF_ONE)
      throw new Problem('too-many-streams', { person: person.name, count: MOST_OF_ONE });
  };
  const open = (request: FastifyRequest, reply: FastifyReply): Stream => {
    const { id } = personOf(request).person;
    const stream = opened(request, reply, desk, callers);
    streams.set(id, (streams.get(id) ?? 0) + 1);
    stream.onClose(() => streams.set(id, (streams.get(id) ?? 1) - 1));
    return stream;
  };
  app.get<{ Params: { id: string } }>(BASE + JOB_EVENTS, { onRequest }, async (request, reply) => {
    const { id } = request.params;
    await viewProgress(id);
    const stream = open(request, reply);
    const send = (): void => {
      viewProgress(id).then(
        (job) => {
          const isOver = job.state === 'done' || job.state === 'stopped' || job.rests !== null;
          stream.send(isOver ? 'done' : 'progress', job);
          if (isOver) stream.end();
        },
        // The one who listens asks again.
        () => {
          stream.end();
        },
      );
    };
    const tell = gathered(send);
    const onJob = (changed: string) => {
      if (changed === id) tell();
    };
    // Its end is waited for: that is told at once, whatever was told a moment ago.
    const over = `done ${id}`;
    desk.events.on('job', onJob);
    desk.events.on(over, send);
    stream.onClose(() => {
      desk.events.off('job', onJob);
      desk.events.off(over, send);
    });
    tell();
  });
  app.get(BASE + CHANGE_EVENTS, { onRequest }, (request, reply) => {
    const stream = open(request, reply);
    let gathering = new Gathering();
    const tell = gathered(() => {
      stream.send('change', gathering.changes());
      gathering = new Gathering();
    });
    const onChange = (changed: Changed): void => {
      gathering.add(changed);
      tell();
    };
    const onJob = (): void => {
      onChange({ kind: 'job', properties: [] });
    };
    desk.events.on('change', onChange);
    desk.events.on('job', onJob);
    stream.onClose(() => {
      desk.events.off('change', onChange);
      desk.events.off('job', onJob);
    });
  });
}

/** More properties than these are not named one by one: whoever shows any reads it again. */
const MOST_NAMED = 200;

/** What changed since it was told last. */
class Gathering {
  private readonly kinds = new Set<string>();
  private readonly properties = new Set<string>();

  add({ kind, properties }: Changed): void {
    if (kind !== null) this.kinds.add(kind);
    for (const id of properties) if (this.properties.size <= MOST_NAMED) this.properties.add(id);
  }

  changes(): Changes {
    return {
      kinds: [...this.kinds],
      properties: this.properties.size > MOST_NAMED ? null : [...this.properties],
    };
  }
}

/** Does something at once where it was not done lately, else as soon as it may be done again: once for all that came meanwhile. */
function gathered(work: () => void): () => void {
  let timer: NodeJS.Timeout | null = null;
  let mayAt = 0;
  return () => {
    timer ??= setTimeout(
      () => {
        timer = null;
        mayAt = performance.now() + GATHER_MS;
        work();
      },
      Math.max(FIRST_MS, mayAt - performance.now()),
    );
  };
}

/** A stream that ends with the access of the one who listens: at once where that is ended, else with the next beat. */
function opened(request: FastifyRequest, reply: FastifyReply, desk: Desk, callers: Callers): Stream {
  reply.hijack();
  const { raw } = reply;
  raw.writeHead(200, {
    'content-type': 'text/event-stream',
    'cache-control': 'no-store',
    'x-accel-buffering': 'no',
  });
  raw.write('retry: 2000\n\n');
  const { person } = personOf(request);
  const goOn = (): void => {
    callerOf(callers, request).then(
      (caller) => (caller ? null : raw.end()),
      () => raw.end(),
    );
  };
  const onAccess = (changed: string): void => {
    if (changed === person.id) goOn();
  };
  desk.events.on('access', onAccess);
  const beat = setInterval(() => {
    raw.write(': beat\n\n');
    goOn();
  }, BEAT_MS);
  const closing = [
    () => {
      clearInterval(beat);
      desk.events.off('access', onAccess);
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
