import { useEffect, useState } from 'react';
import { Button } from './button.js';

/** Copies a text, and says so for a moment. The wider word is laid out from the start, so that nothing moves. */
export function CopyButton({ text, what }: { text: string; what: string }) {
  const [copied, setCopied] = useState(false);
  useEffect(() => {
    if (!copied) return undefined;
    const timer = setTimeout(() => {
      setCopied(false);
    }, 1500);
    return () => {
      clearTimeout(timer);
    };
  }, [copied]);
  const copy = () =>
    void navigator.clipboard.writeText(text).then(() => {
      setCopied(true);
    });
  return (
    <Button onClick={copy} aria-label={`Copy ${what}`} className="min-w-20 shrink-0">
      <span aria-live="polite">{copied ? 'Copied' : 'Copy'}</span>
    </Button>
  );
}
