import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };

/** The longest first: begun last, they would leave the other core with nothing to do. */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const long = (file: TestSpecification) => /(cli\/c(li|ourse)|crash)\.test\.ts$/.test(file.moduleId);
    const sorted = await super.sort(files);
    return [...sorted.filter(long), ...sorted.filter((file) => !long(file))];
  }
}

export default defineConfig({
  resolve: { alias },
  test: {
    // A message goes at once where no test waits for its time.
    env: { LANTERN_CALL_BACK_S: '0' },
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          // What they import is made ready once for all.
          isolate: false,
          globalSetup: ['tests/support/template.ts'],
          setupFiles: ['tests/support/draws.ts'],
          include: ['src/{core,cli,demo,ui}/**/*.test.ts', 'tests/crash/*.test.ts'],
          exclude: ['src/demo/seed.test.ts'],
          // Roomy: a busy machine must not fail what works.
          testTimeout: 1_200_000,
          // As many as the database tests: they run together.
          maxWorkers: 2,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'database',
          // Each file has a database of its own; what they import, and the engine of the database, is made ready once.
          isolate: false,
          globalSetup: ['tests/support/template.ts'],
          setupFiles: ['tests/support/draws.ts'],
          include: ['src/{actions,app,data,server}/**/*.test.ts', 'src/demo/seed.test.ts'],
          // Opening an embedded database takes seconds; each file opens one and shares it.
          hookTimeout: 1_200_000,
          testTimeout: 1_200_000,
          // Each file has a database of its own, on the PostgreSQL server too; more than two at once only wait.
          maxWorkers: 2,
        },
      },
    ],
  },
});
