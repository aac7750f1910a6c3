import { spawn, type ChildProcess } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

/** Ports that no system hands out by itself (RFC 6335 §6 has the dynamic ones at the end), so that nobody takes one in between. */
const OURS = { from: 12_000, to: 30_000 };
const handedOut = new Set<number>();

async function isFree(port: number): Promise<boolean> {
  const tcp = createServer();
  const udp = createSocket('udp4');
  try {
    tcp.listen(port, '127.0.0.1');
    await once(tcp, 'listening');
    udp.bind(port, '127.0.0.1');
    await once(udp, 'listening');
    return true;
  } catch {
    return false;
  } finally {
    if (tcp.listening) await new Promise((done) => tcp.close(done));
    udp.close();
  }
}

/** A port that nobody uses just now, over TCP or UDP, and that this process has given to nobody else. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = randomInt(OURS.from, OURS.to);
    if (handedOut.has(port)) continue;
    handedOut.add(port);
    if (await isFree(port)) return port;
  }
}

/** Where a program from Debian's packages stands. */
export function program(name: string): string {
  const found = ['/usr/sbin', '/usr/bin', '/sbin'].map((folder) => join(folder, name)).find(existsSync);
  if (found === undefined) throw new Error(`${name} is not installed: scripts/need.sh installs it`);
  return found;
}

/** Programs that a test has started, all ended together. */
export class Programs {
  private readonly children: ChildProcess[] = [];

  /** @param name of a program, or its whole path */
  start(name: string, ...args: string[]): ChildProcess {
    const child = spawn(name.startsWith('/') ? name : program(name), args, { stdio: 'ignore' });
    this.children.push(child);
    return child;
  }

  async stop(): Promise<void> {
    for (const child of this.children) child.kill('SIGTERM');
    await Promise.all(
      this.children.map((child) =>
        child.exitCode === null && child.signalCode === null
          ? new Promise((done) => child.once('exit', done))
          : null,
      ),
    );
  }
}
