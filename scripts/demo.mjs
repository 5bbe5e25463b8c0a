// Sets everything up and serves the demo: `npm run demo`, or `npm run demo -- --fresh` to start over, and
// `npm run demo -- --no-practice` to leave the practice room closed.
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:net';
import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { createInterface } from 'node:readline';
import { build, install, root, start } from './common.mjs';

const port = Number(process.env.PORT ?? 3000);
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`PORT must be a number from 1 to 65535, not “${process.env.PORT}”.`);
  process.exit(2);
}

// Nobody else's machine reaches the demo unless it is asked for.
const host = process.env.HOST || 'localhost';

/** Resolves if the port can be had; ends the process with a clear word if not. */
function needPort() {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', (error) => {
      if (error.code !== 'EADDRINUSE') {
        console.error(`HOST=${host} cannot be served on: ${error.code}.`);
        process.exit(1);
      }
      console.error(`Port ${port} is in use. Stop what uses it, or choose another: PORT=3001 npm run demo`);
      process.exit(1);
    });
    probe.listen(port, host, () => probe.close(resolve));
  });
}

/** Makes the demo data if there is none. Returns who can sign in. */
function seed() {
  const fresh = process.argv.includes('--fresh') ? ['--fresh'] : [];
  const made = spawnSync(process.execPath, ['--import', 'tsx', 'src/demo/main.ts', ...fresh], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const lines = made.stdout.trim().split('\n');
  if (made.status !== 0) process.exit(made.status ?? 1);
  const signIns = JSON.parse(lines.pop());
  for (const line of lines) console.log(line);
  return signIns;
}

await needPort();
install();
build();
console.log('Looking after the demo data …');
const signIns = seed();

// A key for the statements endpoint: set from outside, or made for this run.
const key = {
  LANTERN_XAPI_KEY: process.env.LANTERN_XAPI_KEY ?? 'practice-room',
  LANTERN_XAPI_SECRET: process.env.LANTERN_XAPI_SECRET ?? randomBytes(18).toString('base64url'),
  LANTERN_XAPI_COURSE: process.env.LANTERN_XAPI_COURSE ?? 'NAV-110',
};
const children = [];
let stopping = false;
function stop(code) {
  if (stopping) return;
  stopping = true;
  for (const child of children) child.kill('SIGTERM');
  setTimeout(() => process.exit(code), 1500).unref();
  Promise.all(children.map((c) => (c.exitCode == null ? once(c, 'exit') : null))).then(() =>
    process.exit(code),
  );
}
process.on('SIGINT', () => stop(0));
process.on('SIGTERM', () => stop(0));

/** A port of this machine that nobody has. */
async function freePort() {
  const probe = createServer();
  probe.listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port: found } = probe.address();
  probe.close();
  await once(probe, 'close');
  return found;
}

// Answers by e-mail come in where it is said, or at a port of this machine's own.
const mailIn = { LANTERN_MAIL_IN_PORT: process.env.LANTERN_MAIL_IN_PORT ?? String(await freePort()) };
const mail = start(['--import', 'tsx', 'src/demo/mail.ts'], mailIn, ['ignore', 'pipe', 'inherit']);
children.push(mail);
const [ports] = await once(createInterface({ input: mail.stdout }), 'line');
const [mailPort, boxesPort] = ports.split(' ');

const server = start(['node_modules/next/dist/bin/next', 'start', '-p', String(port), '-H', host], {
  PORT: String(port),
  ...key,
  ...mailIn,
  SMTP_URL: process.env.SMTP_URL ?? `smtp://127.0.0.1:${mailPort}`,
  LANTERN_MAIL_STANDIN: process.env.SMTP_URL ? 'no' : 'yes',
  LANTERN_MAIL_VOUCHED_BY: process.env.LANTERN_MAIL_VOUCHED_BY ?? 'mail.saltmarsh.example',
  NEXT_TELEMETRY_DISABLED: '1',
});
children.push(server);
for (const child of children) child.on('exit', (code) => stop(code ?? 1));

const address = `http://${['0.0.0.0', '::'].includes(host) ? 'localhost' : host}:${port}`;
for (let tries = 0; ; tries++) {
  const ready = await fetch(`${address}/api/health`).then(
    (r) => r.ok,
    () => false,
  );
  if (ready) break;
  if (tries > 120) {
    console.error('The server did not become ready.');
    stop(1);
    break;
  }
  await new Promise((resolve) => setTimeout(resolve, 500));
}
const practice = !process.argv.includes('--no-practice') && !stopping;
if (practice) {
  const room = start(['--import', 'tsx', 'src/demo/practice/main.ts'], {
    ...key,
    LANTERN_XAPI_URL: `${address}/xapi`,
  });
  children.push(room);
}
console.log(`
  Ready Lantern is at ${address}

  Instructor  ${signIns.instructor}
  Student     ${signIns.student}
  Password    ${signIns.password}   (the same for all)

  Mailboxes   http://localhost:${boxesPort}   what the students were sent, and the way to answer for them
  Statements  ${address}/xapi   key ${key.LANTERN_XAPI_KEY}   secret ${key.LANTERN_XAPI_SECRET}
  Practice room ${practice ? 'open: simulated students send statements (--no-practice closes it)' : 'closed'}

  Stop with Ctrl C. Start over with: npm run demo -- --fresh
`);
