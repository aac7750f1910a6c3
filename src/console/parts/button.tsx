import type { ButtonHTMLAttributes, Ref } from 'react';

const LOOKS = {
  main: 'bg-accent text-on-accent border-accent hover:opacity-90',
  /** For what stands in every line of a list. */
  quiet: 'border-transparent text-accent underline hover:bg-wash',
  plain: 'bg-sheet text-ink border-rule hover:bg-wash',
};

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: keyof typeof LOOKS;
  ref?: Ref<HTMLButtonElement>;
}

export function Button({ look = 'plain', className = '', type = 'button', ...rest }: ButtonProps) {
  return (
    <button
      type={type}
      className={`rounded-sm border text-sm ${look === 'quiet' ? 'min-h-6 px-0' : 'min-h-8 px-3 py-1 font-semibold'} disabled:cursor-default disabled:opacity-60 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
