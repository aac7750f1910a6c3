import { createHash, createHmac } from 'node:crypto';
import type { Mail, Mailer } from '../../net/mail.js';
import { nowText, type Desk } from '../context/desk.js';
import { webhookOf, type WebhookValues } from './webhooks.js';
import { dueForPrograms, dueMails, settleMessage, type MessageValues } from '../outbox/messages.js';
import { recordUnsent } from './unsent.js';

/** Mails that are sent in one go, and messages to one program. */
const AT_ONCE = 20;
const AT_ONCE_EACH = 5;

interface Fault {
  readonly says: string;
  readonly isForGood: boolean;
}

/** Sends what is written down, and writes down what came of it. What may have been sent before goes out under the same identifier. */
export class Sender {
  private telling: Promise<void> | null = null;
  private isClosed = false;

  /** @param mailer null where the settings name no mail server */
  constructor(
    private readonly desk: Desk,
    private readonly mailer: Mailer | null,
    private readonly source: string,
    private readonly report: (error: unknown) => void,
  ) {}

  get hasMail(): boolean {
    return this.mailer !== null;
  }

  /** Sends the mails that are due. Programs are told beside that: none of them keeps a mail waiting, nor another program. */
  async sendDue(): Promise<void> {
    this.telling ??= this.tellPrograms()
      .catch(this.report)
      .finally(() => {
        this.telling = null;
      });
    for (const message of await dueMails(this.desk, AT_ONCE))
      await this.settled(message, () => this.mail(message));
    await recordUnsent(this.desk);
  }

  async close(): Promise<void> {
    this.isClosed = true;
    await this.telling;
    this.mailer?.close();
  }

  /** Each program by itself, its messages one after the other, as far as it takes them. */
  private async tellPrograms(): Promise<void> {
    const by = new Map<string, MessageValues[]>();
    for (const message of await dueForPrograms(this.desk, AT_ONCE_EACH)) {
      const key = message.hookId ?? '';
      by.set(key, [...(by.get(key) ?? []), message]);
    }
    await Promise.all(
      [...by.values()].map(async (own) => {
        for (const message of own) {
          if (this.isClosed) return;
          if (!(await this.settled(message, () => this.hook(message)))) return;
        }
      }),
    );
  }

  /** One message, settled whatever comes of it: what cannot even be made ready is a fault of that message alone. */
  private async settled(message: MessageValues, send: () => Promise<Fault | null>): Promise<boolean> {
    let fault: Fault | null;
    try {
      // Another that has taken the records over sends it itself.
      await this.desk.store.requireHeld();
      fault = await send();
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      fault = { says: `It could not be made ready to be sent: ${why}`, isForGood: false };
    }
    await settleMessage(this.desk, message, fault);
    return fault === null;
  }

  private async mail({ id, sentTo, subject, body }: MessageValues): Promise<Fault | null> {
    if (!this.mailer) return { says: 'The settings name no mail server (mail.host).', isForGood: false };
    const { text, html, headers, attachments } = JSON.parse(body) as Omit<Mail, 'to' | 'subject' | 'id'>;
    const mail = {
      to: sentTo,
      subject,
      text,
      html,
      id,
      ...(headers ? { headers } : {}),
      ...(attachments ? { attachments } : {}),
    };
    const sent = await this.mailer.send(mail);
    return sent.kind === 'taken' ? null : { says: sent.says, isForGood: sent.kind === 'refused' };
  }

  /** CloudEvents 1.0 in structured mode, signed as RFC 9421 has it over the digest of the body (RFC 9530) and the time. */
  private async hook(message: MessageValues): Promise<Fault | null> {
    const hook = await webhookOf(this.desk, message.hookId ?? '');
    if (!hook) return { says: 'Its address was taken off.', isForGood: true };
    const { type, time, data } = JSON.parse(message.body) as { type: string; time: string; data: object };
    const event = {
      specversion: '1.0',
      id: message.id,
      source: this.source,
      type: `yardbadge.${type}`,
      time,
      datacontenttype: 'application/json',
      subject: message.subject,
      data,
    };
    const answer = await this.desk.net.json({
      method: 'POST',
      url: hook.url,
      headers: this.signed(hook, JSON.stringify(event)),
      body: event,
    });
    if (answer.kind === 'failed') return { says: answer.detail, isForGood: false };
    const { status } = answer;
    if (status >= 200 && status < 300) return null;
    return { says: `It answered with status ${String(status)}.`, isForGood: status === 410 };
  }

  private signed(hook: WebhookValues, body: string): Record<string, string> {
    const { vault } = this.desk.book;
    const secret = vault?.open(hook.secret, hook.id, new URL(hook.url).origin) ?? '';
    const type = 'application/cloudevents+json';
    const digest = `sha-256=:${createHash('sha256').update(body).digest('base64')}:`;
    const created = Math.floor(Date.parse(nowText(this.desk)) / 1000);
    const params = `("@method" "@target-uri" "content-type" "content-digest");created=${String(created)};keyid="${hook.id}";alg="hmac-sha256"`;
    const base = [
      '"@method": POST',
      `"@target-uri": ${hook.url}`,
      `"content-type": ${type}`,
      `"content-digest": ${digest}`,
      `"@signature-params": ${params}`,
    ].join('\n');
    return {
      'content-type': type,
      'content-digest': digest,
      'signature-input': `yard=${params}`,
      signature: `yard=:${createHmac('sha256', secret).update(base).digest('base64')}:`,
    };
  }
}
