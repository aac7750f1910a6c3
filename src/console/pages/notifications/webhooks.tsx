import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Webhook } from '../../../api/documents.js';
import { api } from '../../api.js';
import { CopyButton } from '../../parts/copy-button.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { Listed, ListedLine } from '../../parts/listed.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { given } from '../../../api/given.js';

/** The address of a webhook, and the secret by which requests are signed, which is shown this once. */
function AddWebhook() {
  const [secret, setSecret] = useState<string | null>(null);
  return (
    <>
      <FormSheet
        opener="Add a webhook"
        title="Add a webhook"
        says="Your program gets a signed request for each alert (CloudEvents 1.0, RFC 9421)."
        send="Add it"
        onSend={async ({ url = '', client }) => {
          const added = await api.addWebhook({ body: { url, ...given({ client }) } });
          setSecret(added.secret);
        }}
      >
        <Field label="Address" name="url" type="url" required />
        <Field label="Of the client" name="client" hint="Its handle; leave it empty for all." />
      </FormSheet>
      {secret !== null && (
        <div
          role="status"
          className="mt-2 flex flex-wrap items-center gap-2 border border-rule bg-sheet p-2 text-sm"
        >
          Its requests are signed with this secret, which is not shown again:
          <code className="font-mono wrap-anywhere">{secret}</code>
          <CopyButton text={secret} what="the secret" />
        </div>
      )}
    </>
  );
}

function EndWebhook({ webhook }: { webhook: Webhook }) {
  return (
    <FormSheet
      opener="Remove"
      title="Remove the webhook"
      says={`${webhook.url} gets no more alerts.`}
      send="Remove it"
      onSend={() => api.endWebhook({ params: { id: webhook.id } })}
    >
      <p className="mb-2">What waits to be sent there is given up.</p>
    </FormSheet>
  );
}

export function Webhooks() {
  const query = useQuery({ queryKey: ['webhooks'], queryFn: () => api.listWebhooks() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed title="Webhooks" none="No webhook yet." act={<AddWebhook />}>
          {items.map((one) => (
            <ListedLine key={one.id} name={one.url} act={<EndWebhook webhook={one} />}>
              of {one.client ?? 'all clients'}, since <When time={one.createdAt} />
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}
