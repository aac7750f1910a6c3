export { spanWords as span } from '../../api/span-words.js';
