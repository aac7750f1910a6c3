import { createHash, createHmac } from 'node:crypto';
import type { Mail, Mailer } from '../../net/mail.js';
import { nowText, type Desk } from '../context/desk.js';
import { hookOf, type HookValues } from './hooks.js';
import { dueMessages, settleMessage, type MessageValues } from './messages.js';

/** Messages that are sent in one go. */
const AT_ONCE = 20;

interface Fault {
  readonly says: string;
  readonly isForGood: boolean;
}

/** Sends what is written down, and writes down what came of it. What may have been sent before goes out under the same identifier. */
export class Sender {
  /** @param mailer null where the settings name no mail server */
  constructor(
    private readonly desk: Desk,
    private readonly mailer: Mailer | null,
    private readonly source: string,
  ) {}

  get hasMail(): boolean {
    return this.mailer !== null;
  }

  async sendDue(): Promise<void> {
    for (const message of await dueMessages(this.desk, AT_ONCE)) {
      const fault = await (message.way === 'mail' ? this.mail(message) : this.hook(message));
      await settleMessage(this.desk, message, fault);
    }
  }

  close(): void {
    this.mailer?.close();
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
    const hook = await hookOf(this.desk, message.hookId ?? '');
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

  private signed(hook: HookValues, body: string): Record<string, string> {
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
