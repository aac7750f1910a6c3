import { spawn, type ChildProcess, type ChildProcessByStdio } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { fileURLToPath } from 'node:url';
import { machineClock } from '../net/time/machine-clock.js';
import { createClient } from '../client/client.js';
import { Story, STORY_MS } from './story.js';
import { ANY_PORTS, startWorld, USUAL_PORTS, type World } from './world.js';

const PROGRAM = fileURLToPath(new URL('../cli/main.js', import.meta.url));

/** Who is in the demo. The passwords are no secrets: everything in it is made up and on loopback. */
export const DEMO_PEOPLE = [
  { name: 'marit', role: 'lead', password: 'lantern-at-the-quay' },
  { name: 'jonas', role: 'consultant', password: 'rope-locker-seven' },
  { name: 'odile', role: 'onlooker', password: 'fog-over-the-sound' },
] as const;

export interface DemoOptions {
  readonly folder: string;
  readonly empty: boolean;
  readonly anyPorts: boolean;
  readonly say: (text: string) => void;
  /**
   * Adds people to the records of a configuration, with a key each: the service’s own way, handed in since the rehearsal stands
   * beside it.
   */
  readonly addPeople: (config: string, people: typeof DEMO_PEOPLE) => Promise<readonly string[]>;
}

export interface Demo {
  readonly world: World;
  readonly url: string;
  close(): Promise<void>;
}

/** Starts the world in this process and the service as another, and tells the story when the folder is new. */
export async function runDemo(options: DemoOptions): Promise<Demo> {
  const folder = resolve(options.folder);
  const isNew = !existsSync(join(folder, 'signin.json'));
  const shown = new Date(machineClock.now().getTime() - (isNew && !options.empty ? STORY_MS : 0));
  const world = await startWorld(folder, options.anyPorts ? ANY_PORTS : USUAL_PORTS, shown);
  const adding = isNew ? options.addPeople(world.config, DEMO_PEOPLE) : Promise.resolve([]);
  const [service, [marit = '', jonas = '']] = await Promise.all([startService(world, adding), adding]).catch(
    async (error: unknown) => {
      await world.close();
      throw error;
    },
  );
  try {
    if (isNew) {
      const at = machineClock.now().toISOString();
      keepSignIn(folder, { url: service.url, key: marit, at, demo: DEMO_PEOPLE[0].name });
      if (!options.empty) {
        // Weeks go by in seconds: what is due then is looked at, and told, once they are over.
        const lead = createClient({ url: service.url, key: marit });
        await lead.pauseWatch({ body: { all: true, why: 'the weeks before are told first' } });
        await tellStory(world, service.url, marit, jonas);
        await lead.resumeWatch({ body: { all: true } });
      }
      await tellByMail(service.url, [marit, jonas]);
    } else {
      keepUrl(folder, service.url);
    }
  } catch (error) {
    service.child.kill('SIGTERM');
    await world.close();
    throw error;
  }
  const [lead] = DEMO_PEOPLE;
  options.say(`\nThe console is at  ${service.url}`);
  options.say(`Sign in as         ${DEMO_PEOPLE.map((one) => `${one.name} (${one.role})`).join(', ')}`);
  options.say(
    `${lead.name}’s password   ${lead.password}   (jonas: ${DEMO_PEOPLE[1].password}, odile: ${DEMO_PEOPLE[2].password})`,
  );
  options.say(
    'The command line is signed in as marit: try  ./yardbadge yard  and  ./yardbadge next  in another terminal.',
  );
  options.say('Ctrl-C stops it; everything is kept in ' + options.folder + '.');
  return {
    world,
    url: service.url,
    async close() {
      service.child.kill('SIGTERM');
      await new Promise((done) =>
        service.child.exitCode === null ? service.child.once('exit', done) : done(null),
      );
      await world.close();
    },
  };
}

/** Has people told by mail: it goes to the rehearsal’s own post (`yardbadge rehearsal mail`). */
async function tellByMail(url: string, keys: readonly string[]): Promise<void> {
  for (const [at, key] of keys.entries()) {
    const email = `${DEMO_PEOPLE[at]?.name ?? ''}@harbour-lights.example`;
    const body = { email, zone: 'Europe/Berlin', digestAt: '07:30' };
    await createClient({ url, key }).editRecipient({ params: { person: 'me' }, body });
  }
}

/**
 * The service as a process of its own, in this world. It loads its program meanwhile, and opens the records once it is given its
 * configuration. Resolves once it answers.
 * @param ready when the records may be opened
 */
export async function startService(
  world: Pick<World, 'config' | 'env'>,
  ready: Promise<unknown>,
): Promise<{ child: ChildProcess; url: string }> {
  const child = spawn(process.execPath, [PROGRAM, 'serve', '--config', '-'], {
    cwd: dirname(world.config),
    env: { ...process.env, ...world.env },
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  // A service that has ended already takes nothing more: it is told by its end.
  child.stdin.on('error', () => undefined);
  const url = answersAt(child);
  const begun = ready.then(() => child.stdin.end(readFileSync(world.config)));
  begun.catch(() => child.kill());
  return { child, url: await Promise.race([url, begun.then(() => url)]) };
}

/** Where a service says that it answers. */
function answersAt(child: ChildProcessByStdio<Writable, Readable, null>): Promise<string> {
  return new Promise((done, fail) => {
    let said = '';
    child.stdout.on('data', (piece: Buffer) => {
      said += piece.toString();
      const url = /answers at (http\S+)/.exec(said)?.[1];
      if (url !== undefined) done(url);
    });
    child.once('exit', (status) => {
      fail(new Error(`the service ended with status ${String(status)}`));
    });
  });
}

/** What the command line reads in this folder, unless somebody signs in by hand later. */
interface DemoSignIn {
  readonly url: string;
  readonly key: string;
  /** When the demo was made, not when it was started once more: whoever signed in since keeps working so. */
  readonly at: string;
  readonly demo: string;
}

/** The command line in this folder is signed in as the lead. */
function keepSignIn(folder: string, signIn: DemoSignIn): void {
  writeFileSync(join(folder, 'signin.json'), JSON.stringify(signIn), { mode: 0o600 });
}

function keepUrl(folder: string, url: string): void {
  const file = join(folder, 'signin.json');
  const kept = JSON.parse(readFileSync(file, 'utf8')) as DemoSignIn;
  keepSignIn(folder, { ...kept, url });
}

async function tellStory(world: World, url: string, marit: string, jonas: string): Promise<void> {
  await new Story(
    world,
    createClient({ url, key: marit, wait: 5 }),
    createClient({ url, key: jonas, wait: 5 }),
  ).tell();
}
