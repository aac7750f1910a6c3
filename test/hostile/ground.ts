import type { ChildProcess } from 'node:child_process';
import { createSocket, type Socket as Datagrams } from 'node:dgram';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createTcp, type AddressInfo, type Server as TcpServer, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode, encode, type Packet } from 'dns-packet';
import { stringify } from 'yaml';
import type { JobResult, Role } from '../../src/api/documents.js';
import { createClient, type Client } from '../../src/client/client.js';
import { addPersonWithKeyHere } from '../../src/service/persons.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { startBuiltService } from '../support/built.js';
import { removed } from '../support/removed.js';
import { PASSWORD } from '../support/stage.js';
import { ENGINE_HOST, ENGINE_PROFILE, engineCall, orderly, type EngineCall } from './engine.js';
import { HOST, type WebAnswer } from './site.js';

/** What a name server answers to a question: bytes as they are, a packet, several, or nothing. */
export type DnsAnswer = Buffer | Packet | readonly (Buffer | Packet)[] | null;
/** Who asks: one of each role, and a lead whose access was ended. */
export type Caller = Role | 'gone';
const ROLES: Readonly<Record<Caller, Role>> = {
  lead: 'lead',
  consultant: 'consultant',
  onlooker: 'onlooker',
  gone: 'lead',
};

/**
 * Bounds that hold after every case, whatever came. What is bounded is the work that the service's own thread did while its
 * health was waited for, not the time that went by: on a machine with other work that says nothing of the service.
 */
const HEALTHY_MS = 250;
/** Of a thread's times in /proc, which Linux counts in hundredths of a second (`USER_HZ`). */
const TICK_MS = 10;
const MOST_MEGABYTES = 500;

/** The built service, alone with a website and a name server that do whatever a case wants. */
export class HostileGround {
  web: (path: string) => WebAnswer = () => ({ body: '<!doctype html><title>Quay</title><p>Welcome.' });
  dns: (question: Packet, via: 'udp' | 'tcp') => DnsAnswer | undefined = () => undefined;
  /** What the engine answers in place of what an engine in order would; nothing where a case has no word of it. */
  engine: (call: EngineCall) => WebAnswer | undefined = () => undefined;
  /** What happens to a connection at the port for HTTPS; without a word of it the website answers, and knows no TLS. */
  tls: (socket: Socket) => void = (socket) => void this.site.emit('connection', socket);
  client!: Client;
  url = '';
  /** Bearer keys: of those who may and of one who might once. */
  keys!: Readonly<Record<Caller, string>>;
  private child!: ChildProcess;
  private readonly folder = mkdtempSync(join(tmpdir(), 'yardbadge-hostile-'));
  private readonly site: Server;
  private readonly link: Server;
  private readonly udp: Datagrams = createSocket('udp4');
  private readonly tcp: TcpServer;
  private readonly secure: TcpServer;
  private readonly kept = new Set<Socket>();

  private constructor() {
    this.site = createServer((request, response) => {
      const { status = 200, headers = {}, body = '', raw } = this.web(request.url ?? '/');
      if (raw) {
        raw(request.socket);
        return;
      }
      response.writeHead(status, { 'content-type': 'text/html; charset=utf-8', ...headers });
      response.end(body);
    });
    this.site.on('clientError', (_, socket) => socket.destroy());
    this.link = createServer((request, response) => {
      const call = engineCall(request.method ?? 'GET', request.url ?? '/');
      const { status, headers = {}, body = '', raw } = this.engine(call) ?? orderly(call);
      if (raw) {
        raw(request.socket);
        return;
      }
      response.writeHead(status ?? 200, { 'content-type': 'application/json', ...headers });
      response.end(body);
    });
    this.udp.on('message', (message, from) => {
      for (const reply of this.replies(message, 'udp')) this.udp.send(reply, from.port, from.address);
    });
    this.secure = createTcp((socket) => {
      this.kept.add(socket);
      socket.on('error', () => undefined);
      socket.on('close', () => this.kept.delete(socket));
      this.tls(socket);
    });
    this.tcp = createTcp((socket) => {
      socket.on('error', () => undefined);
      socket.on('data', (piece) => {
        for (const reply of this.replies(piece.subarray(2), 'tcp')) {
          const length = Buffer.alloc(2);
          length.writeUInt16BE(Math.min(reply.length, 65_535));
          socket.write(Buffer.concat([length, reply]));
        }
      });
    });
  }

  static async open(): Promise<HostileGround> {
    const ground = new HostileGround();
    await new Promise<void>((done) => ground.site.listen(0, '127.0.0.1', done));
    await new Promise<void>((done) => ground.link.listen(0, '127.0.0.1', done));
    await new Promise<void>((done) => ground.tcp.listen(0, '127.0.0.1', done));
    await new Promise<void>((done) => ground.secure.listen(0, '127.0.0.1', done));
    const names = (ground.tcp.address() as AddressInfo).port;
    await new Promise<void>((done) => ground.udp.bind(names, '127.0.0.1', done));
    const http = `127.0.0.1:${String((ground.site.address() as AddressInfo).port)}`;
    mkdirSync(join(ground.folder, 'engines'));
    const config = join(ground.folder, 'yardbadge.yaml');
    const resolver = `127.0.0.1:${String(names)}`;
    writeFileSync(
      config,
      stringify({
        listen: { host: '127.0.0.1', port: 0 },
        data: './yardbadge.sqlite',
        keyFile: './yardbadge.key',
        log: 'error',
        engines: './engines',
        plainLinks: [ENGINE_HOST],
        net: {
          resolver,
          allow: ['192.0.2.0/24'],
          connect: [
            { from: '*:53', to: resolver },
            {
              from: `${ENGINE_HOST}:80`,
              to: `127.0.0.1:${String((ground.link.address() as AddressInfo).port)}`,
            },
            { from: '*:80', to: http },
            { from: '*:443', to: `127.0.0.1:${String((ground.secure.address() as AddressInfo).port)}` },
          ],
          bounds: { connectMs: 1000, hopMs: 2000, dnsMs: 300 },
        },
      }),
    );
    const { settings } = await loadSettings(config, {}, {});
    const keys = new Map<Caller, string>();
    for (const [caller, role] of Object.entries(ROLES) as [Caller, Role][])
      keys.set(
        caller,
        await addPersonWithKeyHere(settings, { name: caller, role, password: PASSWORD }, 'test'),
      );
    ground.keys = Object.fromEntries(keys) as Record<Caller, string>;
    const { child, url } = await startBuiltService({
      config,
      env: { YARDBADGE_KEY_HOLLIN: 'hollin-key-1' },
    } as never);
    ground.child = child;
    ground.url = url;
    ground.client = createClient({ url, key: ground.keys.lead, wait: 10 });
    const { items: persons } = await ground.client.listPersons();
    for (const { id, name } of persons)
      if (name === 'gone') await ground.client.endPerson({ params: { id } });
    await ground.client.addClient({ body: { name: 'Quay', handle: 'quay' } });
    const { job } = await ground.client.addProperty({
      body: { client: 'quay', address: `http://${HOST}/`, handle: 'quay' },
    });
    await ground.client.finished({ id: job });
    await ground.client.finished(
      await ground.client.enrol({ body: { properties: ['quay'], engines: ['house'] } }),
    );
    await ground.client.finished(await ground.client.getTokens({ body: { enrolments: ['quay'] } }));
    await ground.client.addEngine({ body: { profile: ENGINE_PROFILE } });
    return ground;
  }

  /** What the pieces of a job came to. */
  async results(started: Promise<{ id: string }>): Promise<JobResult[]> {
    const job = await this.client.finished(await started);
    return job.items.flatMap(({ result }) => (result ? [result] : []));
  }

  /** While something is asked of the service: for how many milliseconds it worked at worst until it answered for its health. */
  async during<T>(work: () => Promise<T>): Promise<{ value: T; slowest: number }> {
    let slowest = 0;
    let isOver = false;
    const watch = async (): Promise<void> => {
      while (!isOver) {
        const begun = this.worked();
        await this.health();
        slowest = Math.max(slowest, this.worked() - begun);
        await new Promise((done) => setTimeout(done, 25));
      }
    };
    const watching = watch();
    try {
      return { value: await work(), slowest };
    } finally {
      isOver = true;
      await watching;
    }
  }

  async health(): Promise<{ status: string; faults: number }> {
    const answer = await fetch(`${this.url}/api/v1/health`);
    return (await answer.json()) as { status: string; faults: number };
  }

  /** What is wrong with the service after a case; empty where all is well. */
  async wrong(): Promise<string[]> {
    if (this.child.exitCode !== null) return [`the service ended with ${String(this.child.exitCode)}`];
    const begun = this.worked();
    const { status, faults } = await this.health();
    const took = this.worked() - begun;
    const megabytes = this.megabytes();
    return [
      ...(status === 'up' ? [] : [`health says ${status}`]),
      ...(faults === 0 ? [] : [`${String(faults)} errors reached the process`]),
      ...(took < HEALTHY_MS ? [] : [`health took ${took.toFixed(0)} ms of work`]),
      ...(megabytes < MOST_MEGABYTES ? [] : [`${megabytes.toFixed(0)} MB are resident`]),
    ];
  }

  /** For how many milliseconds the service's main thread has been working so far (proc(5), `utime` and `stime`). */
  private worked(): number {
    const pid = String(this.child.pid);
    const line = readFileSync(`/proc/${pid}/task/${pid}/stat`, 'utf8');
    const [utime, stime] = line
      .slice(line.lastIndexOf(')') + 2)
      .split(' ')
      .slice(11, 13);
    return (Number(utime) + Number(stime)) * TICK_MS;
  }

  megabytes(): number {
    const status = readFileSync(`/proc/${String(this.child.pid)}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
  }

  async close(): Promise<void> {
    this.child.kill('SIGTERM');
    await new Promise((done) => this.child.once('exit', done));
    this.site.closeAllConnections();
    this.link.closeAllConnections();
    for (const socket of this.kept) socket.destroy();
    this.udp.close();
    await Promise.all([
      new Promise((done) => this.site.close(done)),
      new Promise((done) => this.link.close(done)),
      new Promise((done) => this.tcp.close(done)),
      new Promise((done) => this.secure.close(done)),
    ]);
    await removed(this.folder);
  }

  private replies(message: Buffer, via: 'udp' | 'tcp'): Buffer[] {
    let query: Packet;
    try {
      query = decode(message);
    } catch {
      return [];
    }
    const told = this.dns(query, via);
    const all = told === undefined ? usual(query) : told;
    if (all === null) return [];
    return (Array.isArray(all) ? all : [all]).map((one: Buffer | Packet) =>
      Buffer.isBuffer(one) ? one : encode(one),
    );
  }
}

/** An answer to a question, with what a case says otherwise. */
export function answerTo(query: Packet, more: Partial<Packet> = {}): Packet {
  return { type: 'response', id: query.id ?? 0, flags: 0x0400, questions: query.questions ?? [], ...more };
}

/** A small zone that is in order. */
function usual(query: Packet): Packet {
  const [question] = query.questions ?? [];
  const name = question?.name ?? '';
  const server = `ns.${HOST}`;
  switch (question?.type) {
    case 'A':
      return answerTo(query, {
        answers: [{ type: 'A', name, ttl: 60, data: name === server ? '192.0.2.53' : '192.0.2.80' }],
      });
    case 'NS':
      return name === 'example' || name === HOST
        ? answerTo(query, { answers: [{ type: 'NS', name, ttl: 60, data: server }] })
        : answerTo(query);
    case 'SOA':
      return answerTo(query, { [name === HOST ? 'answers' : 'authorities']: [startOf(HOST)] });
    default:
      return answerTo(query, { authorities: [startOf(HOST)] });
  }
}

function startOf(zone: string): NonNullable<Packet['answers']>[number] {
  const data = {
    mname: `ns.${zone}`,
    rname: `hostmaster.${zone}`,
    serial: 1,
    refresh: 3600,
    retry: 600,
    expire: 86400,
    minimum: 60,
  };
  return { type: 'SOA', name: zone, ttl: 60, data };
}
