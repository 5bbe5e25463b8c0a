// Types, lint and the tests of what changed since main, for daily work: `npm run test:near`.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, root } from './common.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);
const base = process.argv[2] ?? 'main';

/** Runs a command with its output shown; says whether it went well. */
const run = (command, args) => spawnSync(command, args, { cwd: root, stdio: 'inherit' }).status === 0;
const git = (...args) =>
  spawnSync('git', args, { cwd: root, encoding: 'utf8' })
    .stdout.split('\n')
    .filter((line) => line !== '');

install();
// On main itself what is not committed yet, and the last commit.
const [here] = git('rev-parse', '--abbrev-ref', 'HEAD');
const since = here === base ? 'HEAD~1' : base;
const changed = [
  ...new Set([
    ...git('diff', '--name-only', '--diff-filter=d', since),
    ...git('ls-files', '--others', '--exclude-standard'),
  ]),
];
const code = changed.filter((file) => /\.(ts|tsx|mjs|cjs)$/.test(file));
const failed = [];
const check = (name, command, args) => {
  console.log(`\n== ${name}`);
  if (!run(command, args)) failed.push(name);
};
check('types', bin('tsc'), ['--noEmit']);
if (code.length > 0) check('lint', bin('eslint'), ['--max-warnings', '0', ...code]);
if (changed.length > 0)
  check('formatting', bin('prettier'), ['--check', '--ignore-unknown', '--log-level', 'warn', ...changed]);
check('tests', bin('vitest'), ['run', '--changed', since, '--reporter=dot', '--passWithNoTests']);
const specs = code.filter((file) => /^tests\/browser\/.*\.spec\.ts$/.test(file));
if (specs.length > 0) console.log(`\nNot run here: npx playwright test ${specs.join(' ')}`);
console.log(failed.length === 0 ? '\nAll is well.' : `\nFailed: ${failed.join(', ')}`);
process.exit(failed.length === 0 ? 0 : 1);
