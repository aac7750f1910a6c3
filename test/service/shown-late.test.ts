import { EventEmitter } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Desk } from '../../src/desk/context/desk.js';
import { Projections } from '../../src/desk/projections/projections.js';
import { ClientRow, PropertyRow } from '../../src/store/models/clients.js';
import { Store } from '../../src/store/store.js';
import { bulkWrite } from '../../src/store/bulk-writes.js';
import { STAGE_TIME } from '../support/time.js';

describe('what many pieces of work write', () => {
  let folder: string;
  let store: Store;
  let kept: Projections;
  const at = STAGE_TIME.toISOString();
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'yardbadge-late-'));
    store = await Store.open(join(folder, 'y.sqlite'));
    const book = { profiles: new Map(), borrowed: new Map(), all: () => new Map(), edition: 1 };
    const watch = { on: false, placement: 'P1D', variants: 'P1D', sitemap: 'P1D' };
    const desk = { store, book, watch, clock: { now: () => STAGE_TIME }, events: new EventEmitter() };
    kept = new Projections(desk as unknown as Desk, (error) => {
      throw error;
    });
    // Nothing is brought up to date by itself while the test is at it.
    vi.useFakeTimers({ toFake: ['performance', 'setTimeout', 'clearTimeout'] });
    await store.write((transaction) =>
      ClientRow.create(
        { id: 'c', handle: 'kiln', name: 'Kiln', audience: [], version: 1, createdAt: at },
        { transaction },
      ),
    );
    await kept.current();
  });
  afterEach(async () => {
    vi.useRealTimers();
    await kept.stop();
    await store.close();
    rmSync(folder, { recursive: true });
  });
  const takeOn = (id: string) =>
    store.write((transaction) =>
      PropertyRow.create(
        {
          id,
          clientId: 'c',
          handle: id,
          address: `https://${id}.example/`,
          host: `${id}.example`,
          frontDoor: `https://${id}.example/`,
          version: 1,
          createdAt: at,
        },
        { transaction },
      ),
    );
  const shown = async () => {
    await kept.current();
    const rows = await store.select<{ handle: string }>('SELECT handle FROM yard_rows ORDER BY handle');
    return rows.map(({ handle }) => handle);
  };

  it('is shown a second later at the latest', async () => {
    await takeOn('attic');
    expect(await shown()).toEqual(['attic']);
    await bulkWrite(() => takeOn('berth'));
    expect(await shown()).toEqual(['attic']);
    vi.advanceTimersByTime(1_000);
    expect(await shown()).toEqual(['attic', 'berth']);
  });
  it('is shown at once together with what somebody else wrote', async () => {
    await takeOn('attic');
    expect(await shown()).toEqual(['attic']);
    await bulkWrite(() => takeOn('berth'));
    await takeOn('cellar');
    expect(await shown()).toEqual(['attic', 'berth', 'cellar']);
  });
  it('is shown at once when the work is over', async () => {
    await takeOn('attic');
    expect(await shown()).toEqual(['attic']);
    await bulkWrite(() => takeOn('berth'));
    store.hurry();
    expect(await shown()).toEqual(['attic', 'berth']);
  });
});
