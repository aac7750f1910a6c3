export { KIND_SAYS, LEFT_OUT_SAYS } from '../../core/sitemap/make/words.js';
