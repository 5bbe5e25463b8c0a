// Makes the demo's data once for all browser tests, and keeps a copy for those that have servers of their own.
import { spawnSync } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { MADE_DATA, TEST_DATA, TEST_ENV } from './data';

const made = spawnSync(process.execPath, ['--import', 'tsx', 'src/demo/main.ts', '--fresh'], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: { ...process.env, ...TEST_ENV },
});
if (made.status !== 0) process.exit(made.status ?? 1);
rmSync(MADE_DATA, { recursive: true, force: true });
cpSync(TEST_DATA, MADE_DATA, { recursive: true });
