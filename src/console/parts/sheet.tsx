import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button.js';

interface SheetProps {
  /** What the button that opens it says. */
  opener: string;
  look?: 'plain' | 'quiet';
  /** For what is read rather than filled in. */
  wide?: boolean;
  title: string;
  says: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}

/** A sheet laid over the page for one small piece of input. Focus, Escape and the reader's title come from the primitive. */
export function Sheet({
  opener,
  look = 'plain',
  wide = false,
  title,
  says,
  open,
  onOpen,
  children,
}: SheetProps) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Trigger asChild>
        <Button look={look}>{opener}</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/50" />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 max-h-[90vh] ${wide ? 'w-[min(52rem,calc(100vw-2rem))]' : 'w-[min(30rem,calc(100vw-2rem))]'} -translate-x-1/2 -translate-y-1/2 overflow-auto border-2 border-ink bg-sheet p-5`}
        >
          <Dialog.Title className="text-xl">{title}</Dialog.Title>
          <Dialog.Description className="mt-1 mb-4 text-sm text-faint">{says}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
