import type { Transaction } from 'sequelize';
import {
  digest,
  alertMessage,
  newsMessage,
  type AlertMessage,
  type NewsTold,
} from '../../core/alerts/message.js';
import { MINUTE } from '../../core/time/duration.js';
import { nowText, type Desk } from '../context/desk.js';
import { Rounds } from '../context/rounds.js';
import type { Projections } from '../projections/projections.js';
import type { AlertValues } from '../alerts/alerts.js';
import { webhooksNow, type WebhookValues } from './webhooks.js';
import { writeMessage } from '../outbox/messages.js';
import { newsBetween, untoldNews, type NewsRow } from '../outbox/news.js';
import { tellDeletions } from '../handover/steps.js';
import { expireLinks } from '../shared-links/shared-sheets.js';
import { notifyVisits } from '../shared-links/link-visits.js';
import { pageFor } from '../reports/kept-reports.js';
import { dueReports, languageOf, messageFor, moveOn } from '../reports/orders.js';
import { digestDue, recipients, wants, type RecipientValues } from '../outbox/recipients.js';
import type { Sender } from './sender.js';
import { recordServersDown, TOLD_BY_SERVER } from './servers-down.js';
import { recordSwitchedOff } from './switched-off.js';

/** What comes together is told together: so long after the first is waited for the rest. */
const SETTLES = 2 * MINUTE;
/** So many properties at once are a storm: one message in place of as many. */
const STORM_AT_LEAST = 5;
const STORM_SHARE = 0.5;
/** Reports that are made in one go. */
const REPORTS_AT_ONCE = 20;

type Row = AlertValues & {
  readonly handle: string | null;
  readonly client: string | null;
  /** Whether the case of its server tells it to people. */
  readonly isByServer: 0 | 1;
};

const CASES = `SELECT c.*, p.handle AS handle, k.handle AS client, ${TOLD_BY_SERVER} AS isByServer FROM cases c
  LEFT JOIN properties p ON p.id = c.propertyId LEFT JOIN clients k ON k.id = c.clientId`;

/** Turns alerts into messages, each once, and has them sent. */
export class Notifier {
  private readonly rounds: Rounds;
  /** When digests are due, by person, and of what settings that was told. */
  private readonly digests = new Map<string, { readonly of: string; readonly at: Date }>();

  /** @param base where the console is, without a slash at its end */
  constructor(
    private readonly desk: Desk,
    private readonly kept: Projections,
    private readonly sender: Sender,
    private readonly base: string,
    report: (error: unknown) => void,
    /** Milliseconds of real time between two looks at what is due. */
    tickMs: number,
  ) {
    this.rounds = new Rounds(() => this.notify(), report, tickMs);
  }

  start(): void {
    this.rounds.start();
  }

  async stop(): Promise<void> {
    await this.rounds.stop();
    await this.sender.close();
  }

  /** Everything that people are to be notified of now. */
  private async notify(): Promise<void> {
    await recordSwitchedOff(this.desk);
    await recordServersDown(this.desk);
    await this.tellAtOnce();
    await this.tellNews();
    await this.tellDigests();
    await this.tellReports();
    await expireLinks(this.desk);
    await notifyVisits(this.desk, this.base);
    await tellDeletions(this.desk);
    await this.sender.sendDue();
  }

  private async tellAtOnce(): Promise<void> {
    const { desk } = this;
    const now = desk.clock.now();
    const settled = new Date(now.getTime() - SETTLES).toISOString();
    const [any] = await desk.store.select(
      `SELECT 1 FROM cases WHERE (toldAt IS NULL AND openedAt <= $settled)
          OR (endedAt IS NOT NULL AND endToldAt IS NULL AND endedAt <= $settled) LIMIT 1`,
      { settled },
    );
    if (!any) return;
    const [people, hooks] = await Promise.all([recipients(desk), webhooksNow(desk)]);
    await desk.store.writeQuietly(async (transaction) => {
      const opened = await desk.store.select<Row>(
        `${CASES} WHERE c.toldAt IS NULL AND c.openedAt <= $settled ORDER BY c.openedAt, c.id`,
        { settled },
        transaction,
      );
      const over = await desk.store.select<Row>(
        `${CASES} WHERE c.endedAt IS NOT NULL AND c.endToldAt IS NULL AND c.endedAt <= $settled ORDER BY c.endedAt, c.id`,
        { settled },
        transaction,
      );
      // What was over before it was told is told by nobody.
      const news = opened.filter(({ atOnce, endedAt }) => atOnce === 1 && endedAt === null);
      const ends = over.filter(
        ({ atOnce, mended, toldAt }) => atOnce === 1 && mended === 1 && toldAt !== null,
      );
      const groups = [
        ...(await this.gathered(news, transaction)).map((some) => ({ some, isOver: false })),
        ...(await this.gathered(ends, transaction)).map((some) => ({ some, isOver: true })),
      ];
      for (const { some, isOver } of groups) await this.put(some, isOver, { people, hooks }, transaction);
      await this.mark(opened, 'toldAt', transaction);
      await this.mark(over, 'endToldAt', transaction);
    });
  }

  /** What was waited for and has come: one message for each property and person. */
  private async tellNews(): Promise<void> {
    const { desk } = this;
    const settled = new Date(desk.clock.now().getTime() - SETTLES).toISOString();
    const [any] = await desk.store.select(
      'SELECT 1 FROM news WHERE toldAt IS NULL AND at <= $settled LIMIT 1',
      { settled },
    );
    if (!any) return;
    const [people, hooks] = await Promise.all([recipients(desk), webhooksNow(desk)]);
    await desk.store.writeQuietly(async (transaction) => {
      const rows = await untoldNews(desk, settled, transaction);
      const by = new Map<string, NewsRow[]>();
      for (const row of rows) by.set(row.propertyId, [...(by.get(row.propertyId) ?? []), row]);
      for (const own of by.values())
        for (const person of people) {
          const isFor = person.atOnce === 1 && wants(person, own[0]?.clientId ?? null);
          if (!isFor || !this.sender.hasMail) continue;
          const { personId, email, zone } = person;
          const { subject, ...body } = newsMessage(own.map(newsTold), { base: this.base, zone });
          await writeMessage(
            desk,
            { way: 'mail', personId, sentTo: email ?? '', subject, body },
            transaction,
          );
        }
      for (const row of rows)
        for (const hook of hooks) {
          if (hook.clientId !== null && hook.clientId !== row.clientId) continue;
          const { kind, enrolment, says, at, handle } = row;
          const body = {
            type: `news.${kind}`,
            time: nowText(desk),
            data: { property: handle, enrolment, says, at },
          };
          await writeMessage(
            desk,
            { way: 'hook', hookId: hook.id, sentTo: hook.url, subject: `${handle} ${kind}`, body },
            transaction,
          );
        }
      await desk.store.run(
        'UPDATE news SET toldAt = $now WHERE id IN (SELECT value FROM json_each($ids))',
        { now: nowText(desk), ids: JSON.stringify(rows.map(({ id }) => id)) },
        transaction,
      );
    });
  }

  /** One group for each property; one for all of them in a storm. */
  private async gathered(rows: readonly Row[], transaction: Transaction): Promise<Row[][]> {
    const by = new Map<string, Row[]>();
    for (const row of rows) by.set(row.propertyId ?? '', [...(by.get(row.propertyId ?? '') ?? []), row]);
    if (by.size < STORM_AT_LEAST) return [...by.values()];
    const [all] = await this.desk.store.select<{ count: number }>(
      'SELECT COUNT(*) AS count FROM properties WHERE archivedAt IS NULL',
      {},
      transaction,
    );
    return by.size >= (all?.count ?? 0) * STORM_SHARE ? [[...rows]] : [...by.values()];
  }

  private async put(
    rows: readonly Row[],
    isOver: boolean,
    to: { readonly people: readonly RecipientValues[]; readonly hooks: readonly WebhookValues[] },
    transaction: Transaction,
  ): Promise<void> {
    for (const person of to.people) {
      const own = rows.filter(
        ({ clientId, isByServer }) => isByServer === 0 && person.atOnce === 1 && wants(person, clientId),
      );
      if (own.length === 0 || !this.sender.hasMail) continue;
      const { subject, ...body } = alertMessage(
        own.map((row) => told(row, isOver)),
        { base: this.base, zone: person.zone },
      );
      const { personId, email } = person;
      await writeMessage(
        this.desk,
        { way: 'mail', personId, sentTo: email ?? '', subject, body },
        transaction,
      );
    }
    for (const hook of to.hooks)
      for (const row of rows) {
        if (hook.clientId === null ? row.isByServer === 1 : hook.clientId !== row.clientId) continue;
        const subject = `${row.handle ?? 'service'} ${row.kind}${isOver ? ' over' : ''}`;
        const body = {
          type: isOver ? 'alert.resolved' : 'alert.opened',
          time: nowText(this.desk),
          data: eventOf(row),
        };
        await writeMessage(
          this.desk,
          { way: 'hook', hookId: hook.id, sentTo: hook.url, subject, body },
          transaction,
        );
      }
  }

  private async mark(
    rows: readonly Row[],
    column: 'toldAt' | 'endToldAt',
    transaction: Transaction,
  ): Promise<void> {
    if (rows.length === 0) return;
    await this.desk.store.run(
      `UPDATE cases SET ${column} = $now WHERE id IN (SELECT value FROM json_each($ids))`,
      { now: nowText(this.desk), ids: JSON.stringify(rows.map(({ id }) => id)) },
      transaction,
    );
  }

  /** The digests whose hour has come; a day that was missed is told with the next. */
  private async tellDigests(): Promise<void> {
    if (!this.sender.hasMail) return;
    const now = this.desk.clock.now();
    for (const person of await recipients(this.desk))
      if (this.dueOf(person) <= now) await this.tellDigest(person, now);
  }

  /** When somebody's digest is due: told from the calendar once, not at every look at the clock. */
  private dueOf(person: RecipientValues): Date {
    const of = `${person.upTo} ${person.digestAt} ${person.zone}`;
    const known = this.digests.get(person.personId);
    if (known?.of === of) return known.at;
    const at = digestDue(person);
    this.digests.set(person.personId, { of, at });
    return at;
  }

  private async tellDigest(person: RecipientValues, now: Date): Promise<void> {
    const { desk } = this;
    await this.kept.all();
    await desk.store.writeQuietly(async (transaction) => {
      const [current] = await desk.store.select<RecipientValues>(
        'SELECT * FROM tellings WHERE personId = $id',
        { id: person.personId },
        transaction,
      );
      if (current?.upTo !== person.upTo) return;
      const span = { from: person.upTo, to: now.toISOString() };
      if (person.digest === 1) {
        const rows = await desk.store.select<Row>(
          `${CASES} WHERE (c.openedAt > $from AND c.openedAt <= $to) OR (c.endedAt > $from AND c.endedAt <= $to)
            ORDER BY c.openedAt, c.id LIMIT 2000`,
          span,
          transaction,
        );
        // What was told at once is not told again.
        const own = rows.filter(
          ({ clientId, atOnce, isByServer }) =>
            isByServer === 0 && wants(person, clientId) && !(atOnce === 1 && person.atOnce === 1),
        );
        const news = person.atOnce === 1 ? [] : await newsBetween(desk, span, transaction);
        const message = digest(
          {
            news: news.filter(({ clientId }) => wants(person, clientId)).map(newsTold),
            opened: own.filter(({ endedAt }) => endedAt === null).map((row) => told(row, false)),
            over: own
              .filter(
                ({ endedAt, mended, openedAt }) => endedAt !== null && mended === 1 && openedAt <= span.from,
              )
              .map((row) => told(row, true)),
          },
          { base: this.base, zone: person.zone },
        );
        if (message) {
          const { subject, ...body } = message;
          await writeMessage(
            desk,
            { way: 'mail', personId: person.personId, sentTo: person.email ?? '', subject, body },
            transaction,
          );
        }
      }
      await desk.store.run(
        'UPDATE tellings SET upTo = $to WHERE personId = $id',
        { to: span.to, id: person.personId },
        transaction,
      );
    });
  }

  /** The reports whose time has come: what was missed is in the next, which tells of all of it. */
  private async tellReports(): Promise<void> {
    const { desk } = this;
    if (!this.sender.hasMail) return;
    const due = await dueReports(desk, REPORTS_AT_ONCE);
    if (due.length === 0) return;
    await this.kept.all();
    for (const { sentTo, ...row } of due) {
      const to = nowText(desk);
      const language = await languageOf(desk, row);
      const { subject, ...body } = await messageFor(desk, row, to, this.base, language);
      const kept =
        row.clientId === null
          ? null
          : await pageFor(desk, this.kept, row.clientId, { from: row.upTo, to, language });
      await desk.store.writeQuietly(async (transaction) => {
        if (!(await moveOn(desk, row, to, transaction))) return;
        const { personId } = row;
        const whole = kept ? { ...body, attachments: [kept.file] } : body;
        const messageId = await writeMessage(
          desk,
          { way: 'mail', personId, sentTo, subject, body: whole },
          transaction,
        );
        await kept?.keep({ sentTo, messageId }, transaction);
      });
    }
  }
}

function newsTold({ kind, handle, says, at }: NewsRow): NewsTold {
  return { kind, property: handle, says, at: new Date(at) };
}

function told(row: Row, isOver: boolean): AlertMessage {
  return {
    id: row.id,
    kind: row.kind,
    property: row.handle,
    client: row.client,
    says: row.says,
    remedy: row.remedy,
    touches: JSON.parse(row.touches) as string[],
    difference: JSON.parse(row.difference) as string[],
    since: new Date(row.since),
    openedAt: new Date(row.openedAt),
    endedAt: isOver && row.endedAt !== null ? new Date(row.endedAt) : null,
  };
}

function eventOf(row: Row): object {
  const { id, kind, since, says, remedy, acts, until, endedAt } = row;
  return {
    case: id,
    kind,
    property: row.handle,
    client: row.client,
    since,
    says,
    remedy,
    acts,
    until,
    touches: JSON.parse(row.touches) as string[],
    difference: JSON.parse(row.difference) as string[],
    endedAt,
  };
}
