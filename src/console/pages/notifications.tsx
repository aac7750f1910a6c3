import type { Person } from '../../api/documents.js';
import { Recipients } from './notifications/recipients.js';
import { Reports } from './notifications/reports.js';
import { Webhooks } from './notifications/webhooks.js';
import { SentNotifications } from './notifications/sent-notifications.js';

/** Who is notified of what, how, and what was sent. */
export function NotificationsPage({ person }: { person: Person }) {
  const isLead = person.role === 'lead';
  return (
    <>
      <h1 className="mb-3 text-2xl">Notifications</h1>
      <Recipients />
      <Reports mayWork={person.role !== 'onlooker'} />
      {isLead && <Webhooks />}
      {isLead && <SentNotifications />}
    </>
  );
}
