import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { configDefaults, defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Tests that need programs besides Node.js, and which: where one is not to be had they are left out, and it is said. */
const NEEDS: readonly { readonly tests: string; readonly programs: readonly string[] }[] = [
  { tests: 'test/console/**', programs: ['chromium'] },
  {
    tests: 'test/real/**',
    programs: ['nginx', 'apache2', 'knotd', 'nsupdate', 'unbound', 'sshd', 'proftpd', 'exim4'],
  },
];
const FOLDERS = [...(process.env['PATH'] ?? '').split(':'), '/usr/sbin', '/usr/bin', '/sbin'];

/** Programs that are not installed. */
function missing(programs: readonly string[]): string[] {
  return programs.filter((name) => !FOLDERS.some((folder) => existsSync(join(folder, name))));
}

const leftOut = NEEDS.filter(({ programs }) => missing(programs).length > 0);
// Read once for each project: it is said once.
const isSaid = process.env['YARDBADGE_SKIPS_SAID'] !== undefined;
process.env['YARDBADGE_SKIPS_SAID'] = 'yes';
for (const { tests, programs } of isSaid ? [] : leftOut)
  console.warn(`Skipped: ${tests}, since ${missing(programs).join(', ')} cannot be had here.`);

/** The file that takes longest by far, most of it waiting. Begun last it would be waited for alone. */
const LONGEST = '/thirty-days/days.test.ts';

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLongest = ({ moduleId }: TestSpecification): boolean => moduleId.endsWith(LONGEST);
    return [...sorted.filter(isLongest), ...sorted.filter((one) => !isLongest(one))];
  }
}

export default defineConfig({
  test: {
    testTimeout: 240_000,
    hookTimeout: 180_000,
    pool: 'forks',
    sequence: { sequencer: LongestFirst },
    // One more than there are cores where it runs: much of what is tested is waiting.
    maxWorkers: 3,
    // The modules are loaded once for a worker, not once for each file.
    isolate: false,
    // What is waited for comes on any machine, however slow; only what never comes fails.
    expect: { poll: { timeout: 60_000 } },
    projects: [
      // What holds of all findings is held in every test of the core, so that these have modules of their own.
      {
        extends: true,
        test: {
          name: 'core',
          include: ['test/core/**/*.test.ts'],
          isolate: true,
          setupFiles: ['test/core/sound.ts'],
        },
      },
      {
        extends: true,
        test: {
          name: 'all else',
          include: ['test/**/*.test.ts'],
          exclude: [...configDefaults.exclude, 'test/core/**', ...leftOut.map(({ tests }) => tests)],
        },
      },
    ],
  },
});
