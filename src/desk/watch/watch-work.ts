import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { sightOf } from '../../core/badge/visibility.js';
import { METHODS, type Method } from '../../core/profile/profile.js';
import { WATCHED, againAfter, type Watched } from '../../core/watch/rhythm.js';
import { DAY, HOUR } from '../../core/time/duration.js';
import { Stopped } from '../../cancellation/cancellation.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { publishByItself } from '../publishing/publish.js';
import { runCheck } from '../checks/checks.js';
import { nowText, type Desk } from '../context/desk.js';
import { anyWork, Later, type AnyWork, type Piece } from '../jobs/work.js';
import { factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { readSitemap } from '../sitemaps/reading.js';
import { lookAtVariants } from '../variants/variants-work.js';
import type { Met } from '../context/probe-outcome.js';
import { followUp } from './follow-up.js';
import type { Outages } from '../outages/outages.js';

/** One look of the watch: what is looked at, and when it was due. */
export interface LookInput {
  readonly id: string;
  readonly what: Watched;
  readonly dueAt: string;
  readonly host: string;
  readonly enrolmentId?: string;
  readonly method?: Method;
  readonly propertyId?: string;
  readonly sitemapId?: string;
}

/** What is not there any more, or not watched any more by the time that it is its turn. */
const GONE: JobResult = { says: 'Not watched any more.', stops: false };

/** Pages of a sitemap that are tried at each look: others each time, so that in a fortnight they are as many as a person’s reading tries. */
const PAGES_TRIED = 4;

/** The work of the watch. @param outages is told what each look met */
export function watchWork(outages: Outages): AnyWork[] {
  const input = Joi.object<LookInput, true>({
    id: Joi.string().required(),
    what: Joi.string()
      .valid(...WATCHED)
      .required(),
    dueAt: Joi.string().required(),
    host: Joi.string().required(),
    enrolmentId: Joi.string(),
    method: Joi.string().valid(...METHODS),
    propertyId: Joi.string(),
    sitemapId: Joi.string(),
  });
  const run = (desk: Desk, piece: Piece<LookInput>) => lookOnce(desk, piece, outages);
  return [
    anyWork<LookInput>({ kind: 'watch', lane: 'bulk', input, run }),
    anyWork<LookInput>({ kind: 'watch-read', lane: 'long', input, run }),
  ];
}

/** One look. What comes to nothing is tried again later, each time after longer. */
async function lookOnce(desk: Desk, piece: Piece<LookInput>, outages: Outages): Promise<JobResult> {
  const { id } = piece.input;
  // It may have ended the process: should it do so again, it is left alone for a while.
  if (piece.again) await putOff(desk, id);
  try {
    const result = await look(desk, piece, outages);
    await settle(desk, id);
    return result;
  } catch (error) {
    if (!(error instanceof Stopped || error instanceof Later)) await putOff(desk, id);
    throw error;
  }
}

async function look(desk: Desk, piece: Piece<LookInput>, outages: Outages): Promise<JobResult> {
  const { what, host, enrolmentId, method, propertyId, sitemapId } = piece.input;
  const met: Met = (look) => outages.saw(host, look);
  switch (what) {
    case 'placement': {
      const row = await EnrolmentRow.findOne({ where: { id: enrolmentId ?? '', endedAt: null } });
      if (!row || method === undefined || !(await isKept(row.propertyId))) return GONE;
      const before = await factsOf(desk, row);
      // The watch renews nothing: what clients' people have in hand stays what it is until a person looks.
      if (isVoid(before, method, desk)) return GONE;
      const checked = await runCheck(desk, { ...piece, input: { enrolmentId: row.id, method } }, met);
      if (checked.check === undefined) return checked;
      const result = await followUp(desk, piece, before, method, checked);
      // Only what is gone is put back, and only where somebody allowed it; a tag goes into a page by no open protocol.
      const isGone = sightOf(checked.check) === 'gone' && method !== 'meta';
      const back = isGone ? await publishByItself(desk, piece, row.propertyId, 'gone') : null;
      return back === null ? result : { ...result, says: `${result.says} ${back}` };
    }
    case 'variants': {
      const property = await PropertyRow.findOne({ where: { id: propertyId ?? '', archivedAt: null } });
      if (!property) return GONE;
      const { says, stops } = await lookAtVariants(desk, piece.actor, property, met);
      return { says, stops, property: property.handle };
    }
    case 'sitemap': {
      const row = await SitemapRow.findByPk(sitemapId ?? '');
      if (!row || !(await isKept(row.propertyId))) return GONE;
      const input = { sitemapId: row.id, sample: Math.min(PAGES_TRIED, desk.sitemaps.sample) };
      return readSitemap(desk, { ...piece, input }, met);
    }
  }
}

function isVoid({ tokens, ownership }: EnrolmentFacts, method: Method, desk: Desk): boolean {
  const token = tokens.find((one) => one.method === method);
  return ownership === null && token?.expiresAt != null && token.expiresAt <= nowText(desk);
}

async function isKept(propertyId: string): Promise<boolean> {
  return (await PropertyRow.count({ where: { id: propertyId, archivedAt: null } })) === 1;
}

/** Has something left alone for a while: the longer, the more often it came to nothing. */
async function putOff(desk: Desk, id: string): Promise<void> {
  const [row] = await desk.store.select<{ fails: number }>('SELECT fails FROM watch_tries WHERE id = $id', {
    id,
  });
  const fails = (row?.fails ?? 0) + 1;
  const wait = againAfter(Math.min(fails, 24) * (HOUR / 4), DAY);
  const notBefore = new Date(desk.clock.now().getTime() + wait).toISOString();
  await desk.store.writeQuietly((transaction) =>
    desk.store.run(
      `INSERT INTO watch_tries (id, fails, notBefore) VALUES ($id, $fails, $notBefore)
         ON CONFLICT (id) DO UPDATE SET fails = $fails, notBefore = $notBefore`,
      { id, fails, notBefore },
      transaction,
    ),
  );
}

async function settle(desk: Desk, id: string): Promise<void> {
  const [row] = await desk.store.select('SELECT id FROM watch_tries WHERE id = $id', { id });
  if (row)
    await desk.store.writeQuietly((transaction) =>
      desk.store.run('DELETE FROM watch_tries WHERE id = $id', { id }, transaction),
    );
}
