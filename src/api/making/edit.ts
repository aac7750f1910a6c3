import type {
  DateSource,
  MadeExtension,
  PageKind,
  Source,
  Weighing,
} from '../../core/sitemap/make/recipe.js';

/** What may be said of how a sitemap is made; what is not said stays as it is. */
export interface RecipeEdit {
  sources?: Source[];
  list?: string[];
  feeds?: string[];
  sitemaps?: string[];
  pages?: number;
  depth?: number;
  minutes?: number;
  megabytes?: number;
  /** Pages of one shape in a row that are read without anything of their own. */
  row?: number;
  /** Requests at once at the most; null for what the settings say. */
  atOnce?: number | null;
  include?: string[];
  exclude?: string[];
  without?: PageKind[];
  add?: string[];
  drop?: string[];
  most?: number | null;
  dates?: DateSource[];
  extensions?: MadeExtension[];
  weighing?: Weighing[];
  gzip?: boolean;
  feed?: 'atom' | 'rss' | null;
  every?: string | null;
  afterChange?: string | null;
  mostFall?: number;
  /** Whether the service itself hands the sitemap out. */
  handOut?: boolean;
}
