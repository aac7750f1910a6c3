import type { Anyway } from '../asks.js';
import type { Job } from '../jobs/document.js';
import type { Method, WhichEnrolments } from '../parts/document.js';
import { route } from '../route.js';
import type { Advice, PastedToken, TokenOwner } from './document.js';

/** Tokens, pasted ones too, and which method to have placed. */
export const tokensRoutes = {
  getTokens: route<{ body: WhichEnrolments }, Job>({
    method: 'POST',
    path: '/tokens',
    role: 'consultant',
    status: 202,
    summary: 'Get tokens from engines',
  }),
  pasteToken: route<
    { params: { enrolment: string }; body: { text: string; method?: Method; anyway?: Anyway } },
    { items: PastedToken[] }
  >({
    method: 'POST',
    path: '/enrolments/:enrolment/pasted',
    role: 'consultant',
    status: 201,
    summary: 'Read methods and tokens out of what an engine showed',
  }),
  forgetToken: route<{ params: { enrolment: string; method: Method } }, null>({
    method: 'DELETE',
    path: '/enrolments/:enrolment/tokens/:method',
    role: 'consultant',
    status: 204,
    summary: 'Forget a token that should not have been put on record',
  }),
  whoseToken: route<{ query: { text: string } }, { items: TokenOwner[] }>({
    method: 'GET',
    path: '/tokens/whose',
    role: 'onlooker',
    status: 200,
    summary:
      'Whose token is in something that somebody came upon: a tag, a file, a record, or the bare value',
  }),
  advice: route<{ params: { enrolment: string } }, { items: Advice[] }>({
    method: 'GET',
    path: '/enrolments/:enrolment/advice',
    role: 'onlooker',
    status: 200,
    summary: 'Which method to have placed, why, and what each costs later',
  }),
  askMethod: route<{ params: { enrolment: string }; body: { method: Method } }, null>({
    method: 'PATCH',
    path: '/enrolments/:enrolment/asked',
    role: 'consultant',
    status: 204,
    summary: 'Change by which method a client’s people are asked to prove an enrolment',
  }),
} as const;
