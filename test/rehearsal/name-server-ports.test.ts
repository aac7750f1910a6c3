import { createSocket, type Socket } from 'node:dgram';
import { once } from 'node:events';
import { expect, it } from 'vitest';
import { startNameServer } from '../../src/rehearsal/names/server.js';
import { newWorld } from '../../src/rehearsal/scenario.js';
import { STAGE_TIME } from '../support/time.js';

it('is on a port that is free over UDP as well, however many are taken by others', async () => {
  const taken: Socket[] = [];
  for (let count = 0; count < 900; count += 1) {
    const socket = createSocket('udp4').bind(0, '127.0.0.1');
    await once(socket, 'listening');
    taken.push(socket);
  }
  const world = { state: newWorld(STAGE_TIME, []), now: () => STAGE_TIME };
  const servers = [];
  // One in thirty ports that the system chooses for TCP is taken over UDP.
  for (let count = 0; count < 300; count += 1) servers.push(await startNameServer(world, 'resolver', 0));
  expect(new Set(servers.map(({ port }) => port)).size).toBe(300);
  await Promise.all(servers.map((server) => server.close()));
  for (const socket of taken) socket.close();
});
