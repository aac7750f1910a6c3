import type { FastifyReply } from 'fastify';
import type { InputOf, OutputOf, RouteName } from '../api/routes.js';
import { archiveClient, archiveProperty, restoreClient, restoreProperty } from '../desk/clients/archive.js';
import { addClient, editClient, listClients, showClient } from '../desk/clients/clients.js';
import { checkPieces, listChecks } from '../desk/checks/checks.js';
import { claimPieces } from '../desk/claims/claims.js';
import { addAccount, editAccount, listAccounts } from '../desk/engines/accounts.js';
import { adoptPieces } from '../desk/enrolments/adopting.js';
import { recordVerdict, takeBackVerdict } from '../desk/enrolments/verdicts.js';
import { whoseToken } from '../desk/tokens/whose.js';
import { forgetToken, pasteToken, recordReading } from '../desk/enrolments/by-hand.js';
import { showHistory } from '../desk/history/intervals.js';
import { endPieces, recordEnding } from '../desk/enrolments/ending.js';
import { addEngine, listEngines } from '../desk/engines/list.js';
import { changeAsked } from '../desk/sheet/requests.js';
import { showAdvice } from '../desk/engines/advice.js';
import { findPieces } from '../desk/sitemaps/find.js';
import { listFit } from '../desk/facts/fit.js';
import { enrolPieces } from '../desk/enrolments/ordering.js';
import { listEnrolments, showEnrolment } from '../desk/enrolments/view.js';
import { readJournal } from '../desk/context/journal.js';
import type { JobRunner } from '../desk/jobs/runner.js';
import type { NewPiece } from '../desk/jobs/work.js';
import { showJob } from '../desk/jobs/show.js';
import { WORK } from '../desk/works.js';
import { listJobs, type viewJob } from '../desk/jobs/view.js';
import type { Desk } from '../desk/context/desk.js';
import {
  addKey,
  addPerson,
  endKey,
  endPerson,
  listKeys,
  listPersons,
  signIn,
  type SignedIn,
} from '../desk/people/persons.js';
import { answersTaken } from '../desk/engines/facts-asked.js';
import { addProperty, editProperty, listProperties, showProperty } from '../desk/clients/properties.js';
import { askPieces, listRations } from '../desk/page-lookups/asking.js';
import { compareReadings } from '../desk/sitemaps/compare.js';
import { acceptFallPieces } from '../desk/sitemaps/accepting.js';
import { dropSitemap } from '../desk/sitemaps/dropping.js';
import { addSitemap } from '../desk/sitemaps/noting.js';
import { readPieces } from '../desk/sitemaps/reading.js';
import { listSitemaps, showSitemap } from '../desk/sitemaps/list.js';
import { submitPieces } from '../desk/sitemaps/submitting.js';
import { withdrawPieces } from '../desk/sitemaps/withdrawing.js';
import { publishPieces } from '../desk/publishing/publish.js';
import { addTarget, editTarget, endTarget, listTargets } from '../desk/publishing/targets.js';
import { robotsPieces } from '../desk/robots/judging.js';
import { writeReport } from '../desk/reports/client-report.js';
import { keepReport, listKeptReports, showKeptReport } from '../desk/reports/kept-reports.js';
import { deletionPiece, propertyDeletionPiece } from '../desk/handover/deletion.js';
import { holdersPieces, noteHolders } from '../desk/handover/holders.js';
import { showHandover } from '../desk/handover/show.js';
import { beginHandover, callOffHandover, endHandover, tickHandover } from '../desk/handover/steps.js';
import { editWording, listWording, previewWording } from '../desk/wording/wording.js';
import { addContact, endContact, listContacts } from '../desk/letters/contacts.js';
import {
  answerLetter,
  draftLetters,
  listLetters,
  showLetter,
  writeLetters,
} from '../desk/letters/letters.js';
import { addLink, endLink, listLinks } from '../desk/shared-links/links.js';
import { showSheet } from '../desk/sheet/sheet.js';
import { dropRobots, keepRobots, showRobots } from '../desk/robots/keeping.js';
import { makePiece } from '../desk/renewals/renewal.js';
import { allowVersion, writeNow } from '../desk/making/versions.js';
import { showHandOut } from '../desk/making/hand-out.js';
import { editRecipe } from '../desk/making/recipes.js';
import { listContents, outlineSitemap } from '../desk/contents/contents.js';
import { contentsPieces } from '../desk/contents/contents-work.js';
import { listMadePages, showMaking, viewMaking } from '../desk/making/view.js';
import { EXACT, findProperty } from '../desk/context/references.js';
import { tokenPieces } from '../desk/tokens/tokens.js';
import { addHost, dropHost } from '../desk/variants/hosts.js';
import { variantPieces } from '../desk/variants/variants-work.js';
import { showVariants } from '../desk/variants/view.js';
import type { Projections } from '../desk/projections/projections.js';
import { verifyRecords } from '../desk/projections/verify.js';
import { addReport, endReport, listReports, showReport } from '../desk/reports/orders.js';
import { handOver, putOff, takeUp } from '../desk/projections/assignments.js';
import type { Ready } from '../desk/lists/document-text.js';
import { readWorklist } from '../desk/projections/worklist.js';
import { readYard } from '../desk/projections/yard.js';
import { pauseWatch, resumeWatch } from '../desk/context/pauses.js';
import { showWatch } from '../desk/watch/view.js';
import { addWebhook, endWebhook, listWebhooks } from '../desk/notifications/webhooks.js';
import { listAlerts } from '../desk/notifications/alert-list.js';
import { listNotifications, retryNotification, showNotification } from '../desk/outbox/messages.js';
import { editRecipient, listRecipients } from '../desk/outbox/recipients.js';
import { clearSession, setSession } from './plugins/sign-in.js';
import type { ProcessFaults } from './process-faults.js';
import type { Expected } from '../desk/context/versions.js';

/** What a handler gets beside its input. */
export interface Asked {
  readonly desk: Desk;
  readonly jobs: JobRunner;
  readonly kept: Projections;
  /** Who asks; on routes for anyone, an empty person. */
  readonly who: SignedIn;
  readonly reply: FastifyReply;
  /** The versions that an edit may have been made against, by If-Match; null for any. */
  readonly ifMatch: Expected;
  /** How long the caller would rather wait for a job than be told to come back (RFC 7240 §4.3), in milliseconds. */
  readonly waitMs: number;
  readonly version: string;
  readonly faults: ProcessFaults;
  /** The address by which people and engines come. */
  readonly base: string;
  /** Whether people come over HTTPS. */
  readonly isSecure: boolean;
}

/** What comes in, after its schema has passed it. */
type Taken<Name extends RouteName> = Required<Pick<InputOf<Name>, keyof InputOf<Name>>>;
/** A page of a list whose items lie ready, where an answer is such a page. */
type ReadyOf<Answer> = Answer extends { items: readonly unknown[] } ? Ready<Answer> : never;

type Handlers = {
  [Name in RouteName]: (
    asked: Asked,
    input: Taken<Name>,
  ) => Promise<OutputOf<Name> | ReadyOf<OutputOf<Name>>> | OutputOf<Name>;
};

function actorOf({ who }: Asked): { personId: string } {
  return { personId: who.person.id };
}

async function started(
  asked: Asked,
  kind: string,
  pieces: readonly NewPiece[],
): Promise<Awaited<ReturnType<typeof viewJob>>> {
  const id = await asked.jobs.start(kind, actorOf(asked), pieces);
  return asked.jobs.settled(id, asked.waitMs);
}

/** Every route's use case: one line each, since the work is the desk's. */
export const handlers: Handlers = {
  signIn: async ({ desk, reply, isSecure }, { body }) => {
    const agent = String(reply.request.headers['user-agent'] ?? '');
    const { person, secret, expiresAt } = await signIn(desk, body.name, body.password, agent);
    setSession(reply, secret, expiresAt, isSecure);
    return { person };
  },
  signOut: async ({ desk, who, reply, isSecure }) => {
    await endKey(desk, who.person.id, who.keyId);
    clearSession(reply, isSecure);
    return null;
  },
  whoAmI: ({ desk, who }) => ({ person: who.person, now: desk.clock.now().toISOString() }),
  health: ({ version, faults }) => ({ status: 'up', version, faults: faults.count }),
  addKey: ({ desk, who }, { body }) => addKey(desk, who.person.id, body),
  listKeys: ({ desk, who }) => listKeys(desk, who),
  endKey: async ({ desk, who }, { params }) => {
    await endKey(desk, who.person.id, params.id);
    return null;
  },
  listPersons: () => listPersons(),
  addPerson: (asked, { body }) => addPerson(asked.desk, actorOf(asked), body),
  endPerson: async (asked, { params }) => {
    await endPerson(asked.desk, actorOf(asked), params.id);
    return null;
  },

  listClients: ({ desk, kept }, { query }) => listClients(desk, kept, query),
  addClient: (asked, { body }) => addClient(asked.desk, actorOf(asked), body),
  showClient: ({ desk, kept }, { params }) => showClient(desk, kept, params.client),
  editClient: (asked, { params, body }) =>
    editClient(asked.desk, actorOf(asked), params.client, body, asked.ifMatch),
  archiveClient: async (asked, { params, query }) => {
    await archiveClient(asked.desk, actorOf(asked), params.client, query?.anyway === true);
    return null;
  },
  restoreClient: (asked, { params }) => restoreClient(asked.desk, actorOf(asked), params.client),

  listProperties: (_, { query }) => listProperties(query),
  addProperty: (asked, { body }) => addProperty(asked.desk, asked.jobs, actorOf(asked), body),
  showProperty: (_, { params }) => showProperty(params.property),
  editProperty: (asked, { params, body }) => {
    const facts = body.facts && answersTaken(asked.desk, body.facts);
    const changes = { ...body, ...(facts ? { facts } : {}) };
    return editProperty(asked.desk, actorOf(asked), params.property, changes, asked.ifMatch);
  },
  archiveProperty: async (asked, { params, query }) => {
    await archiveProperty(asked.desk, actorOf(asked), params.property, query?.anyway === true);
    return null;
  },
  restoreProperty: (asked, { params }) => restoreProperty(asked.desk, actorOf(asked), params.property),
  showVariants: ({ desk }, { params }) => showVariants(desk, params.property),
  lookAtVariants: async (asked, { body }) => started(asked, 'variants', await variantPieces(body)),
  addHost: async (asked, { params, body }) => {
    const property = await addHost(asked.desk, actorOf(asked), params.property, body.host);
    return started(asked, 'variants', await variantPieces({ properties: [property] }));
  },
  dropHost: async (asked, { params }) => {
    const property = await dropHost(asked.desk, actorOf(asked), params.property, params.host);
    return started(asked, 'variants', await variantPieces({ properties: [property] }));
  },

  listEngines: ({ desk }) => listEngines(desk),
  addEngine: (asked, { body }) => addEngine(asked.desk, actorOf(asked), body),
  listAccounts: ({ desk }) => listAccounts(desk),
  addAccount: (asked, { body }) => addAccount(asked.desk, actorOf(asked), body),
  editAccount: (asked, { params, body }) =>
    editAccount(asked.desk, actorOf(asked), params.account, body, asked.ifMatch),
  adopt: async (asked, { body }) => started(asked, 'adopt', await adoptPieces(asked.desk, body)),
  fit: ({ desk }, { params }) => listFit(desk, params.property),
  advice: ({ desk }, { params }) => showAdvice(desk, params.enrolment),
  askMethod: async (asked, { params, body }) => {
    await changeAsked(asked.desk, actorOf(asked), params.enrolment, body.method);
    return null;
  },
  endEnrolment: async (asked, { params }) =>
    started(asked, 'end', await endPieces(asked.desk, params.enrolment)),
  recordEnding: (asked, { params }) => recordEnding(asked.desk, actorOf(asked), params.enrolment),
  whoseToken: ({ desk }, { query }) => whoseToken(desk, query.text),
  pasteToken: (asked, { params, body }) => pasteToken(asked.desk, actorOf(asked), params.enrolment, body),
  forgetToken: async (asked, { params }) => {
    await forgetToken(asked.desk, actorOf(asked), params.enrolment, params.method);
    return null;
  },
  recordVerdict: (asked, { params, body }) =>
    recordVerdict(asked.desk, actorOf(asked), params.enrolment, body),
  takeBackVerdict: (asked, { params }) => takeBackVerdict(asked.desk, actorOf(asked), params.enrolment),
  recordReading: (asked, { params, body }) => recordReading(asked.desk, actorOf(asked), params.id, body),

  listEnrolments: ({ desk }, { query }) => listEnrolments(desk, query.property),
  showEnrolment: ({ desk }, { params }) => showEnrolment(desk, params.enrolment),
  enrol: async (asked, { body }) =>
    started(asked, 'enrol', await enrolPieces(asked.desk, asked.kept, actorOf(asked), body)),
  getTokens: async (asked, { body }) => started(asked, 'token', await tokenPieces(asked.desk, body)),
  check: async (asked, { body }) => started(asked, 'check', await checkPieces(asked.desk, body)),
  listChecks: ({ desk }, { params, query }) => listChecks(desk, params.enrolment, query),
  claim: async (asked, { body }) => started(asked, 'claim', await claimPieces(asked.desk, body)),

  listSitemaps: ({ desk, kept }, { query }) => listSitemaps(desk, kept, query),
  showSitemap: ({ desk }, { params }) => showSitemap(desk, params.sitemap),
  compareReadings: (_, { params, query }) => compareReadings(params.sitemap, query),
  addSitemap: (asked, { body }) => addSitemap(asked.desk, actorOf(asked), body),
  lookUp: async (asked, { body }) => started(asked, 'ask', await askPieces(asked.desk, 'lookup', body)),
  askVisit: async (asked, { body }) => started(asked, 'ask', await askPieces(asked.desk, 'visit', body)),
  listRations: ({ desk }) => listRations(desk),
  findSitemaps: async (asked, { params, body }) =>
    started(asked, 'find-sitemaps', await findPieces(params.property, body.note === true)),
  readContents: async (asked, { params }) =>
    started(asked, 'read-contents', await contentsPieces(params.sitemap)),
  listContents: ({ desk }, { params, query }) => listContents(desk, params.sitemap, query),
  outlineSitemap: ({ desk }, { params, query }) => outlineSitemap(desk, params.sitemap, query.folder),
  readSitemaps: async (asked, { body }) => started(asked, 'read', await readPieces(body)),
  acceptFall: async (asked, { params }) =>
    started(asked, 'read', await acceptFallPieces(asked.desk, actorOf(asked), params.sitemap)),
  dropSitemap: async (asked, { params }) => {
    await dropSitemap(asked.desk, actorOf(asked), params.sitemap);
    return null;
  },
  submitSitemap: async (asked, { body }) => started(asked, 'submit', await submitPieces(asked.desk, body)),
  withdrawSitemap: async (asked, { params }) => started(asked, 'withdraw', await withdrawPieces([params.id])),
  withdrawSitemaps: async (asked, { body }) =>
    started(asked, 'withdraw', await withdrawPieces(body.submissions)),

  showMaking: ({ desk }, { params }) => showMaking(desk, params.property),
  editRecipe: async (asked, { params, body }) => {
    const property = await findProperty(params.property, EXACT);
    await editRecipe(asked.desk, actorOf(asked), property, body);
    return viewMaking(asked.desk, property);
  },
  makeSitemap: async (asked, { params, body }) => {
    const property = await findProperty(params.property, EXACT);
    await editRecipe(asked.desk, actorOf(asked), property, body);
    return started(asked, 'make', [makePiece(property, false)]);
  },
  listMadePages: ({ desk }, { params, query }) => listMadePages(desk, params.property, query),
  writeSitemap: (asked, { params, body }) =>
    writeNow(asked.desk, actorOf(asked), params.property, body.anyway === true),
  allowVersion: (asked, { params }) => allowVersion(asked.desk, actorOf(asked), params.version),
  listTargets: (_, { params }) => listTargets(params.property),
  addTarget: (asked, { params, body }) => addTarget(asked.desk, actorOf(asked), params.property, body),
  editTarget: (asked, { params, body }) => editTarget(asked.desk, actorOf(asked), params.target, body),
  endTarget: async (asked, { params }) => {
    await endTarget(asked.desk, actorOf(asked), params.target);
    return null;
  },
  judgeRobots: async (asked, { params, body }) =>
    started(asked, 'robots', await robotsPieces(params.property, body)),
  listWording: ({ desk }, { query }) => listWording(desk, query),
  editWording: (asked, { body }) => editWording(asked.desk, actorOf(asked), body),
  previewWording: (asked, { body }) => previewWording(asked.desk, actorOf(asked), body),
  showHandover: ({ desk }, { params }) => showHandover(desk, params.client),
  askHolders: async (asked, { params }) =>
    started(asked, 'holders', await holdersPieces(asked.desk, params.client)),
  noteHolders: async (asked, { params, body }) => {
    await noteHolders(asked.desk, actorOf(asked), params.enrolment, body.says);
    return null;
  },
  beginHandover: (asked, { params }) => beginHandover(asked.desk, actorOf(asked), params.client),
  tickHandover: (asked, { params, body }) => tickHandover(asked.desk, actorOf(asked), params.client, body),
  callOffHandover: (asked, { params }) => callOffHandover(asked.desk, actorOf(asked), params.client),
  endHandover: (asked, { params, body }) => endHandover(asked.desk, actorOf(asked), params.client, body),
  deleteProperty: async (asked, { params, body }) =>
    started(asked, 'delete-client', [
      await propertyDeletionPiece(asked.desk, asked.who, params.property, body.anyway ?? false),
    ]),
  deleteClient: async (asked, { params, body }) =>
    started(asked, 'delete-client', [await deletionPiece(asked.desk, params.client, body.anyway ?? false)]),
  writeReport: ({ desk, kept }, { params, query }) => writeReport(desk, kept, params.client, query),
  keepReport: (asked, { params, body }) =>
    keepReport(asked.desk, asked.kept, actorOf(asked), params.client, body),
  listKeptReports: ({ desk }, { params, query }) => listKeptReports(desk, params.client, query),
  showKeptReport: ({ desk }, { params }) => showKeptReport(desk, params.id),
  listContacts: ({ desk }, { query }) => listContacts(desk, query),
  addContact: (asked, { body }) => addContact(asked.desk, actorOf(asked), body),
  endContact: async (asked, { params }) => {
    await endContact(asked.desk, actorOf(asked), params.id);
    return null;
  },
  draftLetters: (asked, { body }) => draftLetters(asked.desk, actorOf(asked), body),
  writeLetters: (asked, { body }) => writeLetters(asked.desk, actorOf(asked), body, asked.base),
  listLetters: ({ desk }, { query }) => listLetters(desk, query),
  showLetter: ({ desk }, { params }) => showLetter(desk, params.id),
  answerLetter: (asked, { params, body }) => answerLetter(asked.desk, actorOf(asked), params.id, body.says),
  addLink: (asked, { body }) => addLink(asked.desk, actorOf(asked), body, asked.base),
  listLinks: ({ desk }, { query }) => listLinks(desk, query),
  endLink: async (asked, { params }) => {
    await endLink(asked.desk, actorOf(asked), params.id);
    return null;
  },
  showSheet: ({ desk }, { query }) => showSheet(desk, query, query.language),
  showRobots: (_, { params }) => showRobots(params.property),
  keepRobots: (asked, { params, body }) => keepRobots(asked.desk, actorOf(asked), params.property, body),
  dropRobots: async (asked, { params }) => {
    await dropRobots(asked.desk, actorOf(asked), params.property);
    return null;
  },
  publish: async (asked, { params, body }) =>
    started(asked, 'publish', await publishPieces(params.property, asked.who.person.role, body)),
  showHandOut: ({ desk, base }, { params }) => showHandOut(desk, params.property, base),

  yard: ({ desk, kept }, { query }) => readYard(desk, kept, query),
  worklist: ({ desk, kept, who }, { query }) => readWorklist(desk, kept, who, query),
  putOffSteps: (asked, { body }) => putOff(asked.desk, asked.kept, actorOf(asked), body),
  takeUpSteps: (asked, { body }) => takeUp(asked.desk, asked.kept, actorOf(asked), body),
  handSteps: ({ desk, kept, who }, { body }) => handOver(desk, kept, who, body),
  verifyRecords: ({ desk, kept }) => verifyRecords(desk, kept),
  history: ({ desk }, { params }) => showHistory(desk, params.property),
  showWatch: ({ desk, kept }, { query }) => showWatch(desk, kept, query),
  pauseWatch: (asked, { body }) => pauseWatch(asked.desk, actorOf(asked), body),
  resumeWatch: (asked, { body }) => resumeWatch(asked.desk, actorOf(asked), body),
  listAlerts: ({ desk, kept }, { query }) => listAlerts(desk, kept, query),
  listRecipients: ({ desk, who }) => listRecipients(desk, who),
  editRecipient: ({ desk, who }, { params, body }) => editRecipient(desk, who, params.person, body),
  listReports: ({ desk, who }) => listReports(desk, who),
  addReport: ({ desk, who }, { body }) => addReport(desk, who, body),
  showReport: ({ desk, kept, who }, { params }) => showReport(desk, kept, who, params.id),
  endReport: async ({ desk, who }, { params }) => {
    await endReport(desk, who, params.id);
    return null;
  },
  listWebhooks: ({ desk }) => listWebhooks(desk),
  addWebhook: (asked, { body }) => addWebhook(asked.desk, actorOf(asked), body),
  endWebhook: async (asked, { params }) => {
    await endWebhook(asked.desk, actorOf(asked), params.id);
    return null;
  },
  listNotifications: ({ desk }, { query }) => listNotifications(desk, query),
  showNotification: ({ desk }, { params }) => showNotification(desk, params.id),
  retryNotification: (asked, { params }) => retryNotification(asked.desk, actorOf(asked), params.id),
  journal: (_, { query }) => readJournal(query),
  showJob: ({ desk }, { params, query }) => showJob(desk, WORK, params.id, query),
  stopJob: ({ jobs }, { params }) => jobs.halt(params.id),
  resumeJob: ({ jobs }, { params }) => jobs.goOn(params.id),
  listJobs: (_, { query }) => listJobs(query),
};
