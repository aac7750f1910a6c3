import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    testTimeout: 240_000,
    hookTimeout: 180_000,
    pool: 'forks',
    maxWorkers: 2,
    // The modules are loaded once for a worker, not once for each file.
    isolate: false,
    // What is waited for comes on any machine, however slow; only what never comes fails.
    expect: { poll: { timeout: 60_000 } },
  },
});
