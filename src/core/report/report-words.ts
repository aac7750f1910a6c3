import type { Badge } from '../badge/standing.js';
import { counted } from '../input/plural.js';
import type { SheetLanguage } from '../sheet/sentences.js';
import type { AlertKind } from '../alerts/alert.js';
import { aboutWords, aboutWordsInGerman } from '../time/duration.js';
import type { StepKind } from '../worklist/kinds.js';

/** The parts of a report, in the order in which an owner reads them. */
export const PARTS = ['toDo', 'properties', 'harms', 'did', 'changed', 'sitemaps'] as const;
export type ReportPart = (typeof PARTS)[number];

/** Something from the journal, told of one engine and of what is registered there. */
type Phrase = (engine: string, what: string, reason: string) => string;
type Count = (count: number) => string;

/** Everything that a report says in one language, but for what it names. */
export interface ReportWords {
  /** What stands over a part, and in it where there is nothing to tell. */
  readonly heads: Readonly<Record<ReportPart, { readonly title: string; readonly none: string }>>;
  readonly span: (from: string, to: string) => string;
  /** What comes first, one sentence for each thing. */
  readonly standing: (properties: number, held: number) => string;
  readonly unseen: Count;
  readonly withdrawn: Count;
  readonly harms: (met: number, mended: number) => string;
  readonly nothingToDo: string;
  readonly toDo: Count;
  readonly more: Count;
  /** What became of a harm; times in milliseconds. */
  readonly outcome: {
    readonly acted: (before: number) => string;
    readonly open: string;
    readonly mended: (after: number) => string;
    readonly untouched: string;
    readonly mendedUntouched: (after: number) => string;
  };
  /** How a badge is told to people who have never heard of badges. */
  readonly stands: Readonly<Record<Badge, string>>;
  readonly oneOfMore: (stands: string, many: number, all: number) => string;
  readonly website: string;
  readonly unchanged: (url: string, count: string) => string;
  readonly countedLine: (now: string, before: string) => string;
  readonly foundBy: (engine: string, count: string) => string;
  readonly itsAddresses: string;
  /** What happened, by the journal's kinds: of an enrolment, and of anything else with what its sentence names. */
  readonly phrases: Readonly<Record<string, Phrase>>;
  readonly wholeDomain: (name: string) => string;
  readonly mail: {
    readonly subject: (client: string, span: string) => string;
    readonly howItStands: string;
    readonly noneStands: string;
    readonly proved: (engines: string) => string;
    readonly notYet: (engines: string) => string;
    readonly notRead: string;
    readonly addresses: Count;
    readonly unread: (engine: string) => string;
    readonly over: (says: string) => string;
    readonly stopText: (link: string) => string;
    readonly sentBy: string;
    readonly stop: string;
    readonly attached: string;
  };
  /** What only our own sentences say, where the language has its own for it; null where they are told as they are. */
  readonly cases: Readonly<Record<AlertKind, (cause: string) => string>> | null;
  readonly steps: Readonly<Partial<Record<StepKind, (engine: string) => string>>> | null;
  readonly anyStep: string;
}

const ofWhichMended = (mended: number, all: number): string => {
  if (mended === 0) return '';
  return mended === all
    ? ', and mended before any engine acted'
    : `, ${String(mended)} of them mended before any engine acted`;
};

const ENGLISH: ReportWords = {
  heads: {
    toDo: { title: 'To be done by you', none: 'Nothing at present.' },
    properties: { title: 'How each website stands', none: 'No website is looked after yet.' },
    harms: { title: 'Harms that were met', none: 'None.' },
    did: { title: 'What we did', none: 'Nothing but to look.' },
    changed: { title: 'What changed', none: 'Nothing.' },
    sitemaps: { title: 'Addresses in the sitemaps', none: 'There is no sitemap on record.' },
  },
  span: (from, to) => `${from} to ${to}`,
  standing: (properties, held) =>
    `${counted(properties, 'website', 'websites')}; ${counted(held, 'proof of ownership holds', 'proofs of ownership hold')}.`,
  unseen: (count) => `${counted(count, 'proof', 'proofs')} cannot be seen any more.`,
  withdrawn: (count) => `${counted(count, 'proof was', 'proofs were')} withdrawn by an engine.`,
  harms: (met, mended) => `${counted(met, 'harm was', 'harms were')} met${ofWhichMended(mended, met)}.`,
  nothingToDo: 'Nothing has to be done by you.',
  toDo: (count) => `${counted(count, 'thing waits', 'things wait')} for you.`,
  more: (count) => `And ${String(count)} more.`,
  outcome: {
    acted: (before) => `Seen ${aboutWords(before)} before an engine acted on it`,
    open: '; not mended yet.',
    mended: (after) => `; mended after ${aboutWords(after)}.`,
    untouched: 'Open; no engine has acted on it so far.',
    mendedUntouched: (after) => `Mended after ${aboutWords(after)}, before any engine acted on it.`,
  },
  stands: {
    bare: 'registered',
    issued: 'token not in place yet',
    'in-place': 'token in place, not claimed yet',
    held: 'held',
    slipping: 'token not seen any more',
    lost: 'withdrawn by the engine',
  },
  oneOfMore: (stands, many, all) => `${stands} (${String(many)} of ${String(all)})`,
  website: 'Website',
  unchanged: (url, count) => `${url}: ${count} all the time, here and at every engine that counted.`,
  countedLine: (now, before) => `${now} addresses (${before} before)`,
  foundBy: (engine, count) => `${engine} found ${count}`,
  itsAddresses: 'its addresses',
  phrases: {
    enrolled: (engine, what) => `Registered at ${engine}: ${what}.`,
    'enrolled.again': (engine, what) => `Registered at ${engine} anew: ${what}.`,
    'enrolment.adopted': (engine, what) =>
      `Registered at ${engine} before, and looked after from now on: ${what}.`,
    'enrolment.ended': (engine, what) => `No longer registered at ${engine}: ${what}.`,
    'enrolment.missing': (engine, what) => `${engine} has lost the registration of ${what}.`,
    'claim.confirmed': (engine, what) => `${engine} confirmed the ownership of ${what}.`,
    'claim.refused': (engine, what, reason) =>
      `${engine} did not confirm the ownership of ${what} yet${reason || '.'}`,
    'ownership.confirmed': (engine, what) => `${engine} confirmed the ownership of ${what}.`,
    'ownership.withdrawn': (engine, what, reason) =>
      `${engine} withdrew the proof of ownership of ${what}${reason || '.'}`,
  },
  wholeDomain: (name) => `the whole domain ${name}`,
  mail: {
    subject: (client, span) => `${client}: how your websites stand, ${span}`,
    howItStands: 'How it stands',
    noneStands: 'Nothing is looked after yet.',
    proved: (engines) => `Ownership proved: ${engines}.`,
    notYet: (engines) => `Not yet, or not any more: ${engines}.`,
    notRead: 'not read yet',
    addresses: (count) => counted(count, 'address', 'addresses'),
    unread: (engine) => `${engine} has not read it yet`,
    over: (says) => `Resolved: ${says}`,
    stopText: (link) => `No more of these reports: ${link}`,
    sentBy: 'This is sent by the agency that looks after your websites.',
    stop: 'No more of these reports',
    attached: 'The whole report is attached as a page to read or print.',
  },
  cases: null,
  steps: null,
  anyStep: '',
};

const zahl = (count: number, one: string, many: string): string =>
  `${count === 1 ? one : `${String(count)} ${many}`}`;

const GERMAN_METHODS: Readonly<Record<string, string>> = {
  meta: 'Das Meta-Tag',
  file: 'Die Datei',
  dns: 'Der TXT-Eintrag',
};

const GERMAN_HINDRANCES: Readonly<Record<string, string>> = {
  site: 'Die Website ist nicht erreichbar',
  names: 'Der Name lässt sich nicht auflösen',
  certificate: 'Das Zertifikat ist fehlerhaft',
  wall: 'Die Website sperrt unsere Abrufe aus',
  means: 'Die Website lässt sich nur mit zu viel Aufwand ansehen',
};

const GERMAN: ReportWords = {
  heads: {
    toDo: { title: 'Von Ihnen zu erledigen', none: 'Derzeit nichts.' },
    properties: { title: 'Stand der Websites', none: 'Es wird noch keine Website betreut.' },
    harms: { title: 'Aufgetretene Probleme', none: 'Keine.' },
    did: { title: 'Was wir getan haben', none: 'Wir haben nur nachgesehen.' },
    changed: { title: 'Was sich geändert hat', none: 'Nichts.' },
    sitemaps: { title: 'Adressen in den Sitemaps', none: 'Es ist keine Sitemap erfasst.' },
  },
  span: (from, to) => `${from} bis ${to}`,
  standing: (properties, held) =>
    `${zahl(properties, 'Eine Website', 'Websites')}; ${zahl(held, 'ein Inhabernachweis gilt', 'Inhabernachweise gelten')}.`,
  unseen: (count) =>
    `${zahl(count, 'Ein Nachweis ist', 'Nachweise sind')} auf der Website nicht mehr zu sehen.`,
  withdrawn: (count) =>
    `${zahl(count, 'Ein Nachweis wurde', 'Nachweise wurden')} von einer Suchmaschine zurückgezogen.`,
  harms: (met, mended) =>
    `${zahl(met, 'Ein Problem ist', 'Probleme sind')} aufgetreten${
      mended === 0
        ? ''
        : mended === met
          ? ' und behoben, bevor eine Suchmaschine darauf reagiert hat'
          : `, davon ${String(mended)} behoben, bevor eine Suchmaschine darauf reagiert hat`
    }.`,
  nothingToDo: 'Von Ihnen ist nichts zu erledigen.',
  toDo: (count) => `${zahl(count, 'Ein Punkt wartet', 'Punkte warten')} auf Sie.`,
  more: (count) => `Und ${String(count)} weitere.`,
  outcome: {
    acted: (before) => `Mit ${aboutWordsInGerman(before)} Vorsprung vor einer Suchmaschine erkannt`,
    open: '; noch nicht behoben.',
    mended: (after) => `; nach ${aboutWordsInGerman(after)} behoben.`,
    untouched: 'Offen; bisher hat keine Suchmaschine darauf reagiert.',
    mendedUntouched: (after) =>
      `Nach ${aboutWordsInGerman(after)} behoben, bevor eine Suchmaschine darauf reagiert hat.`,
  },
  stands: {
    bare: 'angemeldet',
    issued: 'Kennung noch nicht hinterlegt',
    'in-place': 'Kennung hinterlegt, noch nicht bestätigt',
    held: 'bestätigt',
    slipping: 'Kennung nicht mehr zu sehen',
    lost: 'von der Suchmaschine zurückgezogen',
  },
  oneOfMore: (stands, many, all) => `${stands} (${String(many)} von ${String(all)})`,
  website: 'Website',
  unchanged: (url, count) =>
    `${url}: durchgehend ${count}, hier und bei jeder Suchmaschine, die gezählt hat.`,
  countedLine: (now, before) => `${now} Adressen (vorher ${before})`,
  foundBy: (engine, count) => `${engine} hat ${count} gefunden`,
  itsAddresses: 'ihre Adressen',
  phrases: {
    enrolled: (engine, what) => `Bei ${engine} angemeldet: ${what}.`,
    'enrolled.again': (engine, what) => `Bei ${engine} neu angemeldet: ${what}.`,
    'enrolment.adopted': (engine, what) =>
      `War bei ${engine} schon angemeldet und wird jetzt betreut: ${what}.`,
    'enrolment.ended': (engine, what) => `Bei ${engine} nicht mehr angemeldet: ${what}.`,
    'enrolment.missing': (engine, what) => `${engine} kennt die Anmeldung von ${what} nicht mehr.`,
    'claim.confirmed': (engine, what) => `${engine} hat die Inhaberschaft bestätigt: ${what}.`,
    'claim.refused': (engine, what, reason) =>
      `${engine} hat die Inhaberschaft noch nicht bestätigt: ${what}${reason || '.'}`,
    'ownership.confirmed': (engine, what) => `${engine} hat die Inhaberschaft bestätigt: ${what}.`,
    'ownership.withdrawn': (engine, what, reason) =>
      `${engine} hat den Nachweis zurückgezogen: ${what}${reason || '.'}`,
    'property.added': (_, what) => `In die Betreuung aufgenommen: ${what}.`,
    'sitemap.submitted': (engine, what) => `Bei ${engine} eingereicht: ${what}.`,
    'sitemap.withdrawn': (engine, what) => `Bei ${engine} zurückgenommen: ${what}.`,
    'sitemap.made': () => 'Eine Sitemap erstellt.',
    'robots.kept': () => 'Eine robots.txt erstellt.',
    'letter.written': () => 'Eine Nachricht an Ihre Ansprechpartner geschickt.',
    publish: () => 'Dateien oder Einträge auf der Website hinterlegt.',
  },
  wholeDomain: (name) => `die ganze Domain ${name}`,
  mail: {
    subject: (client, span) => `${client}: Stand Ihrer Websites, ${span}`,
    howItStands: 'Stand der Dinge',
    noneStands: 'Es wird noch keine Website betreut.',
    proved: (engines) => `Inhaberschaft bestätigt: ${engines}.`,
    notYet: (engines) => `Noch nicht oder nicht mehr: ${engines}.`,
    notRead: 'noch nicht gelesen',
    addresses: (count) => zahl(count, 'eine Adresse', 'Adressen'),
    unread: (engine) => `${engine} hat sie noch nicht gelesen`,
    over: (says) => `Behoben: ${says}`,
    stopText: (link) => `Diese Berichte abbestellen: ${link}`,
    sentBy: 'Diese Nachricht kommt von der Agentur, die Ihre Websites betreut.',
    stop: 'Diese Berichte abbestellen',
    attached: 'Der vollständige Bericht liegt als Seite zum Lesen oder Drucken bei.',
  },
  cases: {
    lost: (engine) => `${engine} hat den Inhabernachweis zurückgezogen.`,
    slipping: (method) => `${GERMAN_METHODS[method] ?? 'Die Kennung'} ist von der Website verschwunden.`,
    'enrolment-lost': () =>
      'Eine Suchmaschine kennt die Anmeldung nicht mehr; an der Website liegt es nicht.',
    moved: (cause) => `Die Website ist umgezogen, nach ${cause.split(' ')[0] ?? ''}.`,
    'stays-away': () => 'Die Website weist Suchmaschinen ab.',
    'out-of-reach': (by) =>
      `${GERMAN_HINDRANCES[by] ?? 'Die Website ist nicht erreichbar'}. Die Kennung ist nicht zu sehen; verloren ist noch nichts.`,
    'sitemap-unreachable': (url) => `Die Sitemap ${url} ist nicht erreichbar.`,
    'sitemap-fallen': (url) => `In der Sitemap ${url} stehen viel weniger Adressen als vorher.`,
    'server-down': () => 'Der Server, auf dem die Website liegt, war nicht erreichbar.',
    'cut-off': () => 'Von uns aus war vorübergehend nichts zu erreichen.',
    unsent: () => 'Nachrichten ließen sich nicht verschicken.',
    certificate: () => 'Das Zertifikat der Website läuft bald ab oder ist abgelaufen.',
    'name-ends': (cause) => `Die Registrierung des Namens ${cause.split(' ')[0] ?? ''} läuft aus.`,
    'token-ends': () => 'Eine Kennung wird bald ungültig.',
    'reading-overdue': (url) => `Die Sitemap ${url} hätte inzwischen gelesen sein sollen.`,
    'sitemap-still': (url) => `Die Sitemap ${url} hat sich lange nicht geändert.`,
    'switched-off': () => 'Eine Suchmaschine nimmt manche Aufträge vorübergehend nicht an.',
  },
  steps: {
    place: (engine) =>
      `Für ${engine} ist eine Kennung zu hinterlegen; was wohin gehört, steht auf dem Blatt, das Sie von uns bekommen.`,
    repair: (engine) =>
      `Die Kennung für ${engine} ist nicht mehr richtig zu sehen und muss wieder hinterlegt werden.`,
    'prove-again': (engine) =>
      `${engine} hat den Nachweis zurückgezogen; die Kennung muss wieder hinterlegt werden.`,
    renew: () =>
      'Ein Zertifikat oder ein Domainname läuft aus und ist zu verlängern; wir schreiben Ihnen, welcher.',
    'mend-site': () => 'An der Website selbst ist etwas zu beheben; wir schreiben Ihnen, was.',
    'mend-sitemap': () => 'An der Sitemap ist etwas zu beheben; wir schreiben Ihnen, was.',
  },
  anyStep: 'Es ist etwas zu erledigen; wir schreiben Ihnen, was.',
};

/** The words of reports, by language: the same languages as sheets. */
export const REPORT_WORDS: Readonly<Record<SheetLanguage, ReportWords>> = { en: ENGLISH, de: GERMAN };
