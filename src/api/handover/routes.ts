import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { Handover } from './document.js';

/** Handing a client over, or taking one over. */
export const handoverRoutes = {
  showHandover: route<{ params: { client: string } }, Handover>({
    method: 'GET',
    path: '/clients/:client/handover',
    role: 'onlooker',
    status: 200,
    summary:
      'What each engine knows of a client’s properties, who else holds them, what has to stay, and what is to be done before it goes',
  }),
  askHolders: route<{ params: { client: string } }, Job>({
    method: 'POST',
    path: '/clients/:client/holders',
    role: 'consultant',
    status: 202,
    summary: 'Ask the engines who else holds a client’s properties',
  }),
  noteHolders: route<{ params: { enrolment: string }; body: { says: string } }, null>({
    method: 'POST',
    path: '/enrolments/:enrolment/holders',
    role: 'consultant',
    status: 204,
    summary: 'Note who holds it, as an engine without a link shows it on its own pages',
  }),
  beginHandover: route<{ params: { client: string } }, Handover>({
    method: 'POST',
    path: '/clients/:client/handover/begun',
    role: 'consultant',
    status: 200,
    summary: 'Begin to hand a client over',
  }),
  tickHandover: route<
    { params: { client: string }; body: { item: string; note?: string; undo?: boolean } },
    Handover
  >({
    method: 'POST',
    path: '/clients/:client/handover/ticked',
    role: 'consultant',
    status: 200,
    summary: 'Tick something off, or take that back',
  }),
  callOffHandover: route<{ params: { client: string } }, Handover>({
    method: 'DELETE',
    path: '/clients/:client/handover',
    role: 'consultant',
    status: 200,
    summary: 'Call a hand-over off that has begun and not ended',
  }),
  endHandover: route<{ params: { client: string }; body: { deleteOn?: string; anyway?: boolean } }, Handover>(
    {
      method: 'POST',
      path: '/clients/:client/handover/ended',
      role: 'lead',
      status: 200,
      summary:
        'End it: nothing of the client is watched any more, it is archived, and its records are due to be deleted on a day',
    },
  ),
  deleteClient: route<{ params: { client: string }; body: { anyway?: boolean } }, Job>({
    method: 'POST',
    path: '/clients/:client/deleted',
    role: 'lead',
    status: 202,
    summary: 'Delete all records of a client in the archive, for good; the journal keeps its lines',
  }),
} as const;

/** The client’s own part of the records, as an archive that can be opened without the product. */
export const CLIENT_ARCHIVE = '/clients/:client/archive.zip';
