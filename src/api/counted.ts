export { counted } from '../core/input/counted.js';
