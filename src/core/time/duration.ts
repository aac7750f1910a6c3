const PATTERN = /^P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/;

export const SECOND = 1000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

/**
 * Milliseconds of an ISO 8601 duration of weeks, days, hours, minutes and seconds.
 * Years and months have no fixed length and are refused. Throws RangeError.
 */
export function durationMs(text: string): number {
  const match = PATTERN.exec(text);
  if (!match || text === 'P' || text.endsWith('T'))
    throw new RangeError(`“${text}” is not an ISO 8601 duration such as P5D or PT36H`);
  const [weeks = 0, days = 0, hours = 0, minutes = 0, seconds = 0] = match
    .slice(1)
    .map((part) => Number(part || 0));
  return (weeks * 7 + days) * DAY + hours * HOUR + minutes * MINUTE + seconds * SECOND;
}

const UNITS: readonly (readonly [size: number, name: string])[] = [
  [DAY, 'day'],
  [HOUR, 'hour'],
  [MINUTE, 'minute'],
  [SECOND, 'second'],
];

function counted(ms: number, [size, name]: readonly [number, string]): string {
  const count = Math.round(ms / size);
  return `${String(count)} ${name}${count === 1 ? '' : 's'}`;
}

/** A duration in words, by its largest fitting unit: `5 days`, `36 hours`. */
export function durationWords(ms: number): string {
  const fitting = UNITS.find(([size]) => ms >= size && ms % size === 0) ?? UNITS.find(([size]) => ms >= size);
  return counted(ms, fitting ?? [SECOND, 'second']);
}

/** A duration that was measured, in words and rounded: `3 hours`, `20 minutes`. @param ms 0 or more */
export function aboutWords(ms: number): string {
  // Two of the larger unit at least, so that rounding says nothing false: 90 minutes, not 2 hours.
  return counted(ms, UNITS.find(([size]) => ms >= 1.95 * size) ?? [SECOND, 'second']);
}

const GERMAN_UNITS: Readonly<Record<string, readonly [one: string, many: string]>> = {
  day: ['einem Tag', 'Tagen'],
  hour: ['einer Stunde', 'Stunden'],
  minute: ['einer Minute', 'Minuten'],
  second: ['einer Sekunde', 'Sekunden'],
};

/** The same in German, in the dative: `3 Tagen`, `einer Stunde`. @param ms 0 or more */
export function aboutWordsInGerman(ms: number): string {
  const [size, name] = UNITS.find(([unit]) => ms >= 1.95 * unit) ?? [SECOND, 'second'];
  const count = Math.round(ms / size);
  const [one, many] = GERMAN_UNITS[name] ?? ['', ''];
  return count === 1 ? one : `${String(count)} ${many}`;
}
