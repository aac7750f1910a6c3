import type { PeerCertificate, TLSSocket } from 'node:tls';
import type { CertificateSeen } from '../../core/badge/probe/evidence.js';

/** The certificate that the other side of a connection showed; null where it showed none that can be read. */
export function certificateOf(socket: TLSSocket): CertificateSeen | null {
  const shown: Partial<PeerCertificate> = socket.getPeerCertificate();
  if (shown.valid_from === undefined || shown.valid_to === undefined) return null;
  return {
    subject: nameOf(shown.subject),
    issuer: nameOf(shown.issuer),
    names: (shown.subjectaltname ?? '')
      .split(', ')
      .flatMap((one) => (one.startsWith('DNS:') ? [one.slice(4)] : [])),
    validFrom: timeOf(shown.valid_from),
    validUntil: timeOf(shown.valid_to),
  };
}

/** What is wrong with the certificate, as the error that would have ended the handshake; null where nothing is. */
export function judgeCertificate(socket: TLSSocket): Error | null {
  if (socket.authorized) return null;
  const reason = socket.authorizationError as Error | string | undefined;
  if (reason instanceof Error) return reason;
  return Object.assign(new Error(String(reason)), { code: String(reason) });
}

function nameOf(name: PeerCertificate['subject'] | undefined): string {
  const parts = [name?.CN, name?.O].flat().filter((part) => part !== undefined);
  return parts.length === 0 ? 'no name' : parts.join(', ');
}

function timeOf(text: string): string {
  const time = new Date(text);
  return Number.isNaN(time.getTime()) ? text : time.toISOString();
}
