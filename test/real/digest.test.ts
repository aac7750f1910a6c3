import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect, type TLSSocket } from 'node:tls';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openWebDav } from '../../src/net/targets/webdav.js';
import { machineClock } from '../../src/net/time/machine-clock.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { removed } from '../support/removed.js';
import { FILE_PASSWORD, FILE_USER, serveDigest } from './file-servers.js';
import { freePort, Programs } from './programs.js';

const HOST = 'quay.example';
const folder = mkdtempSync(join(tmpdir(), 'yardbadge-digest-'));
const root = join(folder, 'www');
const programs = new Programs();
let port = 0;

const dial = (): Promise<TLSSocket> =>
  new Promise((done, fail) => {
    const socket = connect({ host: '127.0.0.1', port, servername: HOST, rejectUnauthorized: false }, () => {
      done(socket);
    });
    socket.once('error', fail);
  });
const open = (secret = FILE_PASSWORD) =>
  openWebDav({ host: HOST, port, user: FILE_USER, root: '/', secret }, dial);

beforeAll(async () => {
  mkdirSync(join(root, '.locks'), { recursive: true });
  const made = await (await Authority.open(folder, machineClock)).issue([HOST], 'self-signed');
  writeFileSync(join(folder, 'cert.pem'), made.cert);
  writeFileSync(join(folder, 'key.pem'), made.key, { mode: 0o600 });
  // The server’s user is another one.
  for (const one of [folder, root, join(root, '.locks')]) chmodSync(one, 0o777);
  port = await freePort();
  serveDigest(programs, folder, port, root);
  await vi.waitFor(async () => (await dial()).destroy(), { timeout: 60_000, interval: 100 });
}, 120_000);

afterAll(async () => {
  await programs.stop();
  execFileSync('chmod', ['-R', 'a+rwX', folder]);
  await removed(folder);
});

describe('a web root by WebDAV at a real server that asks for Digest', () => {
  it('writes, reads back, replaces and takes away', async () => {
    const way = await open();
    expect(await way.read('/deep/proof ü.txt')).toBeNull();
    await way.write('/deep/proof ü.txt', Buffer.from('one'), 'a');
    expect((await way.read('/deep/proof ü.txt'))?.toString()).toBe('one');
    await way.write('/deep/proof ü.txt', Buffer.from('two'), 'b');
    expect(readFileSync(join(root, 'deep/proof ü.txt'), 'utf8')).toBe('two');
    expect(statSync(join(root, 'deep/proof ü.txt')).mode & 0o004).toBe(0o004);
    await way.remove('/deep/proof ü.txt');
    expect(readdirSync(join(root, 'deep'))).toEqual([]);
    await way.close();
  });

  it('does not come in with a wrong password', async () => {
    await expect(open('a password')).rejects.toMatchObject({ kind: 'denied' });
  });

  it.each([0, 1_500])('leaves what somebody else has put there, %i ms after it was written', async (ms) => {
    const way = await open();
    const place = join(root, `shared-${String(ms)}.txt`);
    await way.write(`/shared-${String(ms)}.txt`, Buffer.from('ours'), 'a');
    await sleep(ms);
    await way.read(`/shared-${String(ms)}.txt`);
    chmodSync(place, 0o666);
    writeFileSync(place, 'theirs');
    await expect(way.write(`/shared-${String(ms)}.txt`, Buffer.from('ours'), 'b')).rejects.toThrow(
      'changed by somebody else',
    );
    expect(readFileSync(place, 'utf8')).toBe('theirs');
    await way.close();
  });
});
