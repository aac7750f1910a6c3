import type { Socket } from 'node:net';

/** How long one address has before the next is tried beside it (RFC 8305 §5: 250 milliseconds are advised). */
const ATTEMPT_DELAY_MS = 250;

export interface Connected {
  readonly address: string;
  readonly socket: Socket;
}

/**
 * Connects to the first of several addresses that answers: they are tried in turn, the next as soon as one failed or is slow.
 * @param open begins to connect to one
 * @param signal ends all that is under way
 * @throws the error of the first address, where none answers
 */
export function firstConnected(
  addresses: readonly string[],
  open: (address: string) => Socket,
  signal: AbortSignal,
): Promise<Connected> {
  return new Promise((resolve, reject) => {
    const under = new Map<Socket, string>();
    const waiting = [...addresses];
    let firstError: Error | null = null;
    let next: NodeJS.Timeout | undefined;

    const end = (kept: Socket | null) => {
      clearTimeout(next);
      signal.removeEventListener('abort', abort);
      for (const socket of under.keys()) if (socket !== kept) socket.destroy();
    };
    const abort = () => {
      end(null);
      reject(signal.reason as Error);
    };
    const tryNext = () => {
      clearTimeout(next);
      const address = waiting.shift();
      if (address === undefined) {
        if (under.size > 0) return;
        end(null);
        reject(firstError ?? new Error('there is no address to connect to'));
        return;
      }
      const socket = open(address);
      under.set(socket, address);
      socket.once('connect', () => {
        end(socket);
        socket.removeListener('error', failed);
        resolve({ address, socket });
      });
      const failed = (error: Error) => {
        // One that lost still tells of its end; nobody listens any more.
        socket.on('error', () => undefined);
        under.delete(socket);
        firstError ??= error;
        tryNext();
      };
      socket.once('error', failed);
      if (waiting.length > 0) next = setTimeout(tryNext, ATTEMPT_DELAY_MS);
    };

    signal.addEventListener('abort', abort, { once: true });
    tryNext();
  });
}
