import { lazy, Suspense, useRef, type ReactNode } from 'react';
import { Button } from './button.js';

/** Fetched when the first sheet is opened: most visits open none. */
const Window = lazy(() => import('./sheet-window.js').then((module) => ({ default: module.SheetWindow })));

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

/** A sheet laid over the page for one small piece of input, and the button that opens it, to which the focus goes back. */
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
  const button = useRef<HTMLButtonElement>(null);
  return (
    <>
      <Button
        ref={button}
        look={look}
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => {
          onOpen(true);
        }}
      >
        {opener}
      </Button>
      {open && (
        <Suspense fallback={null}>
          <Window
            wide={wide}
            title={title}
            says={says}
            onClose={() => {
              onOpen(false);
            }}
            opener={button}
          >
            {children}
          </Window>
        </Suspense>
      )}
    </>
  );
}
