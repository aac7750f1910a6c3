import { rm } from 'node:fs/promises';

/** Removes a folder with all in it; tries again for seconds while a program that is just ending still writes there. */
export function removed(folder: string): Promise<void> {
  return rm(folder, { recursive: true, force: true, maxRetries: 10, retryDelay: 100 });
}
