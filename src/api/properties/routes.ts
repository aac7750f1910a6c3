import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Access, NewProperty, Property } from './document.js';

/** Properties. */
export const propertiesRoutes = {
  listProperties: route<{ query?: PageQuery & { client?: string; match?: string } }, Page<Property>>({
    method: 'GET',
    path: '/properties',
    role: 'onlooker',
    status: 200,
    summary: 'Properties by handle',
  }),
  addProperty: route<{ body: { client: string; address: string; handle?: string } }, NewProperty>({
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
      body: { handle?: string; facts?: Record<string, string>; access?: Access };
    },
    Property
  >({
    method: 'PATCH',
    path: '/properties/:property',
    role: 'consultant',
    status: 200,
    summary: 'Edit a property (takes If-Match)',
  }),
  archiveProperty: route<{ params: { property: string } }, null>({
    method: 'DELETE',
    path: '/properties/:property',
    role: 'consultant',
    status: 204,
    summary: 'Archive a property; its records stay',
  }),
} as const;
