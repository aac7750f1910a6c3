import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { Target, NewTarget } from './document.js';

/** Carrying: putting tokens and sitemaps where they belong, by open protocols. */
export const publishingRoutes = {
  listCarryPlaces: route<{ params: { property: string } }, { items: Target[] }>({
    method: 'GET',
    path: '/properties/:property/places',
    role: 'onlooker',
    status: 200,
    summary: 'The places of a property to which its files and records may be carried',
  }),
  addCarryPlace: route<{ params: { property: string }; body: NewTarget }, Target>({
    method: 'POST',
    path: '/properties/:property/places',
    role: 'lead',
    status: 201,
    summary: 'Record a place, with the sealed secret by which it is opened and who may carry there',
  }),
  editCarryPlace: route<
    {
      params: { place: string };
      body: { trust?: string; secret?: string; watchMay?: boolean; role?: 'lead' | 'consultant' };
    },
    Target
  >({
    method: 'PATCH',
    path: '/places/:place',
    role: 'lead',
    status: 200,
    summary: 'Trust the key that a place shows now, give its secret anew, or say who may carry there',
  }),
  endCarryPlace: route<{ params: { place: string } }, null>({
    method: 'DELETE',
    path: '/places/:place',
    role: 'lead',
    status: 204,
    summary: 'Forget a place with its secret; what was carried there stays there',
  }),
  carry: route<{ params: { property: string }; body: { plan?: boolean; takeAway?: boolean } }, Job>({
    method: 'POST',
    path: '/properties/:property/carryings',
    role: 'consultant',
    status: 202,
    summary: 'Carry what belongs to the places of a property, or only say what would be done',
  }),
} as const;
