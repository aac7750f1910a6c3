import { useId, useState } from 'react';

interface ChoiceProps {
  label: string;
  name: string;
  /** Each by its value and what it is called. */
  options: readonly (readonly [string, string])[];
  required?: boolean;
  /** The one that is chosen until somebody chooses, even if it is known only later; the first one otherwise. */
  value?: string;
  onChoose?: (value: string) => void;
}

/** One of several. The browser’s own list: it works by keyboard and on a phone as people are used to. */
export function Choice({ label, name, options, required = false, value, onChoose }: ChoiceProps) {
  const id = useId();
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {label}
      </label>
      <select
        id={id}
        name={name}
        required={required}
        value={chosen ?? value ?? options[0]?.[0]}
        onChange={({ target }) => {
          setChosen(target.value);
          onChoose?.(target.value);
        }}
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
