import type { Anyway } from '../asks.js';
import type { Job } from '../jobs/document.js';
import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Access, NewProperty, Property } from './document.js';

/** Properties. */
export const propertiesRoutes = {
  listProperties: route<
    { query?: PageQuery & { client?: string; match?: string; archived?: boolean } },
    Page<Property>
  >({
    method: 'GET',
    path: '/properties',
    role: 'onlooker',
    status: 200,
    summary: 'Properties by handle',
  }),
  addProperty: route<
    { body: { client: string; address: string; handle?: string; anyway?: Anyway } },
    NewProperty
  >({
    method: 'POST',
    path: '/properties',
    role: 'consultant',
    status: 201,
    summary: 'Take on a property from a pasted address',
  }),
  showProperty: route<{ params: { property: string } }, Property>({
    method: 'GET',
    path: '/properties/:property',
    role: 'onlooker',
    status: 200,
    summary: 'One property, by handle, address or a unique part of either',
  }),
  editProperty: route<
    {
      params: { property: string };
      body: {
        handle?: string;
        client?: string;
        facts?: Record<string, string>;
        access?: Access;
        /** A day (RFC 3339 full-date); null where it is not known any more. */
        nameEnds?: string | null;
        /** How often what of it is looked at; null where as usual. */
        rhythms?: { placement?: string | null; variants?: string | null; sitemap?: string | null };
      };
    },
    Property
  >({
    method: 'PATCH',
    path: '/properties/:property',
    role: 'consultant',
    status: 200,
    summary: 'Edit a property (takes If-Match)',
  }),
  archiveProperty: route<{ params: { property: string }; query?: { anyway?: boolean } }, null>({
    method: 'DELETE',
    path: '/properties/:property',
    role: 'consultant',
    status: 204,
    summary: 'Archive a property; its records stay. With “anyway” also one that holds badges',
  }),
  deleteProperty: route<{ params: { property: string }; body: { anyway?: boolean } }, Job>({
    method: 'POST',
    path: '/properties/:property/deleted',
    role: 'consultant',
    status: 202,
    summary:
      'Delete a property that was taken on by mistake; with “anyway”, by a lead, one that something was done with',
  }),
  restoreProperty: route<{ params: { property: string } }, Property>({
    method: 'POST',
    path: '/properties/:property/restored',
    role: 'consultant',
    status: 200,
    summary: 'Take a property back out of the archive',
  }),
} as const;
