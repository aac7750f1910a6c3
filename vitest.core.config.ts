import { defineConfig } from 'vitest/config';

/**
 * The core's own tests alone: what changes at random are held against (`npm run mutation`). What throws thousands of random
 * texts at a reader is left out: it notices only exceptions, and would be run again for nearly every change.
 */
export default defineConfig({
  test: {
    include: ['test/core/**/*.test.ts'],
    setupFiles: ['test/core/sound.ts'],
    testTimeout: 20_000,
    testNamePattern: /^(?!.*(never throws|show foreign text|takes no longer for stars|one more than 50,000))/,
  },
});
