import 'reflect-metadata';
import { webcrypto } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as x509 from '@peculiar/x509';
import { machineClock } from '../net/time/machine-clock.js';
import type { CertificateKind, WorldFile } from './state.js';

type Clock = Pick<WorldFile, 'now'>;

const SIGNING = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };
const DAY_MS = 24 * 3600 * 1000;
const YEAR_MS = 365 * DAY_MS;

/**
 * How long a certificate is good. Two clocks judge it: who connects judges by the machine's, who reads its dates by the one
 * that is shown; what is good or over is so by both, and what ends soon does so by the one that is shown.
 */
function validity(kind: CertificateKind, shown: Date): { notBefore: Date; notAfter: Date } {
  const machine = machineClock.now().getTime();
  const earlier = Math.min(machine, shown.getTime());
  const later = Math.max(machine, shown.getTime());
  const until = { expired: earlier - DAY_MS, 'ends-soon': shown.getTime() + 9 * DAY_MS };
  const notAfter = kind === 'expired' || kind === 'ends-soon' ? until[kind] : later + YEAR_MS;
  return { notBefore: new Date(earlier - YEAR_MS), notAfter: new Date(notAfter) };
}

type CryptoKey = webcrypto.CryptoKey;
type CryptoKeyPair = webcrypto.CryptoKeyPair;

x509.cryptoProvider.set(webcrypto as never);

export interface Certificate {
  readonly cert: string;
  readonly key: string;
}

async function pem(key: CryptoKey): Promise<string> {
  return x509.PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), 'PRIVATE KEY');
}

async function makeKeys(): Promise<CryptoKeyPair> {
  return (await webcrypto.subtle.generateKey(SIGNING, true, ['sign', 'verify'])) as CryptoKeyPair;
}

/** The rehearsal's own certificate authority (RFC 5280), kept in its folder so that a restart changes nothing. */
export class Authority {
  private constructor(
    readonly certificate: x509.X509Certificate,
    private readonly key: CryptoKey,
    private readonly clock: Clock,
  ) {}

  /** @param clock the one that is shown: certificates are dated by it */
  static async open(folder: string, clock: Clock): Promise<Authority> {
    const certFile = join(folder, 'ca.pem');
    const keyFile = join(folder, 'ca-key.pem');
    if (existsSync(certFile) && existsSync(keyFile)) {
      const der = x509.PemConverter.decodeFirst(readFileSync(keyFile, 'utf8'));
      const key = await webcrypto.subtle.importKey('pkcs8', der, SIGNING, true, ['sign']);
      return new Authority(new x509.X509Certificate(readFileSync(certFile, 'utf8')), key as CryptoKey, clock);
    }
    const keys = await makeKeys();
    const certificate = await selfSigned('CN=Rehearsal Authority, O=Harbour Rehearsal', keys, clock);
    writeFileSync(certFile, certificate.toString('pem'));
    writeFileSync(keyFile, await pem(keys.privateKey), { mode: 0o600 });
    return new Authority(certificate, keys.privateKey, clock);
  }

  /** A certificate for host names, good or with what is wrong with many a one. */
  async issue(hosts: readonly string[], kind: CertificateKind = 'good'): Promise<Certificate> {
    const keys = await makeKeys();
    const own = { subject: `CN=${hosts[0] ?? 'nobody'}`, key: keys.privateKey };
    const signer = await this.signerFor(kind, own);
    const named = kind === 'other-name' ? ['parking.harbour-hosting.example'] : hosts;
    const certificate = await x509.X509CertificateGenerator.create({
      serialNumber: serial(),
      subject: own.subject,
      issuer: signer.subject,
      ...validity(kind, this.clock.now()),
      signingAlgorithm: SIGNING,
      publicKey: keys.publicKey,
      signingKey: signer.key,
      extensions: [
        new x509.SubjectAlternativeNameExtension(named.map((value) => ({ type: 'dns' as const, value }))),
      ],
    });
    return { cert: `${certificate.toString('pem')}\n${signer.sent ?? ''}`, key: await pem(keys.privateKey) };
  }

  /** Who signs: this authority, the certificate itself, one below this authority whose own is not sent, or a stranger. */
  private async signerFor(kind: CertificateKind, own: Signer): Promise<Signer> {
    if (kind === 'self-signed') return own;
    if (kind !== 'no-chain' && kind !== 'unknown')
      return { subject: this.certificate.subject, key: this.key };
    const keys = await makeKeys();
    const subject =
      kind === 'unknown' ? 'CN=Nobody Knows Us, O=Fog Bank' : 'CN=Rehearsal Middle, O=Harbour Rehearsal';
    if (kind === 'no-chain') return { subject, key: keys.privateKey };
    const root = await selfSigned(subject, keys, this.clock);
    return { subject, key: keys.privateKey, sent: root.toString('pem') };
  }
}

interface Signer {
  readonly subject: string;
  readonly key: CryptoKey;
  /** The signer's own certificate, where it is sent along. */
  readonly sent?: string;
}

function serial(): string {
  return Buffer.from(webcrypto.getRandomValues(new Uint8Array(8))).toString('hex');
}

function selfSigned(name: string, keys: CryptoKeyPair, clock: Clock): Promise<x509.X509Certificate> {
  return x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: '01',
    name,
    notBefore: validity('good', clock.now()).notBefore,
    notAfter: new Date(validity('good', clock.now()).notAfter.getTime() + 9 * YEAR_MS),
    signingAlgorithm: SIGNING,
    keys,
    extensions: [
      new x509.BasicConstraintsExtension(true, 1, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
    ],
  });
}
