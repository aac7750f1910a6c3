import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Of what a reader thread runs, the folders of the source. */
const READ = ['../core', '.'];

/**
 * Where a file lies that a thread runs. It is what was built, also where this itself runs from its source, as in tests: a thread cannot
 * be told to read that.
 * @throws Error where the source is newer than what was built: what is tested would be what was there before
 */
export function builtAt(file: string): string {
  const isSource = import.meta.url.endsWith('.ts');
  const built = fileURLToPath(
    new URL(isSource ? `../../dist/readers/${file}` : `./${file}`, import.meta.url),
  );
  if (isSource && newestSource() > statSync(built).mtimeMs)
    throw new Error('The source of the readers is newer than their build: “npm run build” first.');
  return built;
}

function newestSource(): number {
  return Math.max(
    ...READ.flatMap((folder) => {
      const at = fileURLToPath(new URL(folder, import.meta.url));
      return readdirSync(at, { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.ts'))
        .map((name) => statSync(join(at, name)).mtimeMs);
    }),
  );
}
