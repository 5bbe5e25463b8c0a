import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** The folder of the project: scripts run from anywhere. */
export const root = join(import.meta.dirname, '..');

/** Runs a command to its end with its output shown; ends this process if it fails. */
export function must(command, args, env = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  if (done.status !== 0) process.exit(done.status ?? 1);
}

/** Newest change below the given files and folders, in milliseconds. */
export function newest(paths) {
  let latest = 0;
  for (const path of paths) {
    const full = join(root, path);
    if (!existsSync(full)) continue;
    const info = statSync(full);
    if (info.isDirectory())
      latest = Math.max(latest, newest(readdirSync(full).map((name) => join(path, name))));
    else latest = Math.max(latest, info.mtimeMs);
  }
  return latest;
}

/** Installs what package-lock.json names, unless it is installed already. */
export function install() {
  const mark = join(root, 'node_modules/.package-lock.json');
  if (existsSync(mark) && statSync(mark).mtimeMs >= newest(['package-lock.json'])) return;
  console.log('Installing packages …');
  must('npm', ['ci', '--no-audit', '--no-fund']);
}

/** Builds the application, unless the build is newer than every source. */
export function build() {
  const mark = join(root, '.next/BUILD_ID');
  const sources = ['src', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json'];
  if (existsSync(mark) && statSync(mark).mtimeMs >= newest(sources)) return;
  console.log('Building …');
  must(process.execPath, [join(root, 'node_modules/next/dist/bin/next'), 'build'], {
    NEXT_TELEMETRY_DISABLED: '1',
  });
}

/** Starts a long-running part; its output is shown unless it is piped. */
export function start(args, env, stdio = 'inherit') {
  return spawn(process.execPath, args, { cwd: root, stdio, env: { ...process.env, ...env } });
}
