import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { createClient } from '../../src/client/client.js';

const JOB = {
  id: 'j',
  kind: 'check',
  createdAt: '',
  total: 1,
  finished: 0,
  rests: null,
  items: [],
  next: null,
};

/** A job that is followed where its events cannot be had. */
describe('a job whose events', () => {
  let server: Server;
  afterEach(() => new Promise((done) => server.close(done)));

  /** Follows a job at a service that answers for its events with a status. @returns how often they were asked for */
  async function followed(status: number, isDone: () => boolean): Promise<number> {
    let asked = 0;
    server = createServer((request, response) => {
      const isEvents = request.url?.endsWith('/events') === true;
      if (isEvents) asked += 1;
      response.writeHead(isEvents ? status : 200, { 'content-type': 'application/json' });
      response.end(JSON.stringify(isEvents ? {} : { ...JOB, state: isDone() ? 'done' : 'running' }));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const { port } = server.address() as AddressInfo;
    const client = createClient({ url: `http://127.0.0.1:${String(port)}`, key: 'k' });
    await client.finished({ id: 'j' });
    return asked;
  }

  it('may not be had is given up at once', async () => {
    await expect(followed(403, () => false)).rejects.toMatchObject({ problem: { status: 403 } });
  });

  it('cannot be had for a while is asked for now and then, not without a pause', async () => {
    const until = performance.now() + 1_500;
    // After 250 ms, then 500, then 1,000: without a pause it would be thousands.
    expect(await followed(503, () => performance.now() > until)).toBeLessThanOrEqual(4);
  });
});
