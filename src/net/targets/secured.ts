import { X509Certificate } from 'node:crypto';
import type { Socket } from 'node:net';
import { connect, type TLSSocket } from 'node:tls';
import { isIP } from 'node:net';
import { TargetFault } from './file-target.js';

/** Milliseconds for the handshake. */
const PATIENCE_MS = 20_000;

/** What the TLS library says of an answer that is none of TLS. */
const ANSWERED_PLAINLY = /wrong version number|packet length too long|http request|unknown protocol/iu;

/** A connection under TLS, and the certificate by which the other side was known. */
export interface Secured {
  readonly socket: TLSSocket;
  /** Its fingerprint (SHA-256), as people compare it. */
  readonly shown: string;
  /** The certificate itself, for further connections to the same server. */
  readonly certificate: X509Certificate;
}

/**
 * Puts TLS over a connection. The certificate is that which was pinned; or another one, if an authority that is known vouches for it, as
 * when it was renewed. What is shown at first use is taken, since small hosts vouch for themselves.
 * @param ca authorities beside those that everybody knows, as PEM
 * @param pin the fingerprint that was shown before; null at first use
 * @throws CarryFault
 */
export async function secure(
  socket: Socket,
  host: string,
  pin: string | null,
  ca: string | null,
): Promise<Secured> {
  const secured = await new Promise<TLSSocket>((done, fail) => {
    const over = connect({
      socket,
      ...(isIP(host) === 0 ? { servername: host } : {}),
      host,
      minVersion: 'TLSv1.2',
      rejectUnauthorized: false,
      ...(ca === null ? {} : { ca }),
    });
    over.setTimeout(PATIENCE_MS, () => {
      over.destroy(new Error('no answer in time'));
    });
    over.once('error', (error) => {
      fail(
        ANSWERED_PLAINLY.test(error.message)
          ? new TargetFault(
              'refused',
              `${host} answers without TLS at this port. Without it anybody on the way could read the password, so nothing was sent. Expected the port for TLS (443 for WebDAV), or TLS switched on there.`,
            )
          : new TargetFault('unreached', `No encrypted connection came about: ${error.message}`),
      );
    });
    over.once('close', () => {
      fail(new TargetFault('unreached', 'The connection ended before it was encrypted.'));
    });
    over.once('secureConnect', () => {
      over.setTimeout(0);
      over.removeAllListeners('timeout').removeAllListeners('error').removeAllListeners('close');
      // Whoever takes it on listens for itself; what comes before that is an end like any other.
      over.on('error', () => undefined);
      done(over);
    });
  });
  const { raw } = secured.getPeerCertificate() as { raw?: Buffer };
  if (!raw) {
    secured.destroy();
    throw new TargetFault('unreached', 'The server shows no certificate.');
  }
  const certificate = new X509Certificate(raw);
  const shown = `SHA256:${certificate.fingerprint256}`;
  if (pin !== null && pin !== shown && !secured.authorized) {
    secured.destroy();
    throw new TargetFault(
      'other-key',
      `The server shows another certificate (${shown}) than before (${pin}), and no known authority vouches for it. Nothing was sent.`,
      shown,
    );
  }
  return { socket: secured, shown, certificate };
}
