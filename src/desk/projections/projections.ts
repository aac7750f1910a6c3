import { createHash } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { onItsOwn } from '../../cancellation/cancellation.js';
import { unmarked } from '../../store/request-mark.js';
import type { Freshness } from '../lists/freshness.js';
import { tellChange, type Desk } from '../context/desk.js';
import { derive, DERIVATION, type Derived } from './derive.js';
import { recordAlerts, type AlertsOf } from '../alerts/alerts.js';
import { dropAssignments } from './assignments.js';
import { PROJECTION_TABLES } from './projection-tables.js';

/** Properties that are derived in one go: few enough that others are answered meanwhile. */
const AT_ONCE = 50;
/** Milliseconds of real time that writers are left alone before what they made stale is derived, at the least. */
const REST_MS = 150;
/** How many times as long as the last deriving took they are left alone: where much is written, deriving is no more than a small part. */
const REST_SHARE = 8;
/** What one of many pieces of work wrote is shown after so long at the latest, or with the end of its job. */
const LATE_MS = 1_000;

interface Stale {
  readonly propertyId: string;
  /** Changes whenever the property is marked again. */
  readonly mark: number;
}

/**
 * Keeps ready where everything stands. The records mark what is stale; the next reader brings it up to date, or this does so
 * by itself soon after something was written.
 */
export class Projections implements Freshness {
  /** Counts what was written when all was last known to be up to date. */
  private freshAt = -1;
  /** The same of what may be shown a moment later, and when that was. */
  private lateAt = -1;
  private derivedAt = 0;
  /** How long the last deriving took, in milliseconds. */
  private tookMs = 0;
  /** When something turns by time alone, as text; null where nothing does. */
  private turnsAt: string | null = null;
  /** Changes with whatever is shown: what was counted before is counted again. */
  private edition = 0;
  /** The same where only one of many pieces of work wrote: then it is counted again a moment later. */
  private lateEdition = 0;
  /** Up to which writing all is shown. */
  private shown = { writes: -1, lateWrites: -1 };
  private underWay: Promise<void> | null = null;
  /** What waits for a turn that begins after it was asked for. */
  private next: Promise<void> | null = null;
  private soon: { readonly timer: NodeJS.Timeout; readonly isLate: boolean } | null = null;
  private isOver = false;
  private ground: string | null = null;
  private groundBy: { readonly edition: number; readonly text: string } | null = null;
  private readonly counted = new Map<string, Counted>();

  constructor(
    private readonly desk: Desk,
    private readonly report: (error: unknown) => void,
  ) {
    desk.store.onWritten((isLate) => this.nudge(isLate));
  }

  /** Brings up to date whatever was stale when this was asked for. Costs nothing where nothing is. */
  async current(): Promise<void> {
    if (this.isFresh() && !this.isLate()) return;
    return this.anew();
  }

  /** As `current`, also what might still be shown a moment later. */
  async all(): Promise<void> {
    if (this.isFresh() && this.lateAt === this.desk.store.lateWrites) return;
    return this.anew();
  }

  private anew(): Promise<void> {
    if (this.underWay === null) return this.begin();
    this.next ??= this.underWay
      .catch(() => undefined)
      .then(() => {
        this.next = null;
        return this.isFresh() ? undefined : this.begin();
      });
    return this.next;
  }

  /** Whether something has not been shown for longer than it may. */
  private isLate(): boolean {
    return this.lateAt !== this.desk.store.lateWrites && performance.now() - this.derivedAt >= LATE_MS;
  }

  /** As `current`, whoever wrote: also what was written past this process is looked for. */
  refresh(): Promise<void> {
    this.freshAt = -1;
    return this.current();
  }

  /**
   * Something that is counted over all that is kept ready, and known as long as nothing there changes; what one of many pieces of work
   * changed is counted a moment later.
   */
  async countedOnce<T>(name: string, count: () => Promise<T>): Promise<T> {
    const { edition, lateEdition } = this;
    const known = this.counted.get(name);
    const at = performance.now();
    if (known?.edition === edition && (known.lateEdition === lateEdition || at - known.at < LATE_MS))
      return known.counts as T;
    const counts = await count();
    if (this.counted.size >= MOST_COUNTED) this.counted.clear();
    this.counted.set(name, { edition, lateEdition, at, counts });
    return counts;
  }

  /** Derives no more by itself, and waits for what is under way. */
  async stop(): Promise<void> {
    this.isOver = true;
    if (this.soon) clearTimeout(this.soon.timer);
    await this.underWay?.catch(() => undefined);
  }

  private isFresh(): boolean {
    const { store, clock } = this.desk;
    return (
      this.freshAt === store.writes &&
      (this.turnsAt === null || this.turnsAt > clock.now().toISOString()) &&
      this.ground === this.groundNow()
    );
  }

  /** Everything beside the records that standing is derived from, as one short text. */
  private groundNow(): string {
    const { book } = this.desk;
    if (this.groundBy?.edition !== book.edition) {
      const print = createHash('sha256')
        .update(JSON.stringify([[...book.all()], this.desk.watch]))
        .digest('base64url');
      this.groundBy = { edition: book.edition, text: `${String(DERIVATION)} ${print}` };
    }
    return this.groundBy.text;
  }

  private begin(): Promise<void> {
    // It serves whoever comes, and is no part of what it was begun for.
    const work = unmarked(() => onItsOwn(() => this.bringUpToDate()));
    this.underWay = work.finally(() => (this.underWay = null));
    return this.underWay;
  }

  private nudge(isLate: boolean): void {
    if (this.isOver || (this.soon && (isLate || !this.soon.isLate))) return;
    if (this.soon) clearTimeout(this.soon.timer);
    const timer = setTimeout(
      () => {
        this.soon = null;
        this.all().catch(this.report);
      },
      isLate ? LATE_MS : Math.min(Math.max(REST_MS, this.tookMs * REST_SHARE), LATE_MS),
    ).unref();
    this.soon = { timer, isLate };
  }

  private async bringUpToDate(): Promise<void> {
    const { store, clock } = this.desk;
    const begun = performance.now();
    await this.markByGround();
    const { writes, lateWrites } = store;
    const now = clock.now().toISOString();
    // What turned by time is as stale as what was written.
    const stale = await store.select<Stale>(
      `SELECT propertyId, mark FROM stale UNION
       SELECT propertyId, ${String(UNMARKED)} FROM standings WHERE turnsAt <= $now AND propertyId NOT IN (SELECT propertyId FROM stale) UNION
       SELECT propertyId, ${String(UNMARKED)} FROM yard_rows WHERE turnsAt <= $now AND propertyId NOT IN (SELECT propertyId FROM stale)`,
      { now },
    );
    const isLateAlone = writes === this.shown.writes && lateWrites !== this.shown.lateWrites;
    for (let from = 0; from < stale.length; from += AT_ONCE) {
      await this.deriveAll(stale.slice(from, from + AT_ONCE));
      if (isLateAlone) this.lateEdition += 1;
      else this.edition += 1;
    }
    this.shown = { writes, lateWrites };
    const [turn] = await store.select<{ at: string | null }>(
      `SELECT MIN(at) AS at FROM (SELECT MIN(turnsAt) AS at FROM standings WHERE turnsAt IS NOT NULL UNION
         SELECT MIN(turnsAt) FROM yard_rows WHERE turnsAt IS NOT NULL)`,
    );
    this.turnsAt = turn?.at ?? null;
    // What was written meanwhile may have made something stale again; our own writing did not.
    this.freshAt = writes;
    this.lateAt = lateWrites;
    this.derivedAt = performance.now();
    this.tookMs = this.derivedAt - begun;
  }

  /** One property that cannot be derived is told, stays as it was shown, and keeps no other from being shown. */
  private async deriveAll(some: readonly Stale[]): Promise<void> {
    try {
      await this.deriveAnew(some);
    } catch (error) {
      if (this.isOver) throw error;
      if (some.length === 1) this.report(error);
      else for (const one of some) await this.deriveAll([one]);
    }
  }

  private async deriveAnew(some: readonly Stale[]): Promise<void> {
    const { desk } = this;
    const derived = await derive(
      desk,
      some.map(({ propertyId }) => propertyId),
    );
    const properties = await desk.store.writeQuietly(async (transaction) => {
      const settled = await settle(desk, some, transaction);
      await replace(desk, settled, derived, transaction);
      if (settled.length > 0) await dropAssignments(desk, settled, transaction);
      await recordAlerts(desk, new Map(settled.flatMap((id) => casesAt(id, derived.get(id)))), transaction);
      return settled;
    });
    if (properties.length > 0) tellChange(desk, { kind: null, properties });
  }

  /** Marks everything as stale where it was derived by other profiles of engines, or by another version of this program. */
  private async markByGround(): Promise<void> {
    const { desk } = this;
    const ground = this.groundNow();
    if (this.ground === ground) return;
    await desk.store.writeQuietly(async (transaction) => {
      const [known] = await desk.store.select<{ ground: string }>(
        'SELECT ground FROM derived_by',
        {},
        transaction,
      );
      if (known?.ground === ground) return;
      await desk.store.run(
        `INSERT INTO stale (propertyId, mark) SELECT id, random() FROM properties WHERE true
         ON CONFLICT (propertyId) DO UPDATE SET mark = random()`,
        {},
        transaction,
      );
      await desk.store.run(
        'INSERT INTO derived_by (id, ground) VALUES (1, $ground) ON CONFLICT (id) DO UPDATE SET ground = $ground',
        { ground },
        transaction,
      );
    });
    this.ground = ground;
  }
}

function casesAt(id: string, derived: Derived | undefined): [string, AlertsOf][] {
  return derived ? [[id, derived.cases]] : [];
}

interface Counted {
  readonly edition: number;
  readonly lateEdition: number;
  /** Real time, in milliseconds. */
  readonly at: number;
  readonly counts: unknown;
}

const MOST_COUNTED = 200;
/** The mark of what nobody marked: it turned by time alone. */
const UNMARKED = 0;

/** Takes the marks off, but for those of properties that were marked again meanwhile: what was derived may be older than that. */
async function settle({ store }: Desk, some: readonly Stale[], transaction: Transaction): Promise<string[]> {
  const marked = await store.select<Stale>(
    'SELECT propertyId, mark FROM stale WHERE propertyId IN (SELECT value FROM json_each($ids))',
    { ids: some.map(({ propertyId }) => propertyId) },
    transaction,
  );
  const markOf = new Map(marked.map(({ propertyId, mark }) => [propertyId, mark]));
  const settled = some
    .filter(({ propertyId, mark }) => (markOf.get(propertyId) ?? UNMARKED) === mark)
    .map(({ propertyId }) => propertyId);
  if (settled.length > 0)
    await store.run(
      'DELETE FROM stale WHERE propertyId IN (SELECT value FROM json_each($settled))',
      { settled },
      transaction,
    );
  return settled;
}

/** Puts what was derived in the place of what was kept. */
async function replace(
  { store }: Desk,
  propertyIds: readonly string[],
  derived: ReadonlyMap<string, Derived>,
  transaction: Transaction,
): Promise<void> {
  if (propertyIds.length === 0) return;
  for (const { table, rowsOf } of PROJECTION_TABLES) {
    await store.run(
      `DELETE FROM ${table} WHERE propertyId IN (SELECT value FROM json_each($propertyIds))`,
      { propertyIds: [...propertyIds] },
      transaction,
    );
    const rows = propertyIds.flatMap((id) => rowsOf(derived.get(id)));
    await store.insert(table, rows, transaction);
  }
}
