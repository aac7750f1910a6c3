import type { SheetLanguage } from '../../core/sheet/sentences.js';
import { route } from '../route.js';
import type { PlacementSheet } from './document.js';

/** Placement sheets. */
export const sheetRoutes = {
  showSheet: route<
    { query: { property?: string; client?: string; language?: SheetLanguage; open?: boolean } },
    PlacementSheet
  >({
    method: 'GET',
    path: '/sheet',
    role: 'onlooker',
    status: 200,
    summary: 'What is to be placed for a property or a client, in order by place, in every form',
  }),
} as const;

/** The sheet with the files that go with it, packed. */
export const SHEET_ZIP = '/sheet.zip';
