import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { Target, NewTarget } from './document.js';

/** Publishing: putting tokens and sitemaps where they belong, by open protocols. */
export const publishingRoutes = {
  listTargets: route<{ params: { property: string } }, { items: Target[] }>({
    method: 'GET',
    path: '/properties/:property/targets',
    role: 'onlooker',
    status: 200,
    summary: 'The targets of a property, where its files and records may be published',
  }),
  addTarget: route<{ params: { property: string }; body: NewTarget }, Target>({
    method: 'POST',
    path: '/properties/:property/targets',
    role: 'lead',
    status: 201,
    summary: 'Record a target, with the sealed secret by which it is opened and who may publish there',
  }),
  editTarget: route<
    {
      params: { target: string };
      body: { trust?: string; secret?: string; watchMay?: boolean; role?: 'lead' | 'consultant' };
    },
    Target
  >({
    method: 'PATCH',
    path: '/targets/:target',
    role: 'lead',
    status: 200,
    summary: 'Trust the key that a target shows now, give its secret anew, or say who may publish there',
  }),
  endTarget: route<{ params: { target: string } }, null>({
    method: 'DELETE',
    path: '/targets/:target',
    role: 'lead',
    status: 204,
    summary: 'Forget a target with its secret; what was published there stays there',
  }),
  publish: route<{ params: { property: string }; body: { plan?: boolean; takeAway?: boolean } }, Job>({
    method: 'POST',
    path: '/properties/:property/publications',
    role: 'consultant',
    status: 202,
    summary: 'Publish what belongs at the targets of a property, or only say what would be done',
  }),
} as const;
