export { dayTyped, isRelative } from '../core/time/day-typed.js';
