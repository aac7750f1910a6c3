import type { ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient, type Client } from '../../src/client/client.js';
import { ANY_PORTS, startWorld, type World } from '../../src/rehearsal/world.js';
import { addPersonWithKeyHere } from '../../src/service/persons.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { startBuiltService } from './built.js';
import { removed } from './removed.js';
import { PASSWORD } from './stage.js';
import { STAGE_TIME } from './time.js';

/** A world and the built service in it as a process of its own, which can be killed without warning and started again. */
export class Killable {
  private child: ChildProcess | null = null;
  private talking: Client | null = null;

  private constructor(
    readonly world: World,
    /** Where the service keeps its records. */
    readonly data: string,
    private readonly folder: string,
    /** A lead's, for its clients. */
    readonly key: string,
  ) {}

  /** Makes the world and its records; the service is not started yet. */
  static async open(): Promise<Killable> {
    const folder = mkdtempSync(join(tmpdir(), 'yardbadge-killed-'));
    const world = await startWorld(folder, ANY_PORTS, STAGE_TIME);
    const { settings } = await loadSettings(world.config, {}, {});
    const person = { name: 'marit', role: 'lead', password: PASSWORD } as const;
    const key = await addPersonWithKeyHere(settings, person, 'test');
    return new Killable(world, settings.data, folder, key);
  }

  /** The client of a lead. */
  get client(): Client {
    if (!this.talking) throw new Error('the service is not started yet');
    return this.talking;
  }

  async start(): Promise<void> {
    const { child, url } = await startBuiltService(this.world);
    this.child = child;
    this.talking = createClient({ url, key: this.key });
  }

  /** Starts the service and takes the clock mender on, looked at and not yet enrolled. */
  async startWithClocks(): Promise<void> {
    await this.start();
    await this.client.addClient({ body: { name: 'Tidewell', handle: 'tidewell' } });
    const { job } = await this.client.addProperty({
      body: { client: 'tidewell', address: 'tidewell-clocks.example', handle: 'clocks' },
    });
    await this.client.finished({ id: job });
  }

  /** The number of the process in which the service runs. */
  get pid(): number {
    if (this.child?.pid === undefined) throw new Error('the service is not started yet');
    return this.child.pid;
  }

  /** Kills the service at once (`kill -9`), and waits until it is gone. */
  kill(): Promise<void> {
    return this.end('SIGKILL');
  }

  async close(): Promise<void> {
    await this.end('SIGTERM');
    await this.world.close();
    await removed(this.folder);
  }

  /** Ends the service, if it runs, and waits until it is gone. */
  private async end(signal: NodeJS.Signals): Promise<void> {
    const { child } = this;
    this.child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await gone;
  }
}
