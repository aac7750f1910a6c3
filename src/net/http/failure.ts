import type { ReachFailure } from '../../core/badge/probe/evidence.js';

const BY_CODE: Readonly<Record<string, ReachFailure>> = {
  ECONNREFUSED: 'refused',
  EHOSTUNREACH: 'unreachable',
  ENETUNREACH: 'unreachable',
  EADDRNOTAVAIL: 'unreachable',
  ETIMEDOUT: 'timed-out',
  UND_ERR_CONNECT_TIMEOUT: 'timed-out',
  UND_ERR_HEADERS_TIMEOUT: 'timed-out',
  UND_ERR_BODY_TIMEOUT: 'timed-out',
  ECONNRESET: 'cut',
  EPIPE: 'cut',
  UND_ERR_SOCKET: 'cut',
  UND_ERR_RES_CONTENT_LENGTH_MISMATCH: 'cut',
  CERT_HAS_EXPIRED: 'tls-expired',
  ERR_TLS_CERT_ALTNAME_INVALID: 'tls-name',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'tls-self-signed',
  SELF_SIGNED_CERT_IN_CHAIN: 'tls-untrusted',
  // The server sent its own certificate alone, or not as far as an authority that we know.
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'tls-chain',
  UNABLE_TO_GET_ISSUER_CERT: 'tls-chain',
  UNABLE_TO_GET_ISSUER_CERT_LOCALLY: 'tls-chain',
  CERT_UNTRUSTED: 'tls-untrusted',
  UND_ERR_HEADERS_OVERFLOW: 'headers-too-large',
  HPE_HEADER_OVERFLOW: 'headers-too-large',
};

export interface Failed {
  readonly failure: ReachFailure;
  readonly detail: string;
}

/** Tells what kind of failure an error of the network is. Never throws; what is unknown counts as a cut connection. */
export function classify(error: unknown): Failed {
  const detail = error instanceof Error ? error.message : String(error);
  if (error instanceof Error && (error.name === 'TimeoutError' || error.name === 'AbortError'))
    return { failure: 'timed-out', detail };
  const code = codeOf(error);
  const known = BY_CODE[code];
  if (known) return { failure: known, detail };
  if (code.startsWith('HPE_')) return { failure: 'not-http', detail };
  if (code === 'EPROTO' || code.startsWith('ERR_SSL')) return { failure: 'tls-failed', detail };
  return { failure: 'cut', detail };
}

function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  if ('code' in error && typeof error.code === 'string') return error.code;
  return 'cause' in error ? codeOf(error.cause) : '';
}
