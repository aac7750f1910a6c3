import { HOUR, MINUTE } from '../../core/time/duration.js';
import { unmarked } from '../../store/request-mark.js';
import { KeyRow, PersonRow } from '../../store/models/people.js';
import { nowText, type Desk } from '../context/desk.js';
import { hashed, viewPerson, type SignedIn } from './persons.js';

/** A caller is looked up anew after so long, whatever happened to the access meanwhile. */
const KEPT_MS = MINUTE;
const MOST_KEPT = 1_000;

interface Known {
  readonly caller: SignedIn;
  /** Milliseconds since the epoch: until when this is known without asking. */
  readonly until: number;
  usedAt: string | null;
}

/** Who comes with which key: looked up once, and kept in mind until the access ends. */
export class Callers {
  private readonly known = new Map<string, Known>();
  /** Counts the ends of accesses: what was read before one is not kept after it. */
  private ends = 0;
  /** Keys whose use is being written down, so that many requests at once do it once. */
  private readonly beingNoted = new Set<string>();

  constructor(private readonly desk: Desk) {
    desk.events.on('access', (personId: string) => {
      this.ends += 1;
      for (const [name, { caller }] of this.known) if (caller.person.id === personId) this.known.delete(name);
    });
  }

  /** Who comes with a bearer key or a session's secret; null when it is unknown, ended or expired. */
  async of(secret: string, kind: 'key' | 'session'): Promise<SignedIn | null> {
    const name = `${kind} ${hashed(secret)}`;
    const now = this.desk.clock.now().getTime();
    const before = this.known.get(name);
    const known = before && before.until > now ? before : await this.lookUp(name, now);
    if (known) this.noteUse(known, now);
    return known?.caller ?? null;
  }

  private async lookUp(name: string, now: number): Promise<Known | null> {
    const { ends } = this;
    const [kind = 'key', hash] = name.split(' ') as ['key' | 'session', string];
    const found = await KeyRow.findOne({ where: { hash, kind, endedAt: null } });
    const isOver = found?.expiresAt != null && found.expiresAt <= nowText(this.desk);
    // Its end stays one, should the clock be put back.
    if (isOver)
      await unmarked(() =>
        this.desk.store.write((transaction) => found.update({ endedAt: found.expiresAt }, { transaction })),
      );
    const key = isOver ? null : found;
    const person = key && (await PersonRow.findOne({ where: { id: key.personId, endedAt: null } }));
    this.known.delete(name);
    if (!person) return null;
    const expires = key.expiresAt == null ? Infinity : Date.parse(key.expiresAt);
    const known: Known = {
      caller: { person: viewPerson(person), via: kind, keyId: key.id },
      until: Math.min(now + KEPT_MS, expires),
      usedAt: key.usedAt ?? null,
    };
    if (this.ends === ends) this.keep(name, known);
    return known;
  }

  private keep(name: string, known: Known): void {
    const [oldest] = this.known.keys();
    if (oldest !== undefined && this.known.size >= MOST_KEPT) this.known.delete(oldest);
    this.known.set(name, known);
  }

  /** Writes down, at most once an hour, that a key was used: so that one that nobody needs any more is seen to be one. */
  private noteUse(known: Known, now: number): void {
    const { keyId: id } = known.caller;
    if (known.usedAt !== null && now - Date.parse(known.usedAt) < HOUR) return;
    if (this.beingNoted.has(id)) return;
    this.beingNoted.add(id);
    const usedAt = new Date(now).toISOString();
    unmarked(() =>
      this.desk.store.write((transaction) => KeyRow.update({ usedAt }, { where: { id }, transaction })),
    )
      .then(() => (known.usedAt = usedAt))
      // It is only for looking at; the next use writes it.
      .catch(() => undefined)
      .finally(() => this.beingNoted.delete(id));
  }
}
