export { counted } from '../core/input/plural.js';
