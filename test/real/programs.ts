import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';

/** A port that nobody uses just now. */
export function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => {
        done(port);
      });
    });
  });
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

  start(name: string, ...args: string[]): ChildProcess {
    const child = spawn(program(name), args, { stdio: 'ignore' });
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
