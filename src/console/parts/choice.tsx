import { useId } from 'react';

interface ChoiceProps {
  label: string;
  name: string;
  /** Each by its value and what it is called. */
  options: readonly (readonly [string, string])[];
  required?: boolean;
  /** The one that is chosen at first; the first one otherwise. */
  value?: string;
}

/** One of several. The browser’s own list: it works by keyboard and on a phone as people are used to. */
export function Choice({ label, name, options, required = false, value }: ChoiceProps) {
  const id = useId();
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {label}
      </label>
      <select
        id={id}
        name={name}
        required={required}
        defaultValue={value}
        className="w-full rounded-sm border border-faint bg-paper px-2 py-1.5"
      >
        {options.map(([value, title]) => (
          <option key={value} value={value}>
            {title}
          </option>
        ))}
      </select>
    </div>
  );
}
