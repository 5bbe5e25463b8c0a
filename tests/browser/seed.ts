// Makes the demo's data once for all browser tests.
import { spawnSync } from 'node:child_process';
import { MADE_DATA, TEST_ENV } from './data';

const made = spawnSync(process.execPath, ['--import', 'tsx', 'src/demo/main.ts', '--fresh'], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, ...TEST_ENV, LANTERN_DATA: MADE_DATA, LANTERN_CALL_BACK_S: '0' },
});
process.exit(made.status ?? 1);
