import { readFileSync } from 'node:fs';

/** The product's version, from its package. */
export function productVersion(): string {
  const data = JSON.parse(readFileSync(new URL('../../package.json', import.meta.url), 'utf8')) as {
    version: string;
  };
  return data.version;
}
