import type { Socket } from 'node:net';

export const HOST = 'quay.example';

/** What a website, or an engine, answers at a path. */
export interface WebAnswer {
  readonly status?: number;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: string | Buffer;
  /** In place of all that: whatever is written to the bare connection. */
  readonly raw?: (socket: Socket) => void;
}
