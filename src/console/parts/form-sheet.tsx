import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent, type ReactNode } from 'react';
import { isAsking } from '../../api/asks.js';
import { ApiProblem } from '../../client/client.js';
import { queries, sayError } from '../api.js';
import { Button } from './button.js';
import { Notice } from './notice.js';
import { useReporting, type Outcome } from './settling.js';
import { Sheet } from './sheet.js';

/** What was filled in, by the field's name; what was left empty is not there. */
export type Filled = Readonly<Record<string, string>>;

interface FormSheetProps {
  opener: string;
  look?: 'plain' | 'quiet';
  title: string;
  says: string;
  /** What the button that sends it says. */
  send: string;
  /**
   * Does it. What goes wrong is shown in the sheet, with everything that was filled in still there; where only something speaks against
   * it, it can be sent once more with `anyway`.
   */
  onSend: (filled: Filled, anyway: boolean, answered: string[]) => Promise<unknown>;
  /** What came of it, for the list that it was opened from. */
  outcome?: (filled: Filled) => Outcome;
  children: ReactNode;
}

function read(form: HTMLFormElement): Filled {
  const entries = [...new FormData(form)].map(([name, value]) => [name, String(value).trim()] as const);
  return Object.fromEntries(entries.filter(([, value]) => value !== ''));
}

/** Of the button that sends all the same. */
const ANYWAY = 'anyway';

/** What is said of “anyway” is for those who type: here is a button for it. */
function withoutOption(says: string): string {
  return says.replace(/ Say “anyway”.*$/u, '');
}

/** One small form in a sheet: open, fill in, send, closed and everything shown read again. */
export function FormSheet({
  opener,
  look = 'plain',
  title,
  says,
  send,
  onSend,
  outcome,
  children,
}: FormSheetProps) {
  const [open, setOpen] = useState(false);
  const [answered, setAnswered] = useState<readonly string[]>([]);
  const report = useReporting();
  const sending = useMutation({
    mutationFn: ({ filled, all }: { filled: Filled; all: readonly string[] }) =>
      onSend(filled, all.length > 0, [...all]),
    onSuccess: async (_, { filled }) => {
      setOpen(false);
      if (outcome) report(outcome(filled));
      await queries.invalidateQueries();
    },
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const { submitter } = event.nativeEvent as SubmitEvent;
    const anyway = submitter instanceof HTMLButtonElement && submitter.value === ANYWAY;
    // Each thing that speaks against it is asked about by itself.
    const code = sending.error instanceof ApiProblem ? sending.error.problem.code : null;
    const all = anyway && code !== null ? [...answered, code] : [];
    setAnswered(all);
    sending.mutate({ filled: read(event.currentTarget), all });
  };
  const isAsked = sending.error instanceof ApiProblem && isAsking(sending.error.problem.code);
  return (
    <Sheet
      opener={opener}
      look={look}
      title={title}
      says={says}
      open={open}
      onOpen={(next) => {
        sending.reset();
        setOpen(next);
      }}
    >
      <form onSubmit={submit}>
        {children}
        {sending.error && (
          <Notice kind="stops">
            {isAsked ? withoutOption(sayError(sending.error)) : sayError(sending.error)}
          </Notice>
        )}
        <div className="mt-3 flex flex-wrap gap-3">
          <Button look="main" type="submit" disabled={sending.isPending}>
            {send}
          </Button>
          {isAsked && (
            <Button type="submit" value={ANYWAY} disabled={sending.isPending}>
              All the same
            </Button>
          )}
        </div>
      </form>
    </Sheet>
  );
}
