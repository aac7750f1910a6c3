import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent, type ReactNode } from 'react';
import { queries, sayError } from '../api.js';
import { Button } from './button.js';
import { Notice } from './notice.js';
import { Sheet } from './sheet.js';

/** What was filled in, by the field's name; what was left empty is not there. */
export type Filled = Readonly<Record<string, string>>;

interface FormSheetProps {
  opener: string;
  title: string;
  says: string;
  /** What the button that sends it says. */
  send: string;
  /** Does it. What goes wrong is shown in the sheet, with everything that was filled in still there. */
  onSend: (filled: Filled) => Promise<unknown>;
  children: ReactNode;
}

function read(form: HTMLFormElement): Filled {
  const entries = [...new FormData(form)].map(([name, value]) => [name, String(value).trim()] as const);
  return Object.fromEntries(entries.filter(([, value]) => value !== ''));
}

/** One small form in a sheet: open, fill in, send, closed and everything shown read again. */
export function FormSheet({ opener, title, says, send, onSend, children }: FormSheetProps) {
  const [open, setOpen] = useState(false);
  const sending = useMutation({
    mutationFn: onSend,
    onSuccess: async () => {
      setOpen(false);
      await queries.invalidateQueries();
    },
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    sending.mutate(read(event.currentTarget));
  };
  return (
    <Sheet
      opener={opener}
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
        {sending.error && <Notice kind="stops">{sayError(sending.error)}</Notice>}
        <Button look="main" type="submit" disabled={sending.isPending} className="mt-3">
          {send}
        </Button>
      </form>
    </Sheet>
  );
}
