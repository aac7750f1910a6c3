import type { Page } from '../parts/document.js';
import { route, type Input, type PageQuery } from '../route.js';
import type { Alerts, Webhook, NewWebhook, SentMessage, Recipient, WholeMessage } from './document.js';

/** What people are told of without having asked, who is told what, and the messages by which they are. */
export const tellingRoutes = {
  listCases: route<
    { query?: PageQuery & { property?: string; client?: string; kind?: string; over?: boolean } },
    Alerts
  >({
    method: 'GET',
    path: '/cases',
    role: 'onlooker',
    status: 200,
    summary: 'What people are told of, newest first: open, or over',
  }),
  listTellings: route<Input, { items: Recipient[] }>({
    method: 'GET',
    path: '/tellings',
    role: 'onlooker',
    status: 200,
    summary: 'What one is told of, and how; of everybody for a lead',
  }),
  editTelling: route<
    {
      params: { person: string };
      body: {
        email?: string | null;
        zone?: string;
        digestAt?: string;
        atOnce?: boolean;
        digest?: boolean;
        clients?: string[] | null;
      };
    },
    Recipient
  >({
    method: 'PATCH',
    path: '/tellings/:person',
    role: 'onlooker',
    status: 200,
    summary: 'Change what a person is told of: “me”, or anybody by a lead',
  }),
  listHooks: route<Input, { items: Webhook[] }>({
    method: 'GET',
    path: '/hooks',
    role: 'lead',
    status: 200,
    summary: 'Addresses that are told of cases by signed requests (CloudEvents 1.0)',
  }),
  addHook: route<{ body: { url: string; client?: string } }, NewWebhook>({
    method: 'POST',
    path: '/hooks',
    role: 'lead',
    status: 201,
    summary: 'Have an address told of cases',
  }),
  endHook: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/hooks/:id',
    role: 'lead',
    status: 204,
    summary: 'Tell an address no more',
  }),
  listMessages: route<{ query?: PageQuery & { state?: SentMessage['state'] } }, Page<SentMessage>>({
    method: 'GET',
    path: '/messages',
    role: 'lead',
    status: 200,
    summary: 'Messages, newest first, and whether they were sent',
  }),
  showMessage: route<{ params: { id: string } }, WholeMessage>({
    method: 'GET',
    path: '/messages/:id',
    role: 'lead',
    status: 200,
    summary: 'One message with its text',
  }),
  retryMessage: route<{ params: { id: string } }, SentMessage>({
    method: 'POST',
    path: '/messages/:id/retried',
    role: 'lead',
    status: 200,
    summary: 'Try a message once more that was given up',
  }),
} as const;
