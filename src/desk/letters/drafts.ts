import type { LetterInput } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { writtenDay, writtenMinute } from '../../api/written.js';
import { contactFor, contactsFor } from '../../core/letter/contact.js';
import { letterOf, type Letter } from '../../core/letter/letter.js';
import { isToDo } from '../../core/sheet/forms.js';
import { sumsOf } from '../sheet/sheet.js';
import { sheetOf, type Sheet, type SheetPlace, type SheetToken } from '../../core/sheet/sheet.js';
import type { OwnWords } from '../../core/wording/wording.js';
import { PersonRow } from '../../store/models/people.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { propertyIn } from '../checks/view.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { subjectOf, type Subject } from '../sheet/subject.js';
import { tokensOf } from '../sheet/tokens.js';
import { wordsIn } from '../wording/own-words.js';
import { contactsOf, type ContactValues } from './contacts.js';

/** What is to be asked of one contact. */
interface Asked {
  readonly contact: ContactValues;
  readonly properties: Map<string, PropertyRow>;
  /** Places, by kind and where. */
  readonly places: Set<string>;
  readonly remedies: string[];
}

/** What would be written to one contact. */
export interface Draft {
  readonly contact: ContactValues;
  readonly properties: readonly PropertyRow[];
  /** When they were written to about any of it and have not answered. */
  readonly before: string | null;
  /** The letter, with the address of a shared link or without. */
  readonly write: (link: string | null) => Letter;
}

/** Cases that somebody of the client's mends, other than by placing what a sheet has. */
const WEBSITE_CASES: Readonly<Record<string, 'website' | 'name'>> = {
  'stays-away': 'website',
  'out-of-reach': 'website',
  certificate: 'website',
  'sitemap-unreachable': 'website',
  'sitemap-fallen': 'website',
  'name-ends': 'name',
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
  const [tokens, cases, open] = await Promise.all([
    tokensOf(desk, subject.properties, 'en', english.sheet),
    casesOf(desk, subject),
    openLetters(desk, subject),
  ]);
  const each = askedOf(subject, all, tokens, cases);
  const own = each.filter(({ contact }) => named?.includes(contact) !== false);
  // Whoever is asked by name and has nothing of their own is asked for all of it.
  const asked = own.length === 0 && named ? askedOf(subject, named, tokens, cases) : own;
  if (asked.length === 0) throw new Problem('nothing-to-ask', { title: subject.title });
  const person = actor.personId === null ? null : await PersonRow.findByPk(actor.personId);
  const germanTokens = asked.some(({ contact }) => contact.language === 'de')
    ? await tokensOf(desk, subject.properties, 'de', german.sheet)
    : [];
  const drafts = asked.map(({ contact, properties, places, remedies }): Draft => {
    const { language, name } = contact;
    const words = language === 'de' ? german : english;
    const sheet = partOf(sheetOf(language === 'de' ? germanTokens : tokens), places);
    const own = [...properties.values()];
    const [only] = own;
    const last = open.find(
      ({ contactId, propertyId }) => contactId === contact.id && properties.has(propertyId),
    );
    const about = {
      property: own.length === 1 && only ? only.host : subject.title,
      at: `${writtenMinute(nowText(desk))} UTC`,
      sums: sumsOf(sheet),
      left: 0,
      zip: false,
    };
    return {
      contact,
      properties: own,
      before: last?.at ?? null,
      write: (link) =>
        letterOf({
          ...{ words: words.letter, sheetWords: words.sheet },
          ...{ language, name, person: person?.name ?? '', sheet, about, link, remedies },
          before: last ? writtenDay(last.at) : null,
        }),
    };
  });
  return { subject, drafts };
}

function namedIn(contacts: readonly ContactValues[], ref: string): ContactValues {
  const wanted = ref.toLowerCase();
  const found =
    contacts.find(({ id }) => id === ref) ??
    contacts.filter(({ name, email }) => name.toLowerCase() === wanted || email?.toLowerCase() === wanted)[0];
  if (!found) throw new Problem('no-such-contact', { ref });
  return found;
}

interface OpenCase {
  readonly propertyId: string;
  readonly kind: string;
  readonly remedy: string;
}

function casesOf({ store }: Desk, { properties }: Subject): Promise<OpenCase[]> {
  return store.select<OpenCase>(
    `SELECT propertyId, kind, remedy FROM cases WHERE endedAt IS NULL AND remedy <> ''
       AND propertyId IN (SELECT value FROM json_each(:ids)) AND kind IN (SELECT value FROM json_each(:kinds)) ORDER BY openedAt, id`,
    {
      ids: JSON.stringify(properties.map(({ id }) => id)),
      kinds: JSON.stringify(Object.keys(WEBSITE_CASES)),
    },
  );
}

function openLetters(
  { store }: Desk,
  { properties }: Subject,
): Promise<{ contactId: string; propertyId: string; at: string }[]> {
  return store.select(
    `SELECT l.contactId, lp.propertyId, l.at FROM letter_properties lp JOIN letters l ON l.id = lp.letterId
      WHERE lp.propertyId IN (SELECT value FROM json_each(:ids)) AND l.answeredAt IS NULL ORDER BY l.at DESC`,
    { ids: JSON.stringify(properties.map(({ id }) => id)) },
  );
}

/** What goes to whom: each place and each harm to the one who does it best of those who are there. */
function askedOf(
  { properties }: Subject,
  contacts: readonly ContactValues[],
  tokens: readonly SheetToken[],
  cases: readonly OpenCase[],
): Asked[] {
  const found = new Map<string, Asked>();
  const askOf = (contact: ContactValues, property: PropertyRow): Asked => {
    const asked = found.get(contact.id) ?? {
      contact,
      properties: new Map(),
      places: new Set(),
      remedies: [],
    };
    asked.properties.set(property.id, property);
    found.set(contact.id, asked);
    return asked;
  };
  for (const property of properties) {
    const there = contactsFor(contacts, property.id);
    const own = sheetOf(tokens.filter(({ enrolment }) => propertyIn(enrolment) === property.handle));
    for (const place of own.places.filter(({ tasks }) => tasks.some(isToDo))) {
      const contact = contactFor(place.kind, there);
      if (contact) askOf(contact, property).places.add(keyOf(place));
    }
    for (const { kind, remedy } of cases.filter(({ propertyId }) => propertyId === property.id)) {
      const contact = contactFor(WEBSITE_CASES[kind] ?? 'website', there);
      if (!contact) continue;
      const { remedies } = askOf(contact, property);
      if (!remedies.includes(remedy)) remedies.push(remedy);
    }
  }
  return [...found.values()];
}

function keyOf({ kind, where }: Pick<SheetPlace, 'kind' | 'where'>): string {
  return `${kind} ${where}`;
}

/** Of a sheet the places that one contact visits, with what is to be done there. */
function partOf(sheet: Sheet, keys: ReadonlySet<string>): Sheet {
  const places = sheet.places
    .filter((place) => keys.has(keyOf(place)))
    .map((place) => ({
      ...place,
      tasks: place.tasks.filter((task) => isToDo(task) || task.state === 'may-go'),
    }));
  const open = places.reduce((sum, { tasks }) => sum + tasks.filter(isToDo).length, 0);
  return { places, others: [], open, waiting: 0, done: 0 };
}
