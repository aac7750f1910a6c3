import type { ReactNode } from 'react';
import type { Placement, WhatToPut } from '../../../../api/documents.js';
import { placementLine } from '../../../../api/placement-line.js';
import { CopyButton } from '../../../parts/copy-button.js';
import { When } from '../../../parts/when.js';

function Line({ label, text, what }: { label: string; text: string; what: string }) {
  return (
    <div className="mb-1.5 grid items-center gap-x-3 sm:grid-cols-[5rem_1fr_auto]">
      <span className="text-sm text-faint">{label}</span>
      <code className="bg-paper px-2 py-1 font-mono text-[13px] break-all">{text}</code>
      <CopyButton text={text} what={what} />
    </div>
  );
}

/** Exactly what to put where, each value ready to copy. */
export function Put({ put }: { put: WhatToPut }): ReactNode {
  switch (put.kind) {
    case 'meta':
      return (
        <>
          <p className="mb-1.5 text-sm">
            Into the <code>&lt;head&gt;</code> of <span className="font-mono break-all">{put.page}</span>
          </p>
          <Line label="Whole tag" text={put.tag} what="the whole tag" />
          <p className="mb-1.5 text-sm text-faint">
            Or, where a content system asks for the value alone in a box of its own:
          </p>
          <Line label="Value alone" text={put.content} what="the value alone" />
        </>
      );
    case 'file':
      return (
        <>
          <p className="mb-1.5 text-sm">
            Expected at <span className="font-mono break-all">{put.url}</span>, {put.bytes} bytes
          </p>
          <Line label="File name" text={put.fileName} what="the file name" />
          <Line label="Content" text={put.content} what="the content" />
        </>
      );
    case 'dns':
      return (
        <>
          <p className="mb-1.5 text-sm">
            Into the zone <span className="font-mono">{put.zone}</span>, as a line of its file or in a panel
          </p>
          <Line label="Zone line" text={put.zoneLine} what="the zone line" />
          <Line label="Name" text={put.recordName} what="the record’s name" />
          <Line label="Type" text={put.type} what="the record’s type" />
          <Line label="Value" text={put.value} what="the record’s value" />
        </>
      );
  }
}

/** The old token beside the new one, and where the account’s token stands already. */
export function Past({ placement }: { placement: Placement }) {
  const { before, standsAt, ofAccount, put, recordedBy } = placement;
  return (
    <div className="space-y-2 text-sm">
      {ofAccount && <p className="text-faint">The token of the account: the same for each site under it.</p>}
      {recordedBy !== null && <p className="text-faint">Pasted by {recordedBy}.</p>}
      {before && (
        <div className="border-l-4 border-rule pl-3">
          <p>
            <span className="font-semibold text-harms">Another token than before.</span>{' '}
            {before.why === 'expired'
              ? 'The old one expired before anybody claimed with it.'
              : 'The engine handed out another.'}{' '}
            What was placed until <When time={before.replacedAt} /> is old now:
          </p>
          <p className="mt-1 grid gap-x-3 sm:grid-cols-[3rem_1fr]">
            <span className="text-faint">was</span>
            <del className="font-mono text-[13px] break-all">{placementLine(before.put)}</del>
            <span className="text-faint">now</span>
            <ins className="font-mono text-[13px] break-all no-underline">{placementLine(put)}</ins>
          </p>
        </div>
      )}
      {standsAt.map((one) => (
        <p key={one.enrolment}>
          The same token as for <span className="font-mono">{one.enrolment}</span>, which stands at{' '}
          <span className="font-mono break-all">{one.place}</span>.
        </p>
      ))}
    </div>
  );
}
