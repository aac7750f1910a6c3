const UNITS: readonly (readonly [seconds: number, name: string])[] = [
  [86_400, 'day'],
  [3_600, 'hour'],
  [60, 'minute'],
  [1, 'second'],
];

/** A span of time in words, by its largest fitting unit, rounded: `1 day`, `12 hours`. @param seconds 0 or more */
export function spanWords(seconds: number): string {
  const [size, name] = UNITS.find(([unit]) => seconds >= 1.95 * unit || seconds === unit) ?? [1, 'second'];
  const count = Math.round(seconds / size);
  return `${String(count)} ${name}${count === 1 ? '' : 's'}`;
}
