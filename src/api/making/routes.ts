import type { Job } from '../jobs/document.js';
import type { Page } from '../parts/document.js';
import { route } from '../route.js';
import type { HandOut, MadePage, MadeVersion, Making } from './document.js';
import type { RecipeEdit } from './edit.js';

/** Sitemaps that are made. */
export const makingRoutes = {
  showMaking: route<{ params: { property: string } }, Making>({
    method: 'GET',
    path: '/properties/:property/making',
    role: 'onlooker',
    status: 200,
    summary: 'How the sitemap of a property is made, what was gathered for it, and what was written',
  }),
  editRecipe: route<{ params: { property: string }; body: RecipeEdit }, Making>({
    method: 'PATCH',
    path: '/properties/:property/making',
    role: 'consultant',
    status: 200,
    summary: 'Change how the sitemap is made; what would be written is shown anew',
  }),
  makeSitemap: route<{ params: { property: string }; body: RecipeEdit }, Job>({
    method: 'POST',
    path: '/properties/:property/gatherings',
    role: 'consultant',
    status: 202,
    summary: 'Gather the addresses for a sitemap; nothing is written by it',
  }),
  listMadePages: route<
    {
      params: { property: string };
      query?: {
        state?: MadePage['state'];
        why?: string;
        folder?: string;
        match?: string;
        after?: string;
        limit?: number;
      };
    },
    Page<MadePage>
  >({
    method: 'GET',
    path: '/properties/:property/making/pages',
    role: 'onlooker',
    status: 200,
    summary: 'The addresses that were gathered, and why some are left out',
  }),
  writeSitemap: route<{ params: { property: string }; body: { anyway?: boolean } }, MadeVersion>({
    method: 'POST',
    path: '/properties/:property/versions',
    role: 'consultant',
    status: 201,
    summary: 'Write what was gathered and chosen as a sitemap, and have it read by our own reader',
  }),
  allowVersion: route<{ params: { version: string } }, MadeVersion>({
    method: 'POST',
    path: '/versions/:version/yes',
    role: 'consultant',
    status: 200,
    summary: 'Let a version go out that was held back since it had fallen',
  }),
  showHandOut: route<{ params: { property: string } }, HandOut>({
    method: 'GET',
    path: '/properties/:property/handing-out',
    role: 'onlooker',
    status: 200,
    summary:
      'The rules by which the website’s own server hands on the sitemap that stands here, and which engines go along',
  }),
} as const;
