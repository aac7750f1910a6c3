import { useState } from 'react';
import { Link } from 'react-router';
import type { WorkEntry } from '../../api/documents.js';
import { api } from '../api.js';
import { Sheet } from '../parts/sheet.js';
import { WorkButton } from '../parts/work-button.js';

/** The step of an entry, where it is one that is done by saying so; else its page is where it is done. */
export function StepButton({ entry }: { entry: WorkEntry }) {
  const { step, property, properties, enrolments, engines } = entry;
  if (step.acts !== 'us') return null;
  // The button is for all that want it, and these are one person's.
  if (properties > 1 && entry.person !== null) return null;
  if (properties > 1) return <EnrolAll entry={entry} />;
  // What a person carries to the engine is done on the property's page, where it says how.
  if (enrolments.length > 0 && enrolments.every(({ byHand }) => byHand)) return null;
  const touched = { enrolments: enrolments.map(({ name }) => name) };
  switch (step.kind) {
    case 'enrol': {
      const body = { properties: [property.handle], engines: engines.map(({ id }) => id) };
      return <WorkButton start={() => api.enrol({ body })}>Enrol</WorkButton>;
    }
    case 'enrol-door': {
      const body = { properties: [property.handle], engines: engines.map(({ id }) => id) };
      return <WorkButton start={() => api.enrol({ body })}>Enrol it there</WorkButton>;
    }
    case 'submit-sitemap':
      // Found, read and looked at before any engine is told of it.
      return <Link to={`/properties/${property.handle}?tab=sitemaps`}>Find and submit one</Link>;
    case 'mend-sitemap':
    case 'read-sitemap':
    case 'withdraw-sitemap':
      return <Link to={`/properties/${property.handle}?tab=sitemaps`}>Its sitemaps</Link>;
    case 'claim':
    case 'prove-again':
      return <WorkButton start={() => api.claim({ body: touched })}>Claim</WorkButton>;
    case 'check':
      return <WorkButton start={() => api.check({ body: touched })}>Check</WorkButton>;
    case 'get-token':
    case 'renew-token':
      return <WorkButton start={() => api.getTokens({ body: touched })}>Get the token</WorkButton>;
    case 'publish':
      // What it would do is shown there before anything is done.
      return <Link to={`/properties/${property.handle}?tab=publish`}>What would be published</Link>;
    default:
      return null;
  }
}

/** All that are to be enrolled with an engine, each named before it is done. */
function EnrolAll({ entry: { properties, handles = [], engines } }: { entry: WorkEntry }) {
  const [open, setOpen] = useState(false);
  const body = { missing: true as const, engines: engines.map(({ id }) => id) };
  const all = `Enrol all ${String(properties)}`;
  const left = properties - handles.length;
  return (
    <Sheet
      opener={`${all} …`}
      title={`${all} with ${engines.map(({ title }) => title).join(', ')}`}
      says="Each by its registration plan: by name or by address as suits the engine, at the address where its visitors end up."
      open={open}
      onOpen={setOpen}
    >
      <ul className="mb-3 columns-2 text-sm sm:columns-3">
        {handles.map((handle) => (
          <li key={handle} className="break-all">
            {handle}
          </li>
        ))}
        {left > 0 && <li className="text-faint">and {left} more</li>}
      </ul>
      <WorkButton look="main" start={() => api.enrol({ body })}>
        {all}
      </WorkButton>
    </Sheet>
  );
}
