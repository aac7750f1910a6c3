import type { ReactNode } from 'react';
import type { CheckWithEvidence, Forecast, Placement, WhatToPut } from '../../../api/documents.js';
import { CopyButton } from '../../parts/copy-button.js';
import { When } from '../../parts/when.js';

const TITLES = { meta: 'Meta tag', file: 'File', dns: 'DNS record' };
const TONE: Readonly<Record<Forecast, string>> = {
  accept: 'text-good',
  refuse: 'text-stops',
  unsure: 'text-harms',
};
const SIGN: Readonly<Record<Forecast, string>> = { accept: '✓', refuse: '✗', unsure: '?' };

function Line({ label, text, what }: { label: string; text: string; what: string }) {
  return (
    <div className="mb-1.5 grid items-center gap-x-3 sm:grid-cols-[5rem_1fr_auto]">
      <span className="text-sm text-faint">{label}</span>
      <code className="bg-paper px-2 py-1 font-mono text-[13px] break-all">{text}</code>
      <CopyButton text={text} what={what} />
    </div>
  );
}

function Put({ put }: { put: WhatToPut }): ReactNode {
  switch (put.kind) {
    case 'meta':
      return (
        <>
          <p className="mb-1.5 text-sm">
            Into the <code>&lt;head&gt;</code> of <span className="font-mono break-all">{put.page}</span>
          </p>
          <Line label="Tag" text={put.tag} what="the tag" />
        </>
      );
    case 'file':
      return (
        <>
          <p className="mb-1.5 text-sm">
            To be seen at <span className="font-mono break-all">{put.url}</span>, {put.bytes} bytes
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

function CheckView({ check }: { check: CheckWithEvidence }) {
  return (
    <div className="mt-2 border-t border-rule pt-2 text-sm">
      <p>
        <strong className={TONE[check.forecast]}>
          {SIGN[check.forecast]} {check.forecast}
        </strong>{' '}
        <span className="text-faint">
          checked <When time={check.checkedAt} />, so since <When time={check.seenSince} />
        </span>
      </p>
      <ul className="mt-1 space-y-1">
        {check.findings.map((one) => (
          <li key={one.code}>
            <p className="break-words">{one.says}</p>
            {one.remedy !== '' && (
              <p className="mt-1 flex items-start gap-3">
                <span className="grow border-l-2 border-accent pl-2 break-words">{one.remedy}</span>
                <CopyButton text={one.remedy} what="the sentence for the developer" />
              </p>
            )}
          </li>
        ))}
      </ul>
      {check.visibleAt !== null && (
        <p className="mt-1 text-faint">
          Asking again makes sense from <When time={check.visibleAt} />.
        </p>
      )}
    </div>
  );
}

/** The placement's state in a word or two; a method that is not needed is no fault. */
function Short({ check, spare }: { check: CheckWithEvidence | null; spare: boolean }) {
  if (!check) return <span className="text-sm text-faint">not checked yet</span>;
  if (spare) return <span className="text-sm text-faint">not placed, and not needed</span>;
  return (
    <span className={`text-sm ${TONE[check.forecast]}`}>
      {SIGN[check.forecast]} {check.seen ? 'in place' : 'not in place'}
    </span>
  );
}

function oneLine(put: WhatToPut): string {
  switch (put.kind) {
    case 'meta':
      return put.tag;
    case 'file':
      return `${put.path} holding ${put.content}`;
    case 'dns':
      return put.value;
  }
}

/** The old token beside the new one, and where the account’s token stands already. */
function Past({ placement: { before, standsAt, put, recordedBy } }: { placement: Placement }) {
  return (
    <div className="space-y-2 text-sm">
      {recordedBy !== null && <p className="text-faint">Pasted by {recordedBy}.</p>}
      {before && (
        <div className="border-l-4 border-rule pl-3">
          <p>
            <span className="font-semibold text-harms">Another token than before.</span>{' '}
            {before.why === 'expired'
              ? 'The old one was void, since nobody had claimed with it.'
              : 'The engine handed out another.'}{' '}
            What was placed until <When time={before.replacedAt} /> is old now:
          </p>
          <p className="mt-1 grid gap-x-3 sm:grid-cols-[3rem_1fr]">
            <span className="text-faint">was</span>
            <del className="font-mono text-[13px] break-all">{oneLine(before.put)}</del>
            <span className="text-faint">now</span>
            <ins className="font-mono text-[13px] break-all no-underline">{oneLine(put)}</ins>
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

interface PlacementProps {
  placement: Placement;
  open: boolean;
  /** Another method of the same enrolment is in place. */
  spare: boolean;
}

/** What has to stand where, ready to copy, and what our check saw there. Open when somebody works on it. */
export function PlacementView({ placement, open, spare }: PlacementProps) {
  const { check } = placement;
  return (
    <details open={open} className="border-t border-rule py-2">
      <summary className="cursor-pointer">
        <span className="font-semibold">{TITLES[placement.method]}</span>{' '}
        <Short check={check} spare={spare} />
      </summary>
      <div className="mt-2">
        <Put put={placement.put} />
        {placement.expiresAt !== null && (
          <p className="text-sm text-faint">
            The token expires on <When time={placement.expiresAt} /> if nobody claims with it.
          </p>
        )}
        <Past placement={placement} />
        {check && <CheckView check={check} />}
      </div>
    </details>
  );
}
