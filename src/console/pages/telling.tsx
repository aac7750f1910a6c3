import type { Person } from '../../api/documents.js';
import { Tellings } from './telling/tellings.js';
import { Reports } from './telling/reports.js';
import { Hooks } from './telling/hooks.js';
import { Messages } from './telling/messages.js';

/** Who is told what, how, and what was. */
export function TellingPage({ person }: { person: Person }) {
  const isLead = person.role === 'lead';
  return (
    <>
      <h1 className="mb-3 text-2xl">Notifications</h1>
      <Tellings />
      <Reports mayWork={person.role !== 'onlooker'} />
      {isLead && <Hooks />}
      {isLead && <Messages />}
    </>
  );
}
