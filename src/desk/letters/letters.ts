import type { Letter, LetterDraft, LetterInput, NewLetters, Page } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { ContactRole } from '../../core/letter/contact.js';
import { asPage } from '../../core/letter/own-words.js';
import { newId } from '../../store/ids.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { cursorIn, cursorText } from '../context/cursor.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { withoutCodes } from '../context/link-codes.js';
import { note, personNames } from '../context/journal.js';
import { findProperty } from '../context/references.js';
import { keepAsked } from '../sheet/requests.js';
import { addLink, endLink } from '../shared-links/links.js';
import { writeMessage } from '../outbox/messages.js';
import { recipients } from '../outbox/recipients.js';
import { viewContacts } from './contacts.js';
import { draftsFor, type Draft } from './drafts.js';

/** A letter as it is on record, with what is known of its sending. */
interface LetterValues {
  readonly id: string;
  readonly contactId: string;
  readonly clientId: string;
  readonly way: 'mail' | 'copied';
  readonly sentTo: string | null;
  readonly subject: string;
  readonly text: string;
  readonly messageId: string | null;
  readonly linkId: string | null;
  readonly at: string;
  readonly personId: string | null;
  readonly answeredAt: string | null;
  readonly answer: string | null;
  /** What was said by the link that went with it; null where a person noted the answer. */
  readonly answerKind: 'done' | 'cannot' | null;
}

interface LetterShown extends LetterValues {
  readonly name: string;
  readonly role: ContactRole;
  readonly sent: string | null;
  readonly dead: string | null;
}

/** A link that goes with a letter works for so long. */
const LINK_LASTS = 'P30D';

/** What would be written to whom. Throws Problem. */
export async function draftLetters(
  desk: Desk,
  actor: Actor,
  input: LetterInput,
): Promise<{ items: LetterDraft[] }> {
  const { drafts } = await draftsFor(desk, actor, input);
  const contacts = await viewContacts(drafts.map(({ contact }) => contact));
  return {
    items: drafts.flatMap(({ properties, before, write }, at) => {
      const contact = contacts[at];
      if (!contact) return [];
      const { subject, text } = write(null);
      return [{ contact, properties: properties.map(({ handle }) => handle), subject, text, before }];
    }),
  };
}

/**
 * Writes to a client's people, one letter to each.
 * @param base where the service is, as people see it
 * @throws Problem, and then nothing was written
 */
export async function writeLetters(
  desk: Desk,
  actor: Actor,
  { way, link = true, subject, text, ...input }: NewLetters,
  base: string,
): Promise<{ items: Letter[] }> {
  const { drafts } = await draftsFor(desk, actor, input);
  if ((subject !== undefined || text !== undefined) && drafts.length !== 1)
    throw new Problem('one-letter-only', { count: drafts.length });
  if (way === 'mail') {
    if (!desk.sendsMail) throw new Problem('no-mail-server');
    const without = drafts.find(({ contact }) => contact.email === null);
    if (without) throw new Problem('no-contact-mail', { name: without.contact.name });
  }
  const replyTo = (await recipients(desk)).find(({ personId }) => personId === actor.personId)?.email ?? null;
  // With what opens their links: this once, to whoever writes them.
  const texts = new Map<string, string>();
  for (const draft of drafts) {
    const written = await writeOne(desk, actor, draft, { way, link, subject, text, base, replyTo });
    texts.set(written.id, written.text);
  }
  const letters = await viewLetters(desk, await lettersBy(desk, [...texts.keys()]));
  return { items: letters.map((one) => ({ ...one, text: texts.get(one.id) ?? one.text })) };
}

interface How {
  readonly way: 'mail' | 'copied';
  readonly link: boolean;
  readonly subject: string | undefined;
  readonly text: string | undefined;
  readonly base: string;
  readonly replyTo: string | null;
}

async function writeOne(
  desk: Desk,
  actor: Actor,
  draft: Draft,
  how: How,
): Promise<{ readonly id: string; readonly text: string }> {
  const { contact, properties } = draft;
  const [only] = properties;
  const made =
    how.link && how.text === undefined && draft.part !== null
      ? await addLink(
          desk,
          actor,
          {
            ...(properties.length === 1 && only ? { property: only.id } : { client: contact.clientId }),
            ...{ word: contact.name.slice(0, 80), language: contact.language, lasts: LINK_LASTS },
            ...(draft.part.enrolments === null ? {} : { enrolments: [...draft.part.enrolments] }),
            ...(draft.part.places === null ? {} : { places: [...draft.part.places] }),
          },
          how.base,
        )
      : null;
  if (made) await endFormer(desk, actor, contact.id, made.id);
  const drafted = draft.write(made?.url ?? null);
  const subject = how.subject ?? drafted.subject;
  const text = how.text ?? drafted.text;
  const html = how.text === undefined ? drafted.html : asPage(subject, text, contact.language);
  const id = newId();
  await desk.store.write(async (transaction) => {
    const messageId =
      how.way === 'mail'
        ? await writeMessage(
            desk,
            {
              way: 'mail',
              personId: null,
              sentTo: contact.email ?? '',
              subject,
              // A person wrote it: whoever is away may have that said (RFC 3834 §5).
              body: {
                text,
                html,
                headers: {
                  'Auto-Submitted': 'no',
                  ...(how.replyTo === null ? {} : { 'Reply-To': how.replyTo }),
                },
              },
            },
            transaction,
          )
        : null;
    const row: LetterValues = {
      ...{ id, contactId: contact.id, clientId: contact.clientId, way: how.way, sentTo: contact.email },
      ...{ subject, text: withoutCodes(text), messageId, linkId: made?.id ?? null, at: nowText(desk) },
      ...{ personId: actor.personId, answeredAt: null, answer: null, answerKind: null },
    };
    await desk.store.insert('letters', [{ ...row }], transaction);
    await desk.store.insert(
      'letter_properties',
      properties.map(({ id: propertyId }) => ({ letterId: id, propertyId })),
      transaction,
    );
    await keepAsked(desk, draft.tokens, transaction);
    for (const property of properties)
      await note(desk, actor, transaction, {
        kind: 'letter.written',
        says: `${how.way === 'mail' ? 'A letter goes' : 'A letter was copied'} to ${contact.name} (${contact.role}): “${subject}”.`,
        property,
      });
  });
  return { id, text };
}

/** The link of a letter before to the same sheet works no more once there is another: of each contact one is about. */
async function endFormer(desk: Desk, actor: Actor, contactId: string, linkId: string): Promise<void> {
  const former = await desk.store.select<{ id: string }>(
    `SELECT o.id FROM letters l JOIN shared_links o ON o.id = l.linkId AND o.endedAt IS NULL JOIN shared_links n ON n.id = $linkId
      WHERE l.contactId = $contactId AND o.id <> n.id AND o.clientId = n.clientId AND o.propertyId IS n.propertyId
        AND ((n.enrolments IS NULL AND n.places IS NULL) OR (o.enrolments IS n.enrolments AND o.places IS n.places))`,
    { contactId, linkId },
  );
  for (const { id } of former) await endLink(desk, actor, id);
}

const LETTERS = `SELECT l.*, c.name, c.role, m.sentAt AS sent, m.deadAt AS dead FROM letters l
  JOIN contacts c ON c.id = l.contactId LEFT JOIN messages m ON m.id = l.messageId`;

function lettersBy({ store }: Desk, ids: readonly string[]): Promise<LetterShown[]> {
  return store.select<LetterShown>(
    `${LETTERS} WHERE l.id IN (SELECT value FROM json_each($ids)) ORDER BY l.at DESC, l.id`,
    { ids: JSON.stringify(ids) },
  );
}

export interface LettersQuery {
  readonly client?: string;
  readonly property?: string;
  readonly open?: boolean;
  readonly after?: string;
  readonly limit?: number;
}

/** Letters, newest first. Throws Problem. */
export async function listLetters(desk: Desk, query: LettersQuery): Promise<Page<Letter>> {
  const { limit = 100 } = query;
  const property = query.property === undefined ? null : await findProperty(query.property);
  const client = query.client === undefined ? null : await findClient(query.client);
  const place = query.after === undefined ? null : cursorIn(query.after);
  const where = [
    ...(client ? ['l.clientId = $clientId'] : []),
    ...(property ? ['l.id IN (SELECT letterId FROM letter_properties WHERE propertyId = $propertyId)'] : []),
    ...(query.open === true ? ['l.answeredAt IS NULL'] : []),
    ...(place ? ['(l.at < $at OR (l.at = $at AND l.id > $id))'] : []),
  ];
  const rows = await desk.store.select<LetterShown>(
    `${LETTERS} ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`} ORDER BY l.at DESC, l.id LIMIT $most`,
    { clientId: client?.id ?? null, propertyId: property?.id ?? null, ...place, most: limit + 1 },
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    items: await viewLetters(desk, shown),
    next: last && rows.length > limit ? cursorText(last) : null,
  };
}

async function viewLetters(desk: Desk, rows: readonly LetterShown[]): Promise<Letter[]> {
  const of = await desk.store.select<{ letterId: string; handle: string }>(
    `SELECT lp.letterId, p.handle FROM letter_properties lp JOIN properties p ON p.id = lp.propertyId
      WHERE lp.letterId IN (SELECT value FROM json_each($ids)) ORDER BY p.handle`,
    { ids: JSON.stringify(rows.map(({ id }) => id)) },
  );
  const [clients, names] = await Promise.all([
    ClientRow.findAll({ where: { id: rows.map(({ clientId }) => clientId) }, attributes: ['id', 'handle'] }),
    personNames(rows.map(({ personId }) => personId)),
  ]);
  const handles = new Map(clients.map(({ id, handle }) => [id, handle]));
  return rows.map((row) => ({
    id: row.id,
    contact: row.name,
    role: row.role,
    client: handles.get(row.clientId) ?? row.clientId,
    properties: of.filter(({ letterId }) => letterId === row.id).map(({ handle }) => handle),
    way: row.way,
    to: row.sentTo,
    subject: row.subject,
    text: withoutCodes(row.text),
    state:
      row.way === 'copied' ? 'copied' : row.sent !== null ? 'sent' : row.dead === null ? 'waiting' : 'dead',
    at: row.at,
    by: row.personId === null ? null : (names.get(row.personId) ?? null),
    answeredAt: row.answeredAt,
    answer: row.answer,
  }));
}

/** One letter. Throws Problem. */
export async function showLetter(desk: Desk, id: string): Promise<Letter> {
  const [letter] = await viewLetters(desk, await lettersBy(desk, [id]));
  if (!letter) throw new Problem('no-such-letter', { ref: id });
  return letter;
}

/** Notes what was answered; nobody is reminded of that letter any more. Throws Problem. */
export async function answerLetter(desk: Desk, actor: Actor, id: string, says: string): Promise<Letter> {
  const [row] = await lettersBy(desk, [id]);
  if (!row) throw new Problem('no-such-letter', { ref: id });
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'UPDATE letters SET answeredAt = $now, answer = $says, answerKind = NULL WHERE id = $id',
      { id, says, now: nowText(desk) },
      transaction,
    );
    const properties = await PropertyRow.findAll({
      where: { id: (await propertiesOf(desk, id)).map(({ propertyId }) => propertyId) },
      transaction,
    });
    for (const property of properties)
      await note(desk, actor, transaction, {
        kind: 'letter.answered',
        says: `${row.name} answers to “${row.subject}”: ${says}`,
        property,
      });
  });
  return showLetter(desk, id);
}

function propertiesOf({ store }: Desk, letterId: string): Promise<{ propertyId: string }[]> {
  return store.select('SELECT propertyId FROM letter_properties WHERE letterId = $letterId', { letterId });
}
