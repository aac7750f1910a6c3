import { randomUUID } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import {
  chmodSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openFtps } from '../../src/net/targets/ftps.js';
import type { FileTarget } from '../../src/net/targets/file-target.js';
import { openWebDav } from '../../src/net/targets/webdav.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { machineClock } from '../../src/net/time/machine-clock.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { startNameServer } from '../../src/rehearsal/names/server.js';
import { newWorld, site } from '../../src/rehearsal/scenario.js';
import { removed } from '../support/removed.js';
import { FILE_PASSWORD, FILE_USER, serveFtps, serveWebDav } from './file-servers.js';
import { freePort, Programs } from './programs.js';

const HOST = 'quay.example';
const folder = mkdtempSync(join(tmpdir(), 'yardbadge-under-tls-'));
const root = join(folder, 'www');
const programs = new Programs();
let net: Net;
let names: Awaited<ReturnType<typeof startNameServer>>;
/** Servers that show: a certificate of their own; one of an authority; another one of their own. */
const SERVERS = ['own', 'vouched', 'other'] as const;
const ports = { ftps: { own: 0, vouched: 0, other: 0 }, webdav: { own: 0, vouched: 0, other: 0 } };

type Which = (typeof SERVERS)[number];

beforeAll(async () => {
  mkdirSync(root);
  const authority = await Authority.open(folder, machineClock);
  for (const which of SERVERS) {
    mkdirSync(join(folder, which));
    const made = await authority.issue([HOST], which === 'vouched' ? 'good' : 'self-signed');
    writeFileSync(join(folder, which, 'cert.pem'), made.cert);
    writeFileSync(join(folder, which, 'key.pem'), made.key, { mode: 0o600 });
    ports.ftps[which] = await freePort();
    ports.webdav[which] = await freePort();
  }
  names = await startNameServer(
    { state: newWorld(machineClock.now(), [site(HOST, '', '')]), ...machineClock },
    'resolver',
    0,
  );
  net = new Net({
    resolver: `127.0.0.1:${String(names.port)}`,
    allow: ['192.0.2.0/24'],
    connect: [...Object.values(ports.ftps), ...Object.values(ports.webdav)].map((port) => ({
      from: `*:${String(port)}`,
      to: `127.0.0.1:${String(port)}`,
    })),
    ca: readFileSync(join(folder, 'ca.pem'), 'utf8'),
    agent: 'test',
    bounds: DEFAULT_BOUNDS,
  });
  for (const which of SERVERS) {
    const home = join(folder, which);
    // What many hosters have: nobody but the login’s own may read what is made.
    serveFtps(programs, home, ports.ftps[which], root, 'Umask 077 077\n');
    serveWebDav(programs, home, ports.webdav[which], root);
    for (const port of [ports.ftps[which], ports.webdav[which]])
      await vi.waitFor(async () => (await net.socket(HOST, port)).destroy(), { timeout: 20_000 });
  }
});

afterAll(async () => {
  await programs.stop();
  await net.close();
  await names.close();
  await removed(folder);
});

describe.each(['ftps', 'webdav'] as const)('a web root by %s at a real server', (way) => {
  const open = async (more: { which?: Which; secret?: string; pin?: string | null; root?: string } = {}) => {
    const port = ports[way][more.which ?? 'own'];
    let shown = '';
    const sockets: Socket[] = [];
    let isCut = false;
    const dial = async () => {
      const socket = await net.socket(HOST, port);
      sockets.push(socket);
      if (isCut) socket.destroy();
      return socket;
    };
    const secured = async (socket: Socket) => {
      const over = await net.secured(socket, HOST, more.pin ?? null);
      ({ shown } = over);
      return over;
    };
    const at = { host: HOST, user: FILE_USER, secret: more.secret ?? FILE_PASSWORD };
    const file: FileTarget =
      way === 'ftps'
        ? await openFtps(await dial(), { ...at, root: join(root, more.root ?? '') }, secured)
        : await openWebDav(
            { ...at, port, root: more.root ?? '/' },
            async () => (await secured(await dial())).socket,
          );
    const cut = () => {
      isCut = true;
      for (const socket of sockets) socket.destroy();
      void file.close();
    };
    return { file, cut, shown };
  };

  it('writes, reads back, replaces and takes away, with folders and modes', async () => {
    const { file, shown } = await open();
    expect(shown).toMatch(/^SHA256:(?:[\dA-F]{2}:){31}[\dA-F]{2}$/u);
    const path = `/.well-known/${way}/proof ü.txt`;
    expect(await file.read(path)).toBeNull();
    await file.write(path, Buffer.from('one'), randomUUID());
    await file.write(path, Buffer.from('two'), randomUUID());
    expect((await file.read(path))?.toString()).toBe('two');
    expect(statSync(join(root, path)).mode & 0o777).toBe(0o644);
    // Of a folder that only its owner may enter a web server shows nothing.
    expect(statSync(join(root, '.well-known', way)).mode & 0o005).toBe(0o005);
    expect(readdirSync(join(root, '.well-known', way))).toEqual(['proof ü.txt']);
    expect(await file.read(`/.well-known/${way}/not-there.txt`)).toBeNull();
    await file.remove(path);
    await file.remove(path);
    expect(existsSync(join(root, path))).toBe(false);
    await expect(file.read('/../secret')).rejects.toMatchObject({ kind: 'refused' });
    await file.close();
  });

  it('sends nothing to who shows another certificate, unless an authority vouches for it, nor comes in with a wrong password', async () => {
    const { shown, file } = await open();
    await file.close();
    await expect(open({ which: 'other', pin: shown })).rejects.toMatchObject({
      kind: 'other-key',
      shown: expect.stringMatching(/^SHA256:/u) as string,
    });
    const renewed = await open({ which: 'vouched', pin: shown });
    expect(renewed.shown).not.toBe(shown);
    await renewed.file.close();
    const again = await open({ pin: shown });
    await again.file.close();
    await expect(open({ secret: 'a password', pin: shown })).rejects.toMatchObject({ kind: 'denied' });
  });

  it.runIf(way === 'webdav')(
    'writes over nothing that somebody else has put there since it was read',
    async () => {
      const { file } = await open();
      const place = join(root, 'shared.txt');
      expect(await file.read('/shared.txt')).toBeNull();
      writeFileSync(place, 'theirs');
      await expect(file.write('/shared.txt', Buffer.from('ours'), randomUUID())).rejects.toThrow(
        'changed by somebody else',
      );
      expect(readFileSync(place, 'utf8')).toBe('theirs');
      expect((await file.read('/shared.txt'))?.toString()).toBe('theirs');
      writeFileSync(place, 'theirs, once more');
      await expect(file.write('/shared.txt', Buffer.from('ours'), randomUUID())).rejects.toThrow(
        'changed by somebody else',
      );
      await file.read('/shared.txt');
      await file.write('/shared.txt', Buffer.from('ours'), randomUUID());
      expect(readFileSync(place, 'utf8')).toBe('ours');
      expect(
        readdirSync(root).filter((name) => name.includes('shared.txt') && name.endsWith('.part')),
      ).toEqual([]);
      await file.remove('/shared.txt');
      await file.close();
    },
  );

  it('is never seen half-written, and loses nothing when it is cut off in the middle', async () => {
    const { file } = await open();
    const name = `/${way}-sitemap.xml`;
    const files = ['a', 'b'].map((letter) => Buffer.alloc(3_000_000, letter));
    const one = (at: number) => files[at % 2] ?? Buffer.alloc(0);
    await file.write(name, one(0), randomUUID());
    let isOver = false;
    const looking = (async () => {
      while (!isOver) {
        const seen = readFileSync(join(root, name));
        expect(files.some((each) => each.equals(seen))).toBe(true);
        await sleep(2);
      }
    })();
    for (let at = 0; at < 8; at += 1) await file.write(name, one(at), randomUUID());
    const half = await open();
    const writing = half.file.write(name, one(0), 'half').catch((error: unknown) => error);
    await sleep(8);
    half.cut();
    expect(await writing).toMatchObject({ kind: 'unreached' });
    await Promise.all(
      Array.from({ length: 4 }, async (_, at) => {
        const each = await open();
        await each.file.write(name, one(at), randomUUID());
        await each.file.close();
      }),
    );
    isOver = true;
    await looking;
    // What was left of it is found by its name.
    await file.remove(`/.${name.slice(1)}.half.part`);
    expect(readdirSync(root).filter((each) => each.startsWith('.') && each.includes(way))).toEqual([]);
    await file.close();
  });

  it('says that a disk is full, or can only be read', async () => {
    const small = join(root, `small-${way}`);
    mkdirSync(small);
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', small]);
    chmodSync(small, 0o755);
    try {
      const { file } = await open({ root: `/small-${way}` });
      await file.write('/small.txt', Buffer.from('fits'), randomUUID());
      await expect(file.write('/large.txt', Buffer.alloc(500_000), randomUUID())).rejects.toMatchObject({
        kind: 'full',
      });
      expect((await file.read('/small.txt'))?.toString()).toBe('fits');
      // nginx leaves what it could not copy under a number of its own; of ours nothing is left.
      expect(readdirSync(small).filter((each) => !/\.\d{10}$/u.test(each))).toEqual(['small.txt']);
      execFileSync('mount', ['-o', 'remount,ro', small]);
      await expect(file.write('/more.txt', Buffer.from('x'), randomUUID())).rejects.toMatchObject({
        kind: expect.stringMatching(/denied|full/u) as string,
      });
      await file.close();
    } finally {
      execFileSync('umount', ['-l', small]);
    }
  });
});

/** What a server of FTP may be set up to refuse, and what it may keep from us. */
describe('an odd server of FTP under TLS', () => {
  const odd = async (more: string, prepare: (root: string) => void) => {
    const home = join(folder, `odd-${randomUUID()}`);
    const root = join(home, 'www');
    mkdirSync(root, { recursive: true });
    prepare(root);
    for (const file of ['cert.pem', 'key.pem']) copyFileSync(join(folder, 'own', file), join(home, file));
    const port = await freePort();
    serveFtps(programs, home, port, root, more);
    const dial = () =>
      new Promise<Socket>((done, fail) => {
        const socket = connect(port, '127.0.0.1', () => {
          done(socket);
        }).on('error', fail);
      });
    await vi.waitFor(async () => (await dial()).destroy(), { timeout: 20_000 });
    const file = await openFtps(
      await dial(),
      { host: HOST, user: FILE_USER, secret: FILE_PASSWORD, root },
      (socket) => net.secured(socket, HOST, null),
    );
    return { file, root };
  };
  const parts = (root: string) => readdirSync(root).filter((name) => name.endsWith('.part'));

  it.each([
    ['renames over nothing', '<Limit RNTO>\nAllowAll\n</Limit>\nAllowOverwrite off\n', 'Disallow: /sheds/'],
    ['renames nothing', '<Limit RNFR RNTO>\nDenyAll\n</Limit>\n', 'Allow: /'],
  ])('that takes deletions and %s loses no file', async (_, more, left) => {
    const { file, root } = await odd(more, (at) => {
      writeFileSync(join(at, 'robots.txt'), 'Allow: /');
    });
    await file.write('/robots.txt', Buffer.from('Disallow: /sheds/'), 'nonce').catch((error: unknown) => {
      expect(error).toMatchObject({ kind: 'refused' });
    });
    expect(readFileSync(join(root, 'robots.txt'), 'utf8')).toBe(left);
    expect(parts(root)).toEqual([]);
    await file.close();
  });

  it('that takes no name which begins with a dot gets its files under others meanwhile', async () => {
    const { file, root } = await odd('PathDenyFilter "(^|/)[.][^/]+$"\n', (at) => {
      writeFileSync(join(at, 'robots.txt'), 'Allow: /');
    });
    await file.write('/robots.txt', Buffer.from('Disallow: /sheds/'), 'nonce');
    expect(readFileSync(join(root, 'robots.txt'), 'utf8')).toBe('Disallow: /sheds/');
    expect(readdirSync(root)).toEqual(['robots.txt']);
    await file.close();
  });

  it('that speaks no TLS is told so, and gets no password', async () => {
    await expect(odd('TLSEngine off\n', () => undefined)).rejects.toMatchObject({
      kind: 'refused',
      message: expect.stringMatching(/offers no TLS.*nothing was sent/u) as string,
    });
  });

  it('that says no sizes, and lists no dot files, hides nobody’s file', async () => {
    const { file } = await odd('<Limit SIZE>\nDenyAll\n</Limit>\n', (at) => {
      writeFileSync(join(at, 'robots.txt'), 'theirs');
      writeFileSync(join(at, '.proof.txt'), 'theirs too');
    });
    expect((await file.read('/robots.txt'))?.toString()).toBe('theirs');
    expect((await file.read('/.proof.txt'))?.toString()).toBe('theirs too');
    expect(await file.read('/not-there.txt')).toBeNull();
    await file.close();
  });

  it('is not followed over a link', async () => {
    const other = join(folder, 'another-client');
    mkdirSync(other, { recursive: true });
    const { file } = await odd('', (at) => {
      symlinkSync(other, join(at, 'assets'));
    });
    await expect(file.write('/assets/proof.txt', Buffer.from('ours'), 'nonce')).rejects.toMatchObject({
      kind: 'refused',
    });
    expect(readdirSync(other)).toEqual([]);
    await file.close();
  });
});

/** What a server of WebDAV may be set up to refuse. */
describe('an odd server of WebDAV', () => {
  const odd = async (more: string, kind?: 'plain') => {
    const home = join(folder, `odd-${randomUUID()}`);
    const root = join(home, 'www');
    mkdirSync(root, { recursive: true });
    for (const file of ['cert.pem', 'key.pem']) copyFileSync(join(folder, 'own', file), join(home, file));
    const port = await freePort();
    serveWebDav(programs, home, port, root, more, kind);
    const dial = () =>
      new Promise<Socket>((done, fail) => {
        const socket = connect(port, '127.0.0.1', () => {
          done(socket);
        }).on('error', fail);
      });
    await vi.waitFor(async () => (await dial()).destroy(), { timeout: 20_000 });
    const at = { host: HOST, port, user: FILE_USER, secret: FILE_PASSWORD, root: '/' };
    const open = () => openWebDav(at, async () => (await net.secured(await dial(), HOST, null)).socket);
    return { open, root };
  };

  it('that takes no name which begins with a dot gets its files under others meanwhile', async () => {
    const { open, root } = await odd(String.raw`location ~ /\. { deny all; }`);
    const file = await open();
    expect(await file.read('/robots.txt')).toBeNull();
    await file.write('/robots.txt', Buffer.from('Disallow: /sheds/'), 'nonce');
    expect(readFileSync(join(root, 'robots.txt'), 'utf8')).toBe('Disallow: /sheds/');
    expect(readdirSync(root)).toEqual(['robots.txt']);
    await file.close();
  });

  it('that speaks no TLS is told so, and gets no password', async () => {
    const { open } = await odd('', 'plain');
    await expect(open().then((file) => file.read('/robots.txt'))).rejects.toMatchObject({
      kind: 'refused',
      message: expect.stringMatching(/answers without TLS.*nothing was sent/u) as string,
    });
  });
});
