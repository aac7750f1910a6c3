import type { Page } from '../parts/document.js';
import { route, type Input, type PageQuery } from '../route.js';
import type { Alerts, Webhook, NewWebhook, SentMessage, Recipient, WholeMessage } from './document.js';

/** Alerts, who is notified of them, and the notifications that were sent. */
export const notificationRoutes = {
  listAlerts: route<
    { query?: PageQuery & { property?: string; client?: string; kind?: string; resolved?: boolean } },
    Alerts
  >({
    method: 'GET',
    path: '/alerts',
    role: 'onlooker',
    status: 200,
    summary: 'Alerts, newest first: open, or resolved',
  }),
  listRecipients: route<Input, { items: Recipient[] }>({
    method: 'GET',
    path: '/recipients',
    role: 'onlooker',
    status: 200,
    summary: 'What you are notified of, and how; for a lead, what everybody is',
  }),
  editRecipient: route<
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
    path: '/recipients/:person',
    role: 'onlooker',
    status: 200,
    summary: 'Change what a person is notified of: “me”, or anybody by a lead',
  }),
  listWebhooks: route<Input, { items: Webhook[] }>({
    method: 'GET',
    path: '/webhooks',
    role: 'lead',
    status: 200,
    summary: 'The webhooks, which get each alert as a signed request (CloudEvents 1.0)',
  }),
  addWebhook: route<{ body: { url: string; client?: string } }, NewWebhook>({
    method: 'POST',
    path: '/webhooks',
    role: 'lead',
    status: 201,
    summary: 'Add a webhook',
  }),
  endWebhook: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/webhooks/:id',
    role: 'lead',
    status: 204,
    summary: 'Remove a webhook',
  }),
  listNotifications: route<{ query?: PageQuery & { state?: SentMessage['state'] } }, Page<SentMessage>>({
    method: 'GET',
    path: '/notifications',
    role: 'lead',
    status: 200,
    summary: 'Notifications, newest first, and whether they were sent',
  }),
  showNotification: route<{ params: { id: string } }, WholeMessage>({
    method: 'GET',
    path: '/notifications/:id',
    role: 'lead',
    status: 200,
    summary: 'One notification with its text',
  }),
  retryNotification: route<{ params: { id: string } }, SentMessage>({
    method: 'POST',
    path: '/notifications/:id/retries',
    role: 'lead',
    status: 200,
    summary: 'Send a notification again that was given up',
  }),
} as const;
