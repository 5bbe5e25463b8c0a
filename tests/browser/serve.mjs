// Makes the demo's data once for all browser tests, keeps a copy for the test that kills its server, and serves the
// demo by the command that a newcomer runs.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '../..');
const folder = process.env.LANTERN_DATA;
const made = spawnSync(process.execPath, ['--import', 'tsx', 'src/demo/main.ts', '--fresh'], {
  cwd: root,
  stdio: ['ignore', 'ignore', 'inherit'],
});
if (made.status !== 0) process.exit(made.status ?? 1);
const copy = `${folder}-made`;
rmSync(copy, { recursive: true, force: true });
cpSync(folder, copy, { recursive: true });
const demo = spawn(process.execPath, ['scripts/demo.mjs', '--no-practice'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => demo.kill(signal));
demo.on('exit', (code) => process.exit(code ?? 1));
