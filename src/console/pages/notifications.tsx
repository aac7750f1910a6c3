import type { Person } from '../../api/documents.js';
import { Recipients } from './notifications/recipients.js';
import { Reports } from './notifications/reports.js';
import { Webhooks } from './notifications/webhooks.js';
import { Messages } from './notifications/messages.js';

/** Who is told what, how, and what was. */
export function NotificationsPage({ person }: { person: Person }) {
  const isLead = person.role === 'lead';
  return (
    <>
      <h1 className="mb-3 text-2xl">Notifications</h1>
      <Recipients />
      <Reports mayWork={person.role !== 'onlooker'} />
      {isLead && <Webhooks />}
      {isLead && <Messages />}
    </>
  );
}
