import { createTransport } from 'nodemailer';

/** How mail goes out: by the operator's own server, which is not judged as addresses of strangers are. */
export interface MailSettings {
  readonly host: string | null;
  readonly port: number;
  /** RFC 3207, RFC 8314, or in the clear to a server on the same machine. */
  readonly security: 'starttls' | 'implicit' | 'none';
  readonly user: string | null;
  /** The environment variable that holds the password. */
  readonly passwordFrom: string;
  readonly from: string;
}

export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  /** The same on every try, so that a server or a reader may know it again (RFC 5322 §3.6.4). */
  readonly id: string;
  readonly headers?: Readonly<Record<string, string>>;
  /** Files that go with it. */
  readonly attachments?: readonly {
    readonly filename: string;
    readonly content: string;
    readonly contentType: string;
  }[];
}

/** What came of one try: whether it was taken, refused for good, or may be tried again. */
export type Sent =
  | { readonly kind: 'taken' }
  | { readonly kind: 'refused'; readonly says: string }
  | { readonly kind: 'again'; readonly says: string };

/** Replies about signing in (RFC 4954 §6). */
const SIGN_IN: ReadonlySet<number> = new Set([530, 534, 535, 538]);
const PATIENCE_MS = 20_000;

/** Sends mail. Only made where the settings name a server. */
export class Mailer {
  private readonly transport: ReturnType<typeof createTransport>;

  constructor(
    private readonly settings: MailSettings,
    env: NodeJS.ProcessEnv,
    /** The names of the certificates' authority, where it is none that everybody knows. */
    ca: string | null,
  ) {
    const { host, port, security, user, passwordFrom } = settings;
    this.transport = createTransport({
      host: host ?? '127.0.0.1',
      port,
      secure: security === 'implicit',
      requireTLS: security === 'starttls',
      ignoreTLS: security === 'none',
      ...(user === null ? {} : { auth: { user, pass: env[passwordFrom] ?? '' } }),
      ...(ca === null ? {} : { tls: { ca } }),
      connectionTimeout: PATIENCE_MS,
      greetingTimeout: PATIENCE_MS,
      socketTimeout: PATIENCE_MS,
      disableFileAccess: true,
      disableUrlAccess: true,
    });
  }

  async send({ to, subject, text, html, id, headers, attachments = [] }: Mail): Promise<Sent> {
    try {
      await this.transport.sendMail({
        from: this.settings.from,
        // One address as it is: nothing in it is taken for more of them.
        to: { name: '', address: to },
        ...{ subject, text, html, attachments: [...attachments] },
        messageId: `<${id}@yardbadge>`,
        headers: { 'Auto-Submitted': 'auto-generated', ...headers },
      });
      return { kind: 'taken' };
    } catch (error) {
      const { responseCode, message } = error as Error & { responseCode?: number };
      // A reply from 500 on is for good (RFC 5321 §4.2.1); but a sign-in that failed is the operator's to mend.
      const isForGood = responseCode !== undefined && responseCode >= 500 && !SIGN_IN.has(responseCode);
      return { kind: isForGood ? 'refused' : 'again', says: message.slice(0, 300) };
    }
  }

  close(): void {
    this.transport.close();
  }
}
