export { Explained } from '../core/input/explained.js';
