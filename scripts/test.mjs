// Runs everything that is tested: `npm test`. The last line is the true sum.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, install, must, root, start } from './common.mjs';
import { startPostgres } from './postgres.mjs';

let passed = 0;
let failed = 0;
/** What failed, told again before the sum: whoever keeps only the end of a long output still learns it. */
const failures = [];
/** Characters of what a failure printed. */
const MOST_TOLD = 3000;
const results = join(root, 'test-results');

// Each run draws anew; what it found is found again by its seed. One number for all its programs.
const seed = process.env.LANTERN_SEED ?? String(Math.floor(Math.random() * 2 ** 31));
process.env.LANTERN_SEED = seed;

/** What each phase took, in the order in which they began. */
const phases = [];
/** Seconds that each file of tests took. */
const files = [];

function title(text) {
  console.log(`\n== ${text}`);
}

/** Notes how long something took. */
async function phase(name, work) {
  const begun = performance.now();
  try {
    return await work();
  } finally {
    phases.push([name, (performance.now() - begun) / 60_000]);
  }
}

/** The command that runs what failed alone, with what was drawn. */
const again = (command) => `  again: LANTERN_SEED=${seed} ${command}`;

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
      failures.push(`${name}\n${output.trim().slice(-MOST_TOLD)}`);
    }
  }
}

/** Runs a test program that writes its results as JSON, and adds them up. */
function suite(name, command, args, file, { count, told, times }, env = {}) {
  title(name);
  const path = join(results, file);
  rmSync(path, { force: true });
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  const report = existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null;
  const sum = report ? count(report) : { passed: 0, failed: 0 };
  if (report) files.push(...times(report).map(([file, seconds]) => [seconds, `${file} (${name})`]));
  // A program that failed without a failed test (a file that does not load, a server that does not start) counts as one.
  if (status !== 0 && sum.failed === 0) sum.failed = 1;
  if (sum.failed > 0 || (report?.stats?.flaky ?? 0) > 0) {
    const words = report ? told(report) : [];
    if (words.length === 0) words.push('it did not run to its end; what it printed stands above');
    failures.push(...words.map((text) => `${name}: ${text.slice(0, MOST_TOLD)}`));
  }
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
const short = (path) => path.replace(`${root}/`, '');

/** How many passed and failed by a report of Vitest, and what it says of those that failed. */
const ofVitest = {
  count: (json) => ({ passed: json.numPassedTests, failed: json.numFailedTests }),
  told: (json) =>
    json.testResults.flatMap(({ name, message, assertionResults }) => [
      ...(message ? [`${short(name)}\n${again(`npx vitest run ${short(name)}`)}\n${message}`] : []),
      ...assertionResults
        .filter((test) => test.status === 'failed')
        .map(
          (test) =>
            `${short(name)} › ${test.fullName}\n${again(`npx vitest run ${short(name)} -t ${JSON.stringify(test.title)}`)}\n${test.failureMessages.join('\n')}`,
        ),
    ]),
  times: (json) =>
    json.testResults.map(({ name, startTime, endTime }) => [short(name), (endTime - startTime) / 1000]),
};

const specsOf = (suites) => suites.flatMap((s) => [...s.specs, ...specsOf(s.suites ?? [])]);
/** The same of a report of Playwright; what it passed over counts as failed. */
const ofPlaywright = {
  count: ({ stats, errors }) => ({
    // What passes at its second try is told with the trace of its first; it is to be red once no test needs one.
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected + (errors?.length ?? 0) + stats.skipped,
  }),
  told: ({ suites, errors }) => [
    ...(errors ?? []).map((error) => error.message ?? String(error.value)),
    ...specsOf(suites).flatMap(({ file, line, title, tests }) =>
      tests
        .filter(({ status }) => status !== 'expected')
        .map(({ status, results }) => {
          const errors = results.flatMap((result) => result.errors.map((error) => error.message));
          const traces = results.flatMap(({ attachments }) =>
            attachments.filter(({ name }) => name === 'trace'),
          );
          const kind = status === 'flaky' ? 'passed only at its second try' : status;
          return [
            `${file}:${line} › ${title} (${kind})`,
            again(`npx playwright test ${file}:${line}`),
            ...traces.slice(0, 1).map(({ path }) => `  trace of the first try: ${short(path)}`),
            ...errors,
          ].join('\n');
        }),
    ),
  ],
  times: ({ suites }) =>
    suites.map(({ file, ...suite }) => [
      `tests/browser/${file}`,
      specsOf([suite])
        .flatMap(({ tests }) => tests.flatMap(({ results }) => results))
        .reduce((sum, { duration }) => sum + duration / 1000, 0),
    ]),
};

/** Chromium from Debian, if there is none: the build without a window does with a quarter less of the processor. */
function needChromium() {
  const places = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];
  if (process.env.CHROMIUM || places.some((path) => existsSync(path))) return;
  console.log('Installing Chromium …');
  must('apt-get', ['update']);
  must('apt-get', ['install', '-y', '--no-install-recommends', 'chromium-headless-shell']);
}

console.log(`Properties draw from ${seed}; LANTERN_SEED=${seed} npm test draws the same.`);
await phase('installing', () => install());
mkdirSync(results, { recursive: true });
await phase('types, lint, formatting, layers', async () => {
  await checks([
    ['types', bin('tsc'), ['--noEmit']],
    [
      'lint',
      bin('eslint'),
      ['.', '--cache', '--cache-location', 'node_modules/.cache/eslint/', '--max-warnings', '0'],
    ],
  ]);
  await checks([
    ['formatting', bin('prettier'), ['--cache', '--check', '--log-level', 'warn', '.']],
    ['layers', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']],
  ]);
});
// Together: the commands that the unit tests start one by one leave a core to the database tests.
await phase('unit and embedded database', () =>
  suite(
    'unit and embedded database',
    bin('vitest'),
    vitest(['unit', 'database'], 'embedded.json'),
    'embedded.json',
    ofVitest,
  ),
);
await phase('PostgreSQL server', async () => {
  const postgres = await startPostgres();
  try {
    suite('PostgreSQL server', bin('vitest'), vitest(['database'], 'server.json'), 'server.json', ofVitest, {
      LANTERN_TEST_SERVER: postgres.url,
    });
  } finally {
    postgres.stop();
  }
});
needChromium();
// The data of the browser tests is made while the application is built.
const seeded = await phase('building, and data of the browser tests', async () => {
  const seeding = once(start(['--import', 'tsx', 'tests/browser/seed.ts'], {}), 'exit');
  build();
  return (await seeding)[0] === 0 ? '1' : '0';
});
await phase('browser', () =>
  suite('browser', bin('playwright'), ['test'], 'browser.json', ofPlaywright, {
    LANTERN_TEST_SEEDED: seeded,
  }),
);

title('time');
for (const [name, minutes] of phases) console.log(`${minutes.toFixed(1)} min  ${name}`);
console.log('\nThe ten slowest files:');
for (const [seconds, name] of files.toSorted((a, b) => b[0] - a[0]).slice(0, 10))
  console.log(`${Math.round(seconds)} s  ${name}`);

if (failures.length > 0) title('what failed');
for (const text of failures) console.log(`✗ ${text}\n`);
if (failed > 0) console.log(`Properties drew from LANTERN_SEED=${seed}.`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
