import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { parse } from 'yaml';
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';
import { LONGEST_HELD_MS } from '../../src/net/dns/resolver.js';
import { openStage, placeAll, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

const HOSTER = '198.51.100.9';
const AT_HOSTER = 15;
const handles = Array.from({ length: 20 }, (_, index) => `berth${String(index + 1)}`);
const hostOf = (handle: string) => `${handle}-moorings.example`;

/** A way to the world's websites that can be had hang: connections come about, and nothing is answered. */
class Wire {
  isDead = false;
  /** The port behind it. */
  to = 0;
  private readonly sockets = new Set<Socket>();
  private constructor(private readonly server: Server) {
    server.on('connection', (socket) => {
      this.take(socket);
    });
  }

  static async open(): Promise<Wire> {
    const server = createServer();
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    return new Wire(server);
  }

  get endpoint(): string {
    return `127.0.0.1:${String((this.server.address() as AddressInfo).port)}`;
  }

  private take(socket: Socket): void {
    this.sockets.add(socket.on('error', () => undefined));
    if (this.isDead) return;
    const on = connect(this.to, '127.0.0.1');
    on.on('error', () => undefined).on('close', () => socket.destroy());
    socket.on('close', () => on.destroy());
    socket.pipe(on).pipe(socket);
  }

  kill(): void {
    this.isDead = true;
    this.hangUp();
  }

  hangUp(): void {
    for (const socket of this.sockets) socket.destroy();
    this.sockets.clear();
  }

  async close(): Promise<void> {
    this.hangUp();
    await new Promise((done) => this.server.close(done));
  }
}

/** Whose fault it is that a website cannot be seen: its hoster’s, or ours. */
describe('twenty websites, fifteen of them on one server', () => {
  let stage: Stage;
  let hoster: Wire[];
  let others: Wire[];
  const pass = (ms: number) => stage.world.advance(ms);
  const alerts = async (query: { resolved?: true } = {}) =>
    (await stage.marit.listAlerts({ query: { limit: 200, ...query } })).items;
  const kinds = async () => (await alerts()).map(({ kind }) => kind);
  /** Has the rounds of the watch go by until nothing is due that would be looked at. */
  const looked = async () => {
    for (let rounds = 0; rounds < 200; rounds += 1) {
      await pass(20_000);
      const { counts, cutOff } = await until(
        () => stage.marit.showWatch({}),
        (watch) => watch.counts['underWay'] === 0,
      );
      if (counts['due'] === 0 || cutOff !== null) return;
      await new Promise((done) => setTimeout(done, 150));
    }
    throw new Error('what is due is not looked at');
  };
  const enrolments = async () =>
    (
      await Promise.all(handles.map((property) => stage.marit.listEnrolments({ query: { property } })))
    ).flatMap(({ items }) => items);
  const badges = async () => new Set((await enrolments()).map(({ badge }) => badge));
  const mails = () => stage.world.post.mails.map(({ subject }) => subject);
  /** Time passes in steps, with everything looked at that is due. */
  const passInSteps = async (steps: number, ms: number) => {
    for (let step = 0; step < steps; step += 1) {
      await pass(ms);
      await looked();
    }
  };

  const down = async () => (await alerts()).filter(({ kind }) => kind === 'server-down');
  /** On a busy machine one check or the other comes later than it is due: hours go by until the alert names as many websites. */
  const passUntilDown = async (websites: number) => {
    for (let step = 0; step < 12 && (await down())[0]?.touches.length !== websites; step += 1)
      await passInSteps(1, HOUR);
    return down();
  };

  beforeAll(async () => {
    const wires = await Promise.all([1, 2, 3, 4].map(() => Wire.open()));
    hoster = wires.slice(0, 2);
    others = wires.slice(2);
    const [hosterPlain, hosterSecure, plain, secure] = wires as [Wire, Wire, Wire, Wire];
    const inWorld = (config: string) => {
      const { net } = parse(config) as { net: { connect: { from: string; to: string }[] } };
      const portOf = (from: string) => Number(net.connect.find((one) => one.from === from)?.to.split(':')[1]);
      for (const one of [hosterPlain, plain]) one.to = portOf('*:80');
      for (const one of [hosterSecure, secure]) one.to = portOf('*:443');
      const own = [
        { from: `${HOSTER}:80`, to: hosterPlain.endpoint },
        { from: `${HOSTER}:443`, to: hosterSecure.endpoint },
      ];
      const rest = net.connect.filter(({ from }) => !from.startsWith('*'));
      const open = [
        { from: '*:80', to: plain.endpoint },
        { from: '*:443', to: secure.endpoint },
      ];
      return { 'net.connect': JSON.stringify([...own, ...rest, ...open]) };
    };
    const short = { 'net.bounds.hopMs': '700', 'net.bounds.connectMs': '700' };
    stage = await openStage({ 'watch.on': 'true', ...short }, [], inWorld);
    const { marit } = stage;
    for (const [index, handle] of handles.entries()) {
      await stage.order({ do: 'new-site', host: hostOf(handle), title: `Moorings ${handle}` });
      if (index < AT_HOSTER)
        stage.world.file.state.names.hosts.push({ host: hostOf(handle), address: HOSTER });
    }
    await marit.addClient({ body: { name: 'Moorings', handle: 'moorings' } });
    for (const handle of handles) {
      const { job } = await marit.addProperty({
        body: { client: 'moorings', address: hostOf(handle), handle },
      });
      await marit.finished({ id: job });
    }
    await stage.results(marit.enrol({ body: { properties: handles, engines: ['house'] } }));
    await stage.results(marit.getTokens({ body: { all: true, method: 'meta' } }));
    await placeAll(stage, await enrolments());
    await stage.results(marit.claim({ body: { all: true, method: 'meta' } }));
    await marit.editRecipient({
      params: { person: 'me' },
      body: { email: 'marit@harbour-lights.example', digest: false, zone: 'UTC' },
    });
  }, 240_000);
  afterAll(async () => {
    await stage.close();
    await Promise.all([...hoster, ...others].map((one) => one.close()));
  });

  it('has all of them proved in the beginning', async () => {
    expect(await badges()).toEqual(new Set(['held']));
    await passInSteps(2, DAY);
    expect(await kinds()).toEqual([]);
  });

  it('tells the server that hangs as one alert with its websites, and never as an outage of our own', async () => {
    for (const wire of hoster) wire.kill();
    await passInSteps(2, DAY);
    await passInSteps(2, HOUR);
    const [one, ...more] = await passUntilDown(AT_HOSTER);
    expect(more).toEqual([]);
    expect([...(one?.touches ?? [])].sort()).toEqual(handles.slice(0, AT_HOSTER).sort());
    expect(one?.says).toContain(HOSTER);
    expect(
      [...(await alerts()), ...(await alerts({ resolved: true }))].filter(({ kind }) => kind === 'cut-off'),
    ).toEqual([]);
    await pass(5 * MINUTE);
    await until(alerts, (all) => all.every(({ notifiedAt }) => notifiedAt !== null));
    const told = () => Promise.resolve(mails().filter((subject) => subject.includes('server')));
    expect(await until(told, (all) => all.length > 0)).toHaveLength(1);
    expect(await badges()).toEqual(new Set(['held']));
  }, 240_000);

  it('says that it is over once', async () => {
    for (const wire of hoster) wire.isDead = false;
    for (const wire of hoster) wire.hangUp();
    await passInSteps(6, 4 * HOUR);
    await until(kinds, (all) => all.length === 0);
    await pass(5 * MINUTE);
    await until(
      () => Promise.resolve(mails().filter((subject) => subject.includes('server'))),
      (all) => all.length === 2,
    );
    expect(mails().length).toBeLessThan(8);
  }, 240_000);

  it('tells name servers that fail for some of them as one alert', async () => {
    const { names } = stage.world.file.state;
    const some = handles.slice(2, 9);
    for (const handle of some) names.fails.push({ name: hostOf(handle), how: 'servfail', at: 'both' });
    onTestFinished(() => void (names.fails.length = 0));
    // Addresses that were told before hold for a moment of real time, in which days go by here.
    await sleep(LONGEST_HELD_MS);
    await passInSteps(2, DAY);
    await passInSteps(2, HOUR);
    const failing = await passUntilDown(some.length);
    expect(failing.map(({ touches }) => [...touches].sort())).toEqual([[...some].sort()]);
    expect(failing[0]?.says).toMatch(
      /^The names of 7 websites cannot be looked up, .* All of them rely on ns1\./,
    );
    expect((await alerts()).filter(({ kind }) => kind === 'cut-off')).toEqual([]);
    names.fails.length = 0;
    await passInSteps(6, 4 * HOUR);
    await until(kinds, (all) => all.length === 0);
    expect(await badges()).toEqual(new Set(['held']));
  }, 240_000);

  it('takes silence everywhere for our own', async () => {
    for (const wire of [...hoster, ...others]) wire.kill();
    await passInSteps(3, 12 * HOUR);
    await until(kinds, (all) => all.includes('cut-off'));
    expect(new Set(await kinds())).toEqual(new Set(['cut-off']));
    for (const wire of [...hoster, ...others]) {
      wire.isDead = false;
      wire.hangUp();
    }
    await pass(2 * MINUTE);
    await until(kinds, (all) => all.length === 0);
  }, 240_000);

  it('takes one page for all for our own, and holds it against no token', async () => {
    await passInSteps(2, HOUR);
    const portal = {
      status: 200,
      headers: { 'content-type': 'text/html' },
      body: '<title>Guests</title>Sign in.',
    };
    const { sites } = stage.world.file.state;
    for (const site of sites) site.answers = { '*': portal };
    await passInSteps(3, 12 * HOUR);
    const [cut] = await until(alerts, (all) => all.some(({ kind }) => kind === 'cut-off'));
    expect(await kinds()).toEqual(['cut-off']);
    expect(cut?.says).toContain('answers in their place');
    expect(await badges()).toEqual(new Set(['held']));
    for (const site of sites) site.answers = {};
    await pass(2 * MINUTE);
    await until(kinds, (all) => all.length === 0);
    await passInSteps(2, DAY);
    expect(await kinds()).toEqual([]);
    expect(await badges()).toEqual(new Set(['held']));
  }, 240_000);
});
