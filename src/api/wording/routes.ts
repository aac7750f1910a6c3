import { route } from '../route.js';
import type { Sentence, SentenceInput, WordingPreview } from './document.js';

/** Sentences of sheets and letters, in an agency’s own words. */
export const wordingRoutes = {
  listWording: route<{ query?: { language?: 'en' | 'de'; part?: Sentence['part'] } }, { items: Sentence[] }>({
    method: 'GET',
    path: '/wording',
    role: 'onlooker',
    status: 200,
    summary: 'Every sentence of sheets and letters, as it is said and as it usually is',
  }),
  editWording: route<{ body: SentenceInput }, Sentence>({
    method: 'POST',
    path: '/wording',
    role: 'lead',
    status: 200,
    summary: 'Say a sentence in words of one’s own, or take the usual ones back',
  }),
  previewWording: route<{ body: SentenceInput & { property: string } }, WordingPreview>({
    method: 'POST',
    path: '/wording/preview',
    role: 'onlooker',
    status: 200,
    summary: 'How a sentence would read on the sheet and in the letters of a property; nothing is kept',
  }),
} as const;
