// Runs everything that is tested: `npm test`. The last line is the true sum.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, must, root } from './common.mjs';
import { startPostgres } from './postgres.mjs';

let passed = 0;
let failed = 0;
const results = join(root, 'test-results');

function title(text) {
  console.log(`\n== ${text}`);
}

/** Runs checks that each pass or fail as one, beside each other; what they print comes in their order. */
async function checks(list) {
  const runs = list.map(([name, command, args]) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (d) => (output += d));
    return { name, done: once(child, 'exit').then(([status]) => ({ status, output })) };
  });
  for (const { name, done } of runs) {
    const { status, output } = await done;
    title(name);
    process.stdout.write(output);
    if (status === 0) passed++;
    else {
      failed++;
      console.log(`${name}: FAILED`);
    }
  }
}

/** Runs a test program that writes its results as JSON, and adds them up. */
function suite(name, command, args, file, count, env = {}) {
  title(name);
  const path = join(results, file);
  rmSync(path, { force: true });
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  const sum = existsSync(path) ? count(JSON.parse(readFileSync(path, 'utf8'))) : { passed: 0, failed: 0 };
  // A program that failed without a failed test (a file that does not load, a server that does not start) counts as one.
  if (status !== 0 && sum.failed === 0) sum.failed = 1;
  passed += sum.passed;
  failed += sum.failed;
  console.log(`${name}: ${sum.passed} passed, ${sum.failed} failed`);
}

const bin = (name) => join(root, 'node_modules/.bin', name);
const vitest = (projects, file) => [
  'run',
  ...projects.flatMap((project) => ['--project', project]),
  '--reporter=dot',
  '--reporter=json',
  `--outputFile.json=${join('test-results', file)}`,
];
const vitestSum = (json) => ({ passed: json.numPassedTests, failed: json.numFailedTests });
const playwrightSum = ({ stats, errors }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected + (errors?.length ?? 0) + stats.skipped,
});

/** Chromium from Debian, if there is none. */
function needChromium() {
  if (existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium')) return;
  console.log('Installing Chromium …');
  must('apt-get', ['update']);
  must('apt-get', ['install', '-y', '--no-install-recommends', 'chromium']);
}

install();
mkdirSync(results, { recursive: true });
await checks([
  ['types', bin('tsc'), ['--noEmit']],
  ['lint', bin('eslint'), ['.', '--max-warnings', '0']],
]);
await checks([
  ['formatting', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['layers', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']],
]);
// Together: the commands that the unit tests start one by one leave a core to the database tests.
suite(
  'unit and embedded database',
  bin('vitest'),
  vitest(['unit', 'database'], 'embedded.json'),
  'embedded.json',
  vitestSum,
);
const postgres = await startPostgres();
try {
  const env = { LANTERN_TEST_SERVER: postgres.url };
  suite(
    'PostgreSQL server',
    bin('vitest'),
    vitest(['database'], 'server.json'),
    'server.json',
    vitestSum,
    env,
  );
} finally {
  postgres.stop();
}
needChromium();
build();
suite('browser', bin('playwright'), ['test'], 'browser.json', playwrightSum);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
