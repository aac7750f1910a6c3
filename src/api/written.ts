export { writtenDay, writtenMinute } from '../core/time/written.js';
