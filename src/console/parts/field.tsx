import { useId, type InputHTMLAttributes } from 'react';

interface FieldProps extends InputHTMLAttributes<HTMLInputElement> {
  label: string;
  hint?: string;
}

export function Field({ label, hint, ...input }: FieldProps) {
  const id = useId();
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {label}
      </label>
      <input
        id={id}
        aria-describedby={hint === undefined ? undefined : `${id}-hint`}
        className="w-full rounded-sm border border-faint bg-paper px-2 py-1.5"
        {...input}
      />
      {hint !== undefined && (
        <p id={`${id}-hint`} className="mt-1 text-sm text-faint">
          {hint}
        </p>
      )}
    </div>
  );
}
