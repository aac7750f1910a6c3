export { worstFirst } from '../core/findings/finding.js';
