import { spawnSync } from 'node:child_process';
import { build } from '../../scripts/common.mjs';

/** Before the browser tests: the application is built, and the demo's data made, unless `npm test` did both. */
export default function prepare(): void {
  if (process.env.LANTERN_TEST_SEEDED === '1') return;
  build();
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'tests/browser/seed.ts'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (status !== 0) throw new Error('the data of the tests could not be made');
}
