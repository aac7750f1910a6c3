import 'reflect-metadata';
import { webcrypto } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as x509 from '@peculiar/x509';

const SIGNING = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };
const YEAR_MS = 365 * 24 * 3600 * 1000;

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
  ) {}

  static async open(folder: string): Promise<Authority> {
    const certFile = join(folder, 'ca.pem');
    const keyFile = join(folder, 'ca-key.pem');
    if (existsSync(certFile) && existsSync(keyFile)) {
      const der = x509.PemConverter.decodeFirst(readFileSync(keyFile, 'utf8'));
      const key = await webcrypto.subtle.importKey('pkcs8', der, SIGNING, true, ['sign']);
      return new Authority(new x509.X509Certificate(readFileSync(certFile, 'utf8')), key as CryptoKey);
    }
    const keys = await makeKeys();
    const certificate = await x509.X509CertificateGenerator.createSelfSigned({
      serialNumber: '01',
      name: 'CN=Rehearsal Authority, O=Harbour Rehearsal',
      notBefore: new Date(Date.now() - YEAR_MS),
      notAfter: new Date(Date.now() + 10 * YEAR_MS),
      signingAlgorithm: SIGNING,
      keys,
      extensions: [
        new x509.BasicConstraintsExtension(true, 1, true),
        new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
      ],
    });
    writeFileSync(certFile, certificate.toString('pem'));
    writeFileSync(keyFile, await pem(keys.privateKey), { mode: 0o600 });
    return new Authority(certificate, keys.privateKey);
  }

  /** A certificate for host names. @param expired makes one that ran out yesterday */
  async issue(hosts: readonly string[], options: { expired?: boolean } = {}): Promise<Certificate> {
    const keys = await makeKeys();
    const serial = Buffer.from(webcrypto.getRandomValues(new Uint8Array(8))).toString('hex');
    const certificate = await x509.X509CertificateGenerator.create({
      serialNumber: serial,
      subject: `CN=${hosts[0] ?? 'nobody'}`,
      issuer: this.certificate.subject,
      notBefore: new Date(Date.now() - YEAR_MS),
      notAfter: new Date(Date.now() + (options.expired === true ? -24 * 3600 * 1000 : YEAR_MS)),
      signingAlgorithm: SIGNING,
      publicKey: keys.publicKey,
      signingKey: this.key,
      extensions: [
        new x509.SubjectAlternativeNameExtension(hosts.map((value) => ({ type: 'dns' as const, value }))),
      ],
    });
    return { cert: certificate.toString('pem'), key: await pem(keys.privateKey) };
  }
}
