import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Contact, Letter, LetterDraft, LetterInput, NewContact, NewLetters } from './document.js';

/** Clients' people, and the letters that they are written. */
export const lettersRoutes = {
  listContacts: route<{ query?: { client?: string; property?: string } }, { items: Contact[] }>({
    method: 'GET',
    path: '/contacts',
    role: 'onlooker',
    status: 200,
    summary: 'Clients’ people: of one client, or those who are there for one property',
  }),
  addContact: route<{ body: NewContact }, Contact>({
    method: 'POST',
    path: '/contacts',
    role: 'consultant',
    status: 201,
    summary: 'Add a contact of a client’s, who is written to',
  }),
  endContact: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/contacts/:id',
    role: 'consultant',
    status: 204,
    summary: 'Somebody is written to no more',
  }),
  draftLetters: route<{ body: LetterInput }, { items: LetterDraft[] }>({
    method: 'POST',
    path: '/letters/drafts',
    role: 'onlooker',
    status: 200,
    summary: 'What would be written to whom, one letter for each contact; nothing is sent',
  }),
  writeLetters: route<{ body: NewLetters }, { items: Letter[] }>({
    method: 'POST',
    path: '/letters',
    role: 'consultant',
    status: 201,
    summary: 'Write to a client’s people: sent, or copied and sent by whoever writes',
  }),
  listLetters: route<
    { query?: PageQuery & { client?: string; property?: string; open?: boolean } },
    Page<Letter>
  >({
    method: 'GET',
    path: '/letters',
    role: 'onlooker',
    status: 200,
    summary: 'Letters, newest first; with “open” those that were not answered',
  }),
  showLetter: route<{ params: { id: string } }, Letter>({
    method: 'GET',
    path: '/letters/:id',
    role: 'onlooker',
    status: 200,
    summary: 'One letter',
  }),
  answerLetter: route<{ params: { id: string }; body: { says: string } }, Letter>({
    method: 'POST',
    path: '/letters/:id/answered',
    role: 'consultant',
    status: 200,
    summary: 'Note what was answered to a letter',
  }),
} as const;
