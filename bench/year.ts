import { EventEmitter } from 'node:events';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { deflateRawSync } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { join } from 'node:path';
import type { EvidenceSeen, JobResult } from '../src/api/documents.js';
import { finding } from '../src/core/findings/catalogue.js';
import type { Desk } from '../src/desk/context/desk.js';
import { note } from '../src/desk/context/journal.js';
import { recordLook } from '../src/desk/history/stretches.js';
import { letGo } from '../src/desk/history/tidying.js';
import { writeJob } from '../src/desk/jobs/records.js';
import { settingsSchema, type Settings } from '../src/service/settings/schema.js';
import { newId } from '../src/store/ids.js';
import { CheckRow } from '../src/store/models/enrolments.js';
import { Store } from '../src/store/store.js';
import { numbers } from '../test/support/numbers.js';
import { makeAgency, valuesAt } from './agency-records.js';
import { ratiosOf, serving, took, type Ratio, type Served } from './agency.js';

/** So many properties have some ten thousand placements. */
const PROPERTIES = 2_222;
const DAY_MS = 86_400_000;
/** After so many days every page is full, and the first pieces of jobs are let go. */
const SETTLED_DAYS = 60;
/** One placement in a hundred changes a month. */
const CHANGING_A_DAY = 1 / 100 / 30;
/** After the newest of what `makeAgency` makes. */
const BEGIN = Date.UTC(2026, 5, 1, 4);

const NOBODY = { personId: null };
const URL_THERE = 'https://www.quay-7.example/';
const VALUES = valuesAt(URL_THERE);

/** What a look at a home page rests on, as long as such things are. */
const EVIDENCE: EvidenceSeen = {
  kind: 'page',
  end: 'answered',
  mediaType: 'text/html',
  bytes: 48_211,
  hops: [
    {
      url: URL_THERE,
      address: '192.0.2.10',
      status: 200,
      location: null,
      headers: {
        'content-type': 'text/html; charset=utf-8',
        'cache-control': 'max-age=600',
        etag: '"5f1c-62b1d2f0a7c40"',
        vary: 'accept-encoding',
      },
      certificate: {
        subject: 'www.quay-7.example',
        issuer: 'Harbour Town Authority 3',
        names: ['www.quay-7.example', 'quay-7.example'],
        validFrom: '2026-01-05T09:00:00.000Z',
        validUntil: '2027-01-05T09:00:00.000Z',
      },
      failure: null,
      detail: null,
      ms: 141,
    },
  ],
  fresh: null,
  asBrowser: null,
  elsewhere: [],
  around: {
    line: 3,
    column: 5,
    lines: [
      { number: 2, text: '    <meta charset="utf-8">' },
      { number: 3, text: '    <meta name="quay-proof" content="q7d2k5mw9xzt3vb8h4c6nf1j">' },
      { number: 4, text: '    <title>Berths and slipways</title>' },
    ],
  },
};

/** What a piece of a checking job comes to. */
const RESULT: JobResult = {
  says: finding('meta.stands', VALUES).says,
  stops: false,
  enrolment: 'quay-7@veldrane:address',
  check: {
    id: 'kep7veldrane0000',
    property: 'quay-7',
    engine: 'veldrane',
    enrolment: 'quay-7@veldrane:address',
    method: 'meta',
    place: URL_THERE,
    checkedAt: '2026-06-01T04:00:00.000Z',
    firstAt: '2026-06-01T04:00:00.000Z',
    times: 1,
    seen: true,
    seenSince: '2026-06-01T04:00:00.000Z',
    tried: true,
    forecast: 'accept',
    visibleAt: null,
    findings: [finding('meta.stands', VALUES)].map((one) => ({
      ...one,
      evidence: { ...one.evidence },
      remedy: '',
    })),
  },
};

const PAGES = [
  '/yard?limit=50',
  '/worklist?limit=50',
  '/journal?limit=50',
  '/jobs?limit=50',
  '/enrolments?property=quay-7',
  '/enrolments/quay-7@veldrane:address/checks',
] as const;

export interface YearMeasured {
  readonly placements: number;
  readonly megabytes: number;
  /** By page: its median at the end over that at the beginning, each of a bare service's in the same minute. */
  readonly slower: ReadonlyMap<string, number>;
}

/**
 * A year of daily looks at ten thousand placements. What changes, the jobs and what is let go go through the product's own functions;
 * what says the same as the day before is written by one statement for all, as the product writes it for each.
 */
export async function measureYear(days = 365): Promise<YearMeasured> {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-year-'));
  const file = join(folder, 'y.sqlite');
  try {
    await makeAgency(file, PROPERTIES);
    // The first weeks are before the first measuring: pages are as full then as they are at the end.
    const placements = await live(file, 0, SETTLED_DAYS);
    const early = await serving(folder, pages);
    await live(file, SETTLED_DAYS, days);
    const megabytes = statSync(file).size / 1e6;
    const late = await serving(folder, pages);
    const slower = PAGES.map((path): [string, number] => [
      path,
      medianOf(late, path) / medianOf(early, path),
    ]);
    return { placements, megabytes, slower: new Map(slower) };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

async function pages(served: Served): Promise<Map<string, Ratio>> {
  // Everything is derived before anything is measured.
  await took(`${served.url}/worklist?limit=1`, served.key);
  return ratiosOf(served, PAGES);
}

function medianOf(ratios: ReadonlyMap<string, Ratio>, path: string): number {
  return ratios.get(path)?.p50 ?? NaN;
}

/** @returns how many placements were looked at each day */
async function live(file: string, from: number, until: number): Promise<number> {
  const { keep } = settingsSchema.validate({}).value as Settings;
  const random = numbers(13 + from);
  let now = new Date(BEGIN);
  const store = await Store.open(file);
  try {
    const desk = { store, clock: { now: () => now }, events: new EventEmitter() } as unknown as Desk;
    const stretches = await CheckRow.findAll();
    for (let day = from; day < until; day += 1) {
      now = new Date(BEGIN + day * DAY_MS);
      await oneDay(desk, stretches, random);
      await letGo(desk, keep);
    }
    return stretches.length;
  } finally {
    await store.close();
  }
}

async function oneDay(desk: Desk, stretches: CheckRow[], random: () => number): Promise<void> {
  const { store } = desk;
  const at = desk.clock.now().toISOString();
  const job = newId();
  const pieces = stretches.map(({ enrolmentId, method }) => ({
    subject: `quay@${enrolmentId} ${method}`,
    input: { enrolmentId, method },
    host: `www.${enrolmentId}.example`,
  }));
  await store.write((transaction) =>
    writeJob(store, { id: job, kind: 'check', lane: 'bulk', personId: null, at, pieces }, transaction),
  );
  await store.write(async (transaction) => {
    for (const [place, stretch] of stretches.entries())
      if (random() < CHANGING_A_DAY) stretches[place] = await changed(desk, stretch, at, transaction);
    const ids = JSON.stringify(stretches.filter(({ firstAt }) => firstAt !== at).map(({ id }) => id));
    const these = 'SELECT value FROM json_each($ids)';
    await store.run(
      `UPDATE checks SET checkedAt = $at, times = times + 1, findings = findings WHERE id IN (${these})`,
      { at, ids },
      transaction,
    );
    await store.sequelize.query(
      `INSERT INTO evidence (checkId, which, at, packed) SELECT value, 'newest', $at, $packed FROM json_each($ids) WHERE true
         ON CONFLICT (checkId, which) DO UPDATE SET at = excluded.at, packed = excluded.packed`,
      { bind: { at, ids, packed: deflateRawSync(JSON.stringify(EVIDENCE)) }, transaction },
    );
    await store.run(
      `UPDATE job_items SET state = 'done', begun = 1, finishedAt = $at, result = $result WHERE jobId = $job`,
      { at, result: JSON.stringify(RESULT), job },
      transaction,
    );
    await store.run(
      `UPDATE jobs SET state = 'done', finished = total, finishedAt = $at WHERE id = $job`,
      { at, job },
      transaction,
    );
  });
}

/** What stood is gone, or what was gone stands again: a stretch of its own, and a line in the journal. */
async function changed(
  desk: Desk,
  before: CheckRow,
  at: string,
  transaction: Transaction,
): Promise<CheckRow> {
  const { enrolmentId, tokenId, method, place } = before;
  const seen = !before.seen;
  const findings = [finding(seen ? 'meta.stands' : 'meta.absent', VALUES)];
  const row = await recordLook(
    desk,
    before,
    {
      enrolmentId,
      tokenId,
      method,
      place,
      at,
      seen,
      forecast: seen ? 'accept' : 'refuse',
      visibleAt: null,
      findings,
      evidence: EVIDENCE,
    },
    transaction,
  );
  const says = `${enrolmentId} by meta: ${findings[0]?.says ?? ''}`;
  await note(desk, NOBODY, transaction, { kind: 'check', says, enrolmentId, details: { check: row.id } });
  return row;
}
