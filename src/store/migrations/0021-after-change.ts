/** Sitemaps that are made anew once what the website says of itself has changed, and not before so long since the last time. */
export const afterChange = {
  name: '0021-after-change',
  up: [`ALTER TABLE recipes ADD COLUMN afterChange TEXT`],
};
