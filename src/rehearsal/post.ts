import type { AddressInfo } from 'node:net';
import { createServer } from 'node:http';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { WorldFile } from './state.js';

/** A mail as it came in. */
export interface MailGot {
  readonly at: string;
  readonly id: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  /** The names of the files that came with it. */
  readonly files: readonly string[];
  /** Those that programs act on: `list-…`, and where an answer goes. */
  readonly headers: Readonly<Record<string, string>>;
}

/** A request that somebody's address was told by. */
export interface EventGot {
  readonly at: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string;
}

interface Kept {
  mails: MailGot[];
  events: EventGot[];
}

/** Where the rehearsal's people get their mail, and a program of theirs gets the alerts. */
export interface Post {
  readonly smtp: number;
  readonly hooks: number;
  readonly mails: readonly MailGot[];
  readonly events: readonly EventGot[];
  /** How the next requests to the program are answered: with this status, so many times. */
  refuse(status: number, times: number): void;
  close(): Promise<void>;
}

const MOST_BYTES = 2_000_000;
/** Mails and events that are kept. */
const MOST_KEPT = 2_000;

/** Starts a mail server and a receiver of events, on loopback, that keep what they get. */
export async function startPost(
  folder: string,
  world: WorldFile,
  ports: { readonly smtp: number; readonly hooks: number },
): Promise<Post> {
  const file = join(folder, 'post.json');
  const kept: Kept = existsSync(file)
    ? (JSON.parse(readFileSync(file, 'utf8')) as Kept)
    : { mails: [], events: [] };
  const keep = (): void => {
    for (const list of [kept.mails, kept.events]) list.splice(0, Math.max(0, list.length - MOST_KEPT));
    writeFileSync(file, JSON.stringify(kept, null, 1));
  };
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_BYTES,
    onData(stream, session, done) {
      simpleParser(stream)
        .then((mail) => {
          const id = mail.messageId ?? '';
          // What was cut off before it heard that we have it comes again: the same message (RFC 5322 §3.6.4), shown once.
          if (id !== '' && kept.mails.some((one) => one.id === id)) {
            done();
            return;
          }
          kept.mails.push({
            at: world.now().toISOString(),
            id,
            to: session.envelope.rcptTo.map(({ address }) => address).join(', '),
            subject: mail.subject ?? '',
            text: mail.text ?? '',
            html: mail.html === false ? '' : (mail.html ?? ''),
            files: mail.attachments.map(({ filename = '' }) => filename),
            headers: Object.fromEntries(
              mail.headerLines.flatMap(({ key, line }) =>
                key.startsWith('list-') || key === 'reply-to'
                  ? [[key, line.replace(/^[^:]*:\s*/u, '').replace(/\s+/gu, ' ')]]
                  : [],
              ),
            ),
          });
          keep();
          done();
        })
        .catch((error: unknown) => {
          done(error as Error);
        });
    },
  });
  // Who sends may be gone in the midst of it.
  smtp.on('error', () => undefined);
  const refusing = { status: 500, times: 0 };
  const hooks = createServer((request, response) => {
    let body = '';
    request.setEncoding('utf8');
    request.on('data', (piece: string) => {
      if (body.length < MOST_BYTES) body += piece;
    });
    request.on('end', () => {
      if (refusing.times > 0) {
        refusing.times -= 1;
        response.writeHead(refusing.status).end();
        return;
      }
      const headers = Object.fromEntries(
        Object.entries(request.headers).map(([name, value]) => [name, String(value)]),
      );
      kept.events.push({ at: world.now().toISOString(), headers, body });
      keep();
      response.writeHead(204).end();
    });
  });
  await Promise.all([
    new Promise<void>((done) => smtp.listen(ports.smtp, '127.0.0.1', done)),
    new Promise<void>((done) => hooks.listen(ports.hooks, '127.0.0.1', done)),
  ]);
  return {
    smtp: (smtp.server.address() as AddressInfo).port,
    hooks: (hooks.address() as AddressInfo).port,
    mails: kept.mails,
    events: kept.events,
    refuse(status, times) {
      Object.assign(refusing, { status, times });
    },
    async close() {
      hooks.closeAllConnections();
      await Promise.all([
        new Promise<void>((done) => smtp.close(done)),
        new Promise<void>((done) => hooks.close(() => done())),
      ]);
    },
  };
}
