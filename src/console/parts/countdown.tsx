import { useEffect, useState } from 'react';
import { When } from './when.js';

const UNITS: readonly (readonly [seconds: number, sign: string])[] = [
  [86_400, 'd'],
  [3600, 'h'],
  [60, 'min'],
  [1, 's'],
];

/** The two largest units: `2 h 14 min`. */
function inWords(seconds: number): string {
  const first = UNITS.findIndex(([size]) => seconds >= size);
  const parts: string[] = [];
  let rest = seconds;
  for (const [size, sign] of first === -1 ? [] : UNITS.slice(first, first + 2)) {
    const count = Math.floor(rest / size);
    rest -= count * size;
    if (count > 0) parts.push(`${String(count)} ${sign}`);
  }
  return parts.join(' ') || '0 s';
}

interface CountdownProps {
  /** Until when to wait. */
  until: string;
  /** What time it was for the service when the page was read: its clock is not this machine's. */
  from: string;
}

/** How long there is to wait, counted down as time goes by, and until when. */
export function Countdown({ until, from }: CountdownProps) {
  const [left, setLeft] = useState(() => Math.round((Date.parse(until) - Date.parse(from)) / 1000));
  useEffect(() => {
    const started = performance.now();
    const whole = Math.round((Date.parse(until) - Date.parse(from)) / 1000);
    const tick = () => {
      setLeft(Math.max(0, whole - Math.floor((performance.now() - started) / 1000)));
    };
    tick();
    const timer = setInterval(tick, 1000);
    return () => {
      clearInterval(timer);
    };
  }, [until, from]);
  if (left <= 0) return <strong>Check again now.</strong>;
  return (
    <>
      <strong>Wait {inWords(left)}</strong>, until <When time={until} />, then check again.
    </>
  );
}
