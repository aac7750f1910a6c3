import type { LetterInput } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { writtenDay, writtenMinute } from '../../api/formats.js';
import { hostsForPeople } from '../../core/address/host.js';
import { contactFor, contactsFor } from '../../core/letter/contact.js';
import { letterOf, type Letter, type Mend, type MendKind } from '../../core/letter/letter.js';
import { sumsOf } from '../sheet/sheet.js';
import { UNNAMED_AGENCY } from '../../core/report/report-formats.js';
import {
  isOpenTask,
  SHEET_PLACES,
  sheetOf,
  tokensIn,
  type Sheet,
  type SheetPart,
  type SheetPlace,
  type SheetPlaceKind,
  type SheetState,
  type SheetToken,
} from '../../core/sheet/sheet.js';
import type { OwnWords } from '../../core/wording/wording.js';
import { PersonRow } from '../../store/models/people.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { propertyIn } from '../checks/view.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { findAllEnrolments } from '../context/enrolment-refs.js';
import { EXACT } from '../context/references.js';
import { subjectOf, titleOf, type Subject } from '../sheet/subject.js';
import { tokensOf } from '../sheet/tokens.js';
import { wordsIn } from '../context/own-words.js';
import { contactsOf, type ContactValues } from './contacts.js';

/** What is to be asked of one contact. */
interface Asked {
  readonly contact: ContactValues;
  readonly properties: Map<string, PropertyRow>;
  /** Places, by kind and where. */
  readonly places: Set<string>;
  readonly mends: Mend[];
}

/** What would be written to one contact. */
export interface Draft {
  readonly contact: ContactValues;
  readonly properties: readonly PropertyRow[];
  /** When they were written to about any of it and have not answered. */
  readonly before: string | null;
  /** The tokens that it asks for. */
  readonly tokens: readonly SheetToken[];
  /** What a link that goes with it shows; null where there is nothing to be placed. */
  readonly part: SheetPart | null;
  /** The letter, with the address of a shared link or without. */
  readonly write: (link: string | null) => Letter;
}

/** Alerts that somebody of the client's mends, other than by placing what a sheet has. */
const WEBSITE_CASES: Readonly<Record<string, MendKind>> = {
  'stays-away': 'mendAway',
  'out-of-reach': 'mendReach',
  certificate: 'mendCertificate',
  'sitemap-unreachable': 'mendSitemap',
  'sitemap-fallen': 'mendFallen',
  'name-ends': 'mendName',
};

/**
 * What would be written to whom, one letter for each contact.
 * @param tried sentences that are only tried
 * @throws Problem where nobody is there, or nothing is to be asked
 */
export async function draftsFor(
  desk: Desk,
  actor: Actor,
  input: LetterInput,
  tried: readonly OwnWords[] = [],
): Promise<{ subject: Subject; drafts: Draft[] }> {
  const subject = await subjectOf(input);
  const all = await contactsOf(desk, subject.clientId);
  const named = input.contacts?.map((ref) => namedIn(all, ref));
  if (all.length === 0) throw new Problem('no-contacts', { title: subject.title });
  const [english, german] = await Promise.all([wordsIn(desk, 'en', tried), wordsIn(desk, 'de', tried)]);
  const about = await chosenIn(desk, input);
  const [tokens, alerts, open] = await Promise.all([
    tokensOf(desk, subject.properties, 'en', english.sheet).then(about.tokens),
    about.isTokensAlone ? [] : alertsOf(desk, subject, input.alerts ?? null),
    openLetters(desk, subject),
  ]);
  const each = askedOf(subject, all, tokens, alerts);
  const own = each.filter(({ contact }) => named?.includes(contact) !== false);
  // Whoever is asked by name and has nothing of their own is asked for all of it.
  const asked = own.length === 0 && named ? askedOf(subject, named, tokens, alerts) : own;
  if (asked.length === 0) throw new Problem('nothing-to-ask', { title: subject.title });
  const person = actor.personId === null ? null : await PersonRow.findByPk(actor.personId);
  const germanTokens = asked.some(({ contact }) => contact.language === 'de')
    ? about.tokens(await tokensOf(desk, subject.properties, 'de', german.sheet))
    : [];
  const whole = asked.flatMap(({ places }) => [...places]);
  const drafts = asked.map(({ contact, properties, places, mends }): Draft => {
    const { language, name } = contact;
    const words = language === 'de' ? german : english;
    const sheet = partOf(sheetOf(language === 'de' ? germanTokens : tokens), places);
    const own = [...properties.values()];
    const [only] = own;
    const last = open.find(
      ({ contactId, propertyId }) => contactId === contact.id && properties.has(propertyId),
    );
    const sheetAbout = {
      property: own.length === 1 && only ? titleOf(only) : subject.title,
      at: `${writtenMinute(nowText(desk))} UTC`,
      sums: sumsOf(sheet),
      left: 0,
      later: [],
      zip: false,
    };
    return {
      contact,
      properties: own,
      before: last?.at ?? null,
      part: sheet.open === 0 ? null : { enrolments: about.enrolments, places: kindsOf(places, whole) },
      tokens: tokens.filter(({ enrolment }) => own.some(({ handle }) => handle === propertyIn(enrolment))),
      write: (link) =>
        letterOf({
          ...{ words: words.letter, sheetWords: words.sheet },
          ...{ language, name, person: person?.name ?? '', sheet, about: sheetAbout, link, mends },
          agency: desk.agency.name === UNNAMED_AGENCY ? null : desk.agency.name,
          before: last ? writtenDay(last.at) : null,
        }),
    };
  });
  return { subject, drafts };
}

/** The kinds of places that are one contact's; null where they are asked for all that is to be placed. */
function kindsOf(own: ReadonlySet<string>, whole: readonly string[]): SheetPlaceKind[] | null {
  if (whole.every((key) => own.has(key))) return null;
  return SHEET_PLACES.filter((kind) => [...own].some((key) => key.startsWith(`${kind} `)));
}

function namedIn(contacts: readonly ContactValues[], ref: string): ContactValues {
  const wanted = ref.toLowerCase();
  const found =
    contacts.find(({ id }) => id === ref) ??
    contacts.filter(({ name, email }) => name.toLowerCase() === wanted || email?.toLowerCase() === wanted)[0];
  if (!found) throw new Problem('no-such-contact', { ref });
  return found;
}

interface OpenAlert {
  readonly id: string;
  readonly propertyId: string;
  readonly kind: string;
  readonly remedy: string;
}

/** What is open of the properties, and of that the website's; or those that are named. Throws Problem. */
async function alertsOf(
  { store }: Desk,
  { properties }: Subject,
  named: readonly string[] | null,
): Promise<OpenAlert[]> {
  const found = await store.select<OpenAlert>(
    `SELECT id, propertyId, kind, remedy FROM cases WHERE endedAt IS NULL AND propertyId IN (SELECT value FROM json_each($ids))
       AND ${named ? 'id' : 'kind'} IN (SELECT value FROM json_each($which)) ORDER BY openedAt, id`,
    {
      ids: JSON.stringify(properties.map(({ id }) => id)),
      which: JSON.stringify(named ?? Object.keys(WEBSITE_CASES)),
    },
  );
  const missing = named?.find((id) => !found.some((one) => one.id === id));
  if (missing !== undefined) throw new Problem('no-such-alert', { ref: missing });
  return found.filter(({ remedy }) => remedy !== '');
}

/** Which tokens a letter is about: those of enrolments that are named, none where only alerts are, else all. Throws Problem. */
async function chosenIn(
  desk: Desk,
  { enrolments, alerts }: LetterInput,
): Promise<{
  tokens: (all: readonly SheetToken[]) => readonly SheetToken[];
  isTokensAlone: boolean;
  /** Identifiers; null where all are meant. */
  enrolments: string[] | null;
}> {
  const isTokensAlone = enrolments !== undefined && alerts === undefined;
  if (enrolments === undefined)
    return { isTokensAlone, enrolments: null, tokens: (all) => (alerts === undefined ? all : []) };
  const ids = (await findAllEnrolments(desk, enrolments, EXACT)).map(({ id }) => id);
  const tokens = (all: readonly SheetToken[]) => tokensIn({ enrolments: ids, places: null }, all);
  return { isTokensAlone, enrolments: ids, tokens };
}

function openLetters(
  { store }: Desk,
  { properties }: Subject,
): Promise<{ contactId: string; propertyId: string; at: string }[]> {
  return store.select(
    `SELECT l.contactId, lp.propertyId, l.at FROM letter_properties lp JOIN letters l ON l.id = lp.letterId
      WHERE lp.propertyId IN (SELECT value FROM json_each($ids)) AND l.answeredAt IS NULL ORDER BY l.at DESC`,
    { ids: JSON.stringify(properties.map(({ id }) => id)) },
  );
}

/** What goes to whom: each place and each harm to the one who does it best of those who are there. */
function askedOf(
  { properties }: Subject,
  contacts: readonly ContactValues[],
  tokens: readonly SheetToken[],
  alerts: readonly OpenAlert[],
): Asked[] {
  const found = new Map<string, Asked>();
  const askOf = (contact: ContactValues, property: PropertyRow): Asked => {
    const asked = found.get(contact.id) ?? {
      contact,
      properties: new Map(),
      places: new Set(),
      mends: [],
    };
    asked.properties.set(property.id, property);
    found.set(contact.id, asked);
    return asked;
  };
  for (const property of properties) {
    const there = contactsFor(contacts, property.id);
    const own = sheetOf(tokens.filter(({ enrolment }) => propertyIn(enrolment) === property.handle));
    for (const place of own.places.filter(({ tasks }) => tasks.some(isOpenTask))) {
      const contact = contactFor(place.kind, there);
      if (contact) askOf(contact, property).places.add(keyOf(place));
    }
    for (const { kind, remedy } of alerts.filter(({ propertyId }) => propertyId === property.id)) {
      const contact = contactFor(kind === 'name-ends' ? 'name' : 'website', there);
      if (!contact) continue;
      const { mends } = askOf(contact, property);
      const [site, detail] = [titleOf(property), hostsForPeople(remedy)];
      const mend = { what: WEBSITE_CASES[kind] ?? 'mendOther', site, detail } as const;
      if (!mends.some((other) => other.site === site && other.detail === detail)) mends.push(mend);
    }
  }
  return [...found.values()];
}

function keyOf({ kind, where }: Pick<SheetPlace, 'kind' | 'where'>): string {
  return `${kind} ${where}`;
}

/** What a letter tells besides what is open: what may go, and what holds and must not be lost while somebody works there. */
const LETTER_STATES: ReadonlySet<SheetState> = new Set(['may-go', 'stays']);

/** Of a sheet the places that one contact visits, with what is to be done there. */
function partOf(sheet: Sheet, keys: ReadonlySet<string>): Sheet {
  const places = sheet.places
    .filter((place) => keys.has(keyOf(place)))
    .map((place) => ({
      ...place,
      tasks: place.tasks.filter((task) => isOpenTask(task) || LETTER_STATES.has(task.state)),
    }));
  const open = places.reduce((sum, { tasks }) => sum + tasks.filter(isOpenTask).length, 0);
  return { places, others: [], open, waiting: 0, done: 0 };
}
