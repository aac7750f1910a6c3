import type { Transaction } from 'sequelize';
import { DAY, MINUTE } from '../../core/time/duration.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { checkPieces } from '../checks/checks.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import type { JobRunner } from '../jobs/runner.js';
import { hashed } from '../people/persons.js';
import { gatherSheet, type GatheredSheet } from '../sheet/sheet.js';
import { subjectAt, type Subject } from '../sheet/subject.js';
import { answerByLink } from './answers.js';
import { keepForMaker } from './link-visits.js';
import { aboutOf, LINKS_CHANGED, named, partOf, type LinkValues } from './links.js';

/** A secret as we make them; anything else is not even looked for. */
const SECRET = /^[\w-]{27}$/u;
/** Who opens a page again and again is counted once in this time, and told of in the journal once a day. */
const COUNTED_EVERY = MINUTE;
const JOURNAL_EVERY = DAY;
/** How often one link may have us look: so long apart, and so many times in a day. */
const LOOKS_APART = 2 * MINUTE;
const MOST_LOOKS = 24;
/** Placements that are looked at in one go. */
const MOST_PLACEMENTS = 60;
const MOST_WORDS = 20;
const LONGEST_WORD = 1_000;
/** Milliseconds of real time for which a sheet that many ask for at once is gathered once. */
const KEPT_MS = 2_000;

export interface OpenedLink {
  readonly link: LinkValues;
  readonly subject: Subject;
  readonly gathered: GatheredSheet;
  /** Whether we are looking just now. */
  readonly isLooking: boolean;
  /** When somebody had us look last by this link, and when it may be done again; null where never, and where now. */
  readonly lookedAt: string | null;
  readonly mayAt: string | null;
}

interface Kept {
  readonly at: number;
  readonly sheet: Promise<{ subject: Subject; gathered: GatheredSheet } | null>;
}

/** What somebody said by a link. */
export type Word = { readonly kind: 'done' } | { readonly kind: 'cannot'; readonly says: string };

/**
 * The sheets behind shared links. Which links work is kept in mind, so that a guess costs a hash and nothing else, and takes the same time
 * whatever it comes upon: a link that has expired is as unknown as one that never was.
 */
export class SharedSheets {
  private links: Promise<ReadonlyMap<string, LinkValues>> | null = null;
  private readonly sheets = new Map<string, Kept>();
  /** Links by which we are looking. */
  private readonly looking = new Set<string>();
  private readonly counted = new Map<string, number>();

  constructor(
    private readonly desk: Desk,
    private readonly jobs: JobRunner,
  ) {
    desk.events.on(LINKS_CHANGED, () => {
      this.links = null;
    });
  }

  /** The link that has a secret, as long as it works. */
  async linkOf(secret: string): Promise<LinkValues | null> {
    const hash = hashed(secret);
    if (!SECRET.test(secret)) return null;
    this.links ??= this.load();
    const link = (await this.links).get(hash);
    return link && link.expiresAt > nowText(this.desk) ? link : null;
  }

  private async load(): Promise<ReadonlyMap<string, LinkValues>> {
    const rows = await this.desk.store.select<LinkValues>('SELECT * FROM shared_links WHERE endedAt IS NULL');
    return new Map(rows.map((row) => [row.hash, row]));
  }

  /** The sheet behind a link, as it stands. @returns null where it is of something that is put away */
  async open(link: LinkValues): Promise<OpenedLink | null> {
    const found = await this.sheetOf(link);
    if (!found) return null;
    const looks = await this.usesSince(link, 'look', DAY);
    const [last] = looks;
    const [oldest] = looks.slice(MOST_LOOKS - 1);
    const next = Math.max(last ? Date.parse(last) + LOOKS_APART : 0, oldest ? Date.parse(oldest) + DAY : 0);
    return {
      link,
      ...found,
      isLooking: this.looking.has(link.id),
      lookedAt: last ?? null,
      mayAt: next > this.desk.clock.now().getTime() ? new Date(next).toISOString() : null,
    };
  }

  private async sheetOf(link: LinkValues): Promise<Awaited<Kept['sheet']>> {
    const known = this.sheets.get(link.id);
    if (known && performance.now() - known.at < KEPT_MS) return known.sheet;
    const sheet = this.gather(link);
    this.sheets.set(link.id, { at: performance.now(), sheet });
    setTimeout(() => this.sheets.delete(link.id), KEPT_MS).unref();
    return sheet;
  }

  private async gather(link: LinkValues): Promise<Awaited<Kept['sheet']>> {
    const subject = await subjectAt(link.clientId, link.propertyId);
    const part = partOf(link);
    return subject && { subject, gathered: await gatherSheet(this.desk, subject, link.language, { part }) };
  }

  /** What is shown next is gathered anew. */
  forget(link: LinkValues): void {
    this.sheets.delete(link.id);
  }

  /** Counts that a link was opened. */
  async countOpened(link: LinkValues): Promise<void> {
    const now = this.desk.clock.now();
    const before = this.counted.get(link.id);
    if (before !== undefined && now.getTime() - before < COUNTED_EVERY) return;
    this.counted.set(link.id, now.getTime());
    const property = await propertyOf(link);
    await this.desk.store.writeQuietly(async (transaction) => {
      const [row] = await this.desk.store.select<LinkValues>(
        'SELECT * FROM shared_links WHERE id = $id',
        { id: link.id },
        transaction,
      );
      if (!row) return;
      await this.desk.store.run(
        'UPDATE shared_links SET opened = opened + 1, openedAt = $now WHERE id = $id',
        { id: link.id, now: now.toISOString() },
        transaction,
      );
      if (row.openedAt !== null && now.getTime() - Date.parse(row.openedAt) < JOURNAL_EVERY) return;
      await note(this.desk, { personId: null }, transaction, {
        kind: 'shared.opened',
        says: `The link ${named(link)} was opened.`,
        ...aboutOf(link, property),
      });
      if (row.openedAt === null && link.tells === 1)
        await keepForMaker(
          this.desk,
          link,
          `The link ${named(link)} was opened for the first time.`,
          transaction,
        );
    });
  }

  /** Has us look at what does not stand yet. @returns false where it was done a short while ago, or there is nothing to look at */
  async look(behind: OpenedLink): Promise<boolean> {
    const { link, gathered } = behind;
    if (behind.mayAt !== null || this.looking.has(link.id)) return false;
    const open = gathered.tokens.filter(({ seen }) => seen !== 'right');
    if (open.length === 0) return false;
    // Before anything is waited for, so that two at once do not both.
    this.looking.add(link.id);
    try {
      const enrolments = [...new Set(open.map(({ enrolment }) => enrolment))];
      const pieces = await checkPieces(this.desk, { enrolments });
      await this.writeUse(link, 'look', null, `Somebody had us look by the link ${named(link)}.`);
      const id = await this.jobs.start('check', { personId: null }, pieces.slice(0, MOST_PLACEMENTS));
      const over = (): void => {
        this.looking.delete(link.id);
        this.forget(link);
        this.desk.events.emit('shared', link.id);
      };
      void this.jobs.settled(id, LOOK_PATIENCE_MS).then(over, over);
      return true;
    } catch (error) {
      this.looking.delete(link.id);
      throw error;
    }
  }

  /** Sends word to whoever made the link. @returns false where enough was sent today */
  async send(link: LinkValues, word: Word): Promise<boolean> {
    const says = word.kind === 'done' ? null : tidied(word.says);
    const sentence =
      says === null
        ? `By the link ${named(link)} somebody says that it is done.`
        : `By the link ${named(link)} somebody says that it cannot be done: ${says}`;
    return this.writeUse(link, word.kind, says, sentence, true);
  }

  private async usesSince(
    link: LinkValues,
    what: 'look' | 'word',
    ms: number,
    transaction: Transaction | null = null,
  ): Promise<string[]> {
    const rows = await this.desk.store.select<{ at: string }>(
      `SELECT at FROM shared_uses WHERE linkId = $id AND at > $since AND ${what === 'look' ? "kind = 'look'" : "kind <> 'look'"} ORDER BY at DESC`,
      { id: link.id, since: new Date(this.desk.clock.now().getTime() - ms).toISOString() },
      transaction,
    );
    return rows.map(({ at }) => at);
  }

  /** @returns false where enough words were sent today: many at once are counted one after the other */
  private async writeUse(
    link: LinkValues,
    kind: 'look' | Word['kind'],
    says: string | null,
    sentence: string,
    isWord = false,
  ): Promise<boolean> {
    const property = await propertyOf(link);
    return this.desk.store.writeQuietly(async (transaction) => {
      if (isWord && (await this.usesSince(link, 'word', DAY, transaction)).length >= MOST_WORDS) return false;
      const use = { id: newId(), linkId: link.id, at: nowText(this.desk), kind, says };
      await this.desk.store.insert('shared_uses', [use], transaction);
      await note(this.desk, { personId: null }, transaction, {
        kind: isWord ? 'shared.word' : 'shared.look',
        says: sentence,
        ...aboutOf(link, property),
      });
      if (isWord || link.tells === 1) await keepForMaker(this.desk, link, sentence, transaction);
      if (kind !== 'look') await answerByLink(this.desk, link.id, says, transaction);
      return true;
    });
  }
}

/** A job of many placements may take long; the page says then what is known. */
const LOOK_PATIENCE_MS = 10 * MINUTE;

/** Written by a stranger: in one line of bounded length, without what a terminal would take for an order. */
function tidied(text: string): string {
  return text
    .replace(/[\p{Cc}\p{Cf}\s]+/gu, ' ')
    .trim()
    .slice(0, LONGEST_WORD);
}

async function propertyOf({ propertyId }: LinkValues): Promise<PropertyRow | null> {
  return propertyId === null ? null : PropertyRow.findByPk(propertyId);
}

/** Links whose time is over are so on record, once, and whoever made them is told where that was wanted. */
export async function expireLinks(desk: Desk): Promise<void> {
  const now = nowText(desk);
  const rows = await desk.store.select<LinkValues>(
    'SELECT * FROM shared_links WHERE endedAt IS NULL AND expiresAt <= $now LIMIT 100',
    { now },
  );
  if (rows.length === 0) return;
  for (const link of rows) {
    const property = await propertyOf(link);
    const sentence = `The link ${named(link)} has expired.`;
    await desk.store.writeQuietly(async (transaction) => {
      await desk.store.run(
        `UPDATE shared_links SET endedAt = expiresAt, how = 'expired' WHERE id = $id`,
        { id: link.id },
        transaction,
      );
      await note(desk, { personId: null }, transaction, {
        kind: 'shared.expired',
        says: sentence,
        ...aboutOf(link, property),
      });
      if (link.tells === 1) await keepForMaker(desk, link, sentence, transaction);
    });
  }
  desk.events.emit(LINKS_CHANGED);
}
