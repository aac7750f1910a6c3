import { Dialog } from 'radix-ui';
import type { ReactNode, RefObject } from 'react';
import { Button } from './button.js';

interface WindowProps {
  wide: boolean;
  title: string;
  says: string;
  onClose: () => void;
  /** Where the focus goes when it is closed. */
  opener: RefObject<HTMLButtonElement | null>;
  children: ReactNode;
}

/** The window over the page. Focus, Escape and the reader's title come from the primitive. */
export function SheetWindow({ wide, title, says, onClose, opener, children }: WindowProps) {
  return (
    <Dialog.Root
      open
      onOpenChange={(next) => {
        if (!next) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/50" />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 max-h-[90vh] ${wide ? 'w-[min(52rem,calc(100vw-2rem))]' : 'w-[min(30rem,calc(100vw-2rem))]'} -translate-x-1/2 -translate-y-1/2 overflow-auto border-2 border-ink bg-sheet p-5`}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            opener.current?.focus();
          }}
        >
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="text-xl">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button look="quiet">Close</Button>
            </Dialog.Close>
          </div>
          <Dialog.Description className="mt-1 mb-4 text-sm text-faint">{says}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
