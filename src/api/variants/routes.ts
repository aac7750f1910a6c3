import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { Variants } from './document.js';

/** The address variants of a property, and hosts beside the usual ones. */
export const variantsRoutes = {
  showVariants: route<{ params: { property: string } }, Variants>({
    method: 'GET',
    path: '/properties/:property/variants',
    role: 'onlooker',
    status: 200,
    summary: 'The variants of a property, what covers them, and what was found',
  }),
  lookAtVariants: route<{ body: { properties?: string[]; all?: boolean } }, Job>({
    method: 'POST',
    path: '/variants',
    role: 'consultant',
    status: 202,
    summary: 'Check the variants of properties',
  }),
  addHost: route<{ params: { property: string }; body: { host: string } }, Job>({
    method: 'POST',
    path: '/properties/:property/hosts',
    role: 'consultant',
    status: 202,
    summary: 'Add a host to a property, and look at its variants',
  }),
  dropHost: route<{ params: { property: string; host: string } }, Job>({
    method: 'DELETE',
    path: '/properties/:property/hosts/:host',
    role: 'consultant',
    status: 202,
    summary: 'Take a host off a property, and look at its variants',
  }),
} as const;
