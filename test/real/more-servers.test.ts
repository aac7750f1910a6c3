import { randomUUID } from 'node:crypto';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { updateZone, type TsigKey } from '../../src/net/targets/dns-update.js';
import { openFtps } from '../../src/net/targets/ftps.js';
import { secure } from '../../src/net/targets/secured.js';
import { openSftp } from '../../src/net/targets/sftp.js';
import type { FileTarget } from '../../src/net/targets/file-target.js';
import { openWebDav } from '../../src/net/targets/webdav.js';
import { ask } from '../../src/net/dns/query.js';
import { txtRecords } from '../../src/net/dns/records.js';
import { machineClock } from '../../src/net/time/machine-clock.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { removed } from '../support/removed.js';
import { FILE_PASSWORD, FILE_USER, sshKeys } from './file-servers.js';
import {
  isThere,
  serveDropbear,
  serveLighttpd,
  serveNamed,
  servePureFtpd,
  serveVsftpd,
} from './more-servers.js';
import { freePort, Programs } from './programs.js';

const HOST = 'quay.example';
const folder = mkdtempSync(join(tmpdir(), 'yardbadge-more-servers-'));
const programs = new Programs();
const undo: (() => void)[] = [];

beforeAll(async () => {
  const authority = await Authority.open(folder, machineClock);
  const { cert, key } = await authority.issue([HOST], 'self-signed');
  writeFileSync(join(folder, 'cert.pem'), cert);
  writeFileSync(join(folder, 'key.pem'), key);
});
afterAll(async () => {
  await programs.stop();
  for (const one of undo) one();
  await removed(folder);
});

/** A server's own folder with a certificate, the web root in it, and its port. */
async function grounds(): Promise<{ home: string; root: string; port: number; dial: () => Promise<Socket> }> {
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-server-'));
  chmodSync(home, 0o755);
  undo.push(() => void removed(home));
  const root = join(home, 'www');
  mkdirSync(root);
  for (const file of ['cert.pem', 'key.pem'])
    writeFileSync(join(home, file), readFileSync(join(folder, file)));
  const port = await freePort();
  const dial = () =>
    new Promise<Socket>((done, fail) => {
      const socket = connect(port, '127.0.0.1', () => {
        done(socket);
      }).on('error', fail);
    });
  return { home, root, port, dial };
}

type Grounds = Awaited<ReturnType<typeof grounds>>;
const ready = ({ dial }: Grounds) =>
  vi.waitFor(async () => (await dial()).destroy(), { timeout: 20_000, interval: 100 });
const secured = (socket: Socket) => secure(socket, HOST, null, null);

/** Servers of files by their names: how each is started, and how a web root at it is opened. */
const OPENED: Readonly<
  Record<'pure-ftpd' | 'vsftpd' | 'lighttpd' | 'dropbear', (at: Grounds) => Promise<FileTarget>>
> = {
  'pure-ftpd': async (at) => {
    servePureFtpd(programs, at.home, at.port, at.root);
    await ready(at);
    return openFtps(
      await at.dial(),
      { host: HOST, user: FILE_USER, secret: FILE_PASSWORD, root: '/' },
      secured,
    );
  },
  vsftpd: async (at) => {
    undo.push(serveVsftpd(programs, at.home, at.port, at.root));
    await ready(at);
    return openFtps(
      await at.dial(),
      { host: HOST, user: FILE_USER, secret: FILE_PASSWORD, root: '/' },
      secured,
    );
  },
  lighttpd: async (at) => {
    serveLighttpd(programs, at.home, at.port, at.root);
    await ready(at);
    return openWebDav(
      { host: HOST, port: at.port, user: FILE_USER, secret: FILE_PASSWORD, root: '/' },
      async () => (await secured(await at.dial())).socket,
    );
  },
  dropbear: async (at) => {
    sshKeys(folder, ['login']);
    const { user, undo: away } = serveDropbear(programs, at.home, at.port, join(folder, 'login'));
    undo.push(away);
    await ready(at);
    const secret = readFileSync(join(folder, 'login'), 'utf8');
    return openSftp(await at.dial(), { user, root: at.root, secret, pin: null }, () => undefined);
  },
};

describe.each(Object.keys(OPENED) as (keyof typeof OPENED)[])('a web root at %s', (name) => {
  it.skipIf(!isThere[name])(
    'is written, read back, replaced and taken away, for a web server to read',
    async () => {
      const at = await grounds();
      const file = await OPENED[name](at);
      const path = '/.well-known/proof.txt';
      // One that refuses names with a dot has no such folder either.
      const place = name === 'pure-ftpd' ? '/proofs/proof.txt' : path;
      expect(await file.read(place)).toBeNull();
      await file.write(place, Buffer.from('one'), randomUUID());
      await file.write(place, Buffer.from('two'), randomUUID());
      expect((await file.read(place))?.toString()).toBe('two');
      expect(statSync(join(at.root, place)).mode & 0o004).toBe(0o004);
      expect(statSync(join(at.root, place, '..')).mode & 0o005).toBe(0o005);
      expect(readdirSync(join(at.root, place, '..'))).toEqual(['proof.txt']);
      await file.remove(place);
      expect(await file.read(place)).toBeNull();
      await file.close();
    },
  );
});

describe.each(['hmac-sha256', 'hmac-sha384', 'hmac-sha512'] as const)('a zone at BIND by %s', (algorithm) => {
  it.skipIf(!isThere.named)('takes a record beside others, and gives it up again', async () => {
    const at = await grounds();
    const secret = Buffer.from('lantern-at-the-quay-lantern-at-the-quay');
    const key: TsigKey = { name: 'yard', algorithm, secret };
    serveNamed(programs, at.home, at.port, {
      name: HOST,
      records: '@ SOA ns1 hostmaster 1 7200 600 86400 45\n@ NS ns1\nns1 A 192.0.2.53\n@ TXT "v=spf1 -all"',
      key: key.name,
      algorithm,
      secret,
    });
    await ready(at);
    const there = async () =>
      txtRecords(await ask({ host: '127.0.0.1', port: at.port }, HOST, 'TXT', 5_000, false)).map(
        ({ value }) => value,
      );
    await vi.waitFor(async () => {
      expect(await there()).toEqual(['v=spf1 -all']);
    });
    const change = async (act: 'add' | 'remove', by = key) => {
      await updateZone(
        await at.dial(),
        HOST,
        [{ act, name: HOST, value: 'ours', ttl: 60 }],
        by,
        machineClock.now(),
      );
    };
    await change('add');
    expect((await there()).sort()).toEqual(['ours', 'v=spf1 -all']);
    await expect(
      change('remove', { ...key, secret: Buffer.from('another-key-another-key') }),
    ).rejects.toMatchObject({
      kind: 'denied',
    });
    await change('remove');
    expect(await there()).toEqual(['v=spf1 -all']);
  });
});
