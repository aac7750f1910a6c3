import { defineConfig } from 'vitest/config';

/** The core's own tests alone: what changes at random are held against (`npm run mutation`). */
export default defineConfig({ test: { include: ['test/core/**/*.test.ts'], testTimeout: 20_000 } });
