export { Explained } from '../core/input/explained-error.js';
