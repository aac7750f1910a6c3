import { webcrypto } from 'node:crypto';
import type { Socket } from 'node:net';
import { createServer, type TlsOptions } from 'node:tls';
import * as x509 from '@peculiar/x509';
import { HOST } from './site.js';

/** What a server does with a connection at the port for HTTPS (RFC 8446). */
type Behaviour = (socket: Socket) => void;
export type TlsCase = readonly [what: string, behave: () => Promise<Behaviour> | Behaviour];

/** The heads of records: type, version, length (RFC 8446 §5.1). */
const HANDSHAKE = 0x16;
const ALERT = 0x15;
const CHANGE = 0x14;
const DATA = 0x17;

function record(type: number, body: Buffer, length = body.length): Buffer {
  const head = Buffer.from([type, 3, 3, 0, 0]);
  head.writeUInt16BE(length, 3);
  return Buffer.concat([head, body]);
}

/** Sends some bytes once the other side has said hello, then ends, unless it is to go on listening. */
function after(hello: Buffer, { end = true } = {}): Behaviour {
  return (socket) => {
    socket.once('data', () => {
      socket.write(hello);
      if (end) socket.end();
    });
  };
}

/** Sends the same piece as long as the other side takes it. */
function endless(piece: Buffer): Behaviour {
  return (socket) => {
    const more = (): void => {
      while (!socket.destroyed && socket.write(piece));
    };
    socket.on('drain', more);
    socket.once('data', more);
  };
}

/** A server that speaks TLS as it should, with a certificate and a page. */
function speaking(options: TlsOptions, page = '<!doctype html><title>Quay</title>'): Behaviour {
  const server = createServer(options, (socket) => {
    socket.on('error', () => undefined);
    socket.once('data', () => {
      socket.end(`HTTP/1.1 200 OK\r\ncontent-type: text/html\r\nconnection: close\r\n\r\n${page}`);
    });
  });
  server.on('tlsClientError', () => undefined);
  return (socket) => void server.emit('connection', socket);
}

const SIGNING = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };

interface Wrong {
  readonly subject?: string;
  readonly names?: readonly string[];
  readonly from?: string;
  readonly until?: string;
}

/** A certificate that signs itself, with whatever is wrong with it. */
async function selfSigned({ subject = `CN=${HOST}`, names = [HOST], ...times }: Wrong): Promise<TlsOptions> {
  x509.cryptoProvider.set(webcrypto as never);
  const keys = (await webcrypto.subtle.generateKey(SIGNING, true, [
    'sign',
    'verify',
  ])) as webcrypto.CryptoKeyPair;
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: '01',
    name: subject,
    notBefore: new Date(times.from ?? '2020-01-01T00:00:00Z'),
    notAfter: new Date(times.until ?? '2045-01-01T00:00:00Z'),
    signingAlgorithm: SIGNING,
    keys,
    extensions: [
      new x509.SubjectAlternativeNameExtension(names.map((value) => ({ type: 'dns' as const, value }))),
    ],
  });
  const pkcs8 = await webcrypto.subtle.exportKey('pkcs8', keys.privateKey);
  return { cert: certificate.toString('pem'), key: x509.PemConverter.encode(pkcs8, 'PRIVATE KEY') };
}

const certified = (what: string, wrong: Wrong): TlsCase => [
  `a certificate ${what}`,
  async () => speaking(await selfSigned(wrong)),
];
const many = (count: number) => Array.from({ length: count }, (_, at) => `n${String(at)}.${HOST}`);

export const TLS: readonly TlsCase[] = [
  ['nothing at all, and the connection kept', () => () => undefined],
  ['an end at once', () => (socket) => socket.end()],
  ['a reset at once', () => (socket) => socket.resetAndDestroy()],
  ['an end after the hello', () => after(Buffer.alloc(0))],
  ['a page without TLS', () => after(Buffer.from('HTTP/1.1 200 OK\r\ncontent-length: 2\r\n\r\nhi'))],
  ['a banner of another service', () => (socket) => socket.write('220 mail.quay.example ESMTP\r\n')],
  ['bytes that mean nothing', () => after(Buffer.alloc(4_096, 0xa5))],
  ['bytes that mean nothing, without end', () => endless(Buffer.alloc(65_536, 0xa5))],
  ['an alert', () => after(record(ALERT, Buffer.from([2, 40])))],
  ['an alert of a kind that is none', () => after(record(ALERT, Buffer.from([9, 255])))],
  ['warnings without end', () => endless(record(ALERT, Buffer.from([1, 90])))],
  ['a hello without a body', () => after(record(HANDSHAKE, Buffer.alloc(0)))],
  [
    'a hello of sixteen megabytes, announced',
    () => after(record(HANDSHAKE, Buffer.from([2, 255, 255, 255])), { end: false }),
  ],
  ['a hello that is cut', () => after(record(HANDSHAKE, Buffer.from([2, 0, 0, 80, 3, 3]), 16_000))],
  ['hellos without end', () => endless(record(HANDSHAKE, Buffer.alloc(16_000)))],
  [
    'a hello of a version that is none',
    () => after(record(HANDSHAKE, Buffer.concat([Buffer.from([2, 0, 0, 38, 9, 9]), Buffer.alloc(36)]))),
  ],
  ['a record that is too long', () => after(record(DATA, Buffer.alloc(65_535)))],
  ['changes of the cipher without end', () => endless(record(CHANGE, Buffer.from([1])))],
  ['data before the handshake', () => after(record(DATA, Buffer.from('hello')))],
  [
    'no cipher in common',
    async () => speaking({ ...(await selfSigned({})), ciphers: 'AES256-SHA', maxVersion: 'TLSv1.2' }),
  ],
  [
    'an old version alone',
    async () =>
      speaking({
        ...(await selfSigned({})),
        minVersion: 'TLSv1',
        maxVersion: 'TLSv1.1',
        ciphers: 'DEFAULT@SECLEVEL=0',
      }),
  ],
  ['no certificate', () => speaking({})],
  certified('that signs itself', {}),
  certified('over since 1970', { from: '1960-01-01T00:00:00Z', until: '1970-01-01T00:00:00Z' }),
  certified('that begins in 9998', { from: '9998-01-01T00:00:00Z', until: '9999-01-01T00:00:00Z' }),
  certified('that ends before it begins', { from: '2040-01-01T00:00:00Z', until: '2030-01-01T00:00:00Z' }),
  certified('for a thousand names', { names: many(1_000) }),
  certified('for a name in another house', { names: ['elsewhere.example'] }),
  certified('for every name', { names: ['*'] }),
  certified('for names that are none', {
    names: ['', '.', 'a'.repeat(2_000), 'quay.example\u0000.evil.example'],
  }),
  certified('for a name with marks for a terminal', {
    names: ['\u001b[2Jquay.example'],
    subject: 'CN=\u001b]0;owned\u0007',
  }),
  certified('of a subject of kilobytes', {
    subject: `CN=${'x'.repeat(60)}, ${Array(400).fill('OU=Fog Bank').join(', ')}`,
  }),
];
