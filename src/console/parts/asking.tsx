import { AlertDialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button.js';

interface AskingProps {
  title: string;
  /** What follows from it, in a sentence or two. */
  says: string;
  /** What it is about, one by one. */
  children: ReactNode;
  act: string;
  leave: string;
  onAct: () => void;
}

/** What a dialog asks before something is done that is not undone by one click; stands inside an AlertDialog.Root. */
export function Asking({ title, says, children, act, leave, onAct }: AskingProps) {
  return (
    <AlertDialog.Portal>
      <AlertDialog.Overlay className="fixed inset-0 bg-black/50" />
      <AlertDialog.Content className="fixed top-1/2 left-1/2 max-h-[90vh] w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto border-2 border-ink bg-sheet p-5">
        <AlertDialog.Title className="text-xl">{title}</AlertDialog.Title>
        <AlertDialog.Description className="mt-1 mb-2 text-sm text-faint">{says}</AlertDialog.Description>
        {children}
        <div className="flex flex-wrap gap-3">
          <AlertDialog.Action asChild>
            <Button look="main" onClick={onAct}>
              {act}
            </Button>
          </AlertDialog.Action>
          <AlertDialog.Cancel asChild>
            <Button>{leave}</Button>
          </AlertDialog.Cancel>
        </div>
      </AlertDialog.Content>
    </AlertDialog.Portal>
  );
}
