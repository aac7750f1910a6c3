import { addressText } from '../../core/address/web-address.js';
import type { Selection } from '../../core/sitemap/make/recipe.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { frontDoorOf } from './front-door.js';

/** Where the made sitemap of a property stands: at its front door, so that it may list all that is below it. */
export function placeOf(property: PropertyRow, selection: Pick<Selection, 'gzip'>): string {
  return new URL(selection.gzip ? 'sitemap.xml.gz' : 'sitemap.xml', addressText(frontDoorOf(property))).href;
}
