// Serves the demo for the browser tests by the command that a newcomer runs, on data that was made for them.
import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../..');
// `npm test` makes the data while it builds.
if (process.env.LANTERN_TEST_SEEDED !== '1') {
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'tests/browser/seed.ts'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (status !== 0) process.exit(status ?? 1);
}
const demo = spawn(process.execPath, ['scripts/demo.mjs', '--no-practice'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => demo.kill(signal));
demo.on('exit', (code) => process.exit(code ?? 1));
