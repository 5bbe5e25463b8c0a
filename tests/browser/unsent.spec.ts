import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, existsSync, mkdtempSync, readdirSync, realpathSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { MADE_DATA } from './data';
import { INSTRUCTOR, open, PASSWORD } from './support';

const PORT = 3227;
const folder = mkdtempSync(join(tmpdir(), 'lantern-crash-'));
cpSync(MADE_DATA, folder, { recursive: true });
const started: ChildProcess[] = [];
test.afterAll(() => {
  for (const child of started) if (child.exitCode == null) child.kill('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
});

/** Starts the demo as a user does, with its output gathered. */
function demo(port: number, data = folder) {
  const child = spawn(process.execPath, ['scripts/demo.mjs', '--no-practice'], {
    env: {
      ...process.env,
      PORT: String(port),
      LANTERN_DATA: data,
      LANTERN_NOW: '2026-11-25T10:35:00Z',
      LANTERN_CALL_BACK_S: '0',
    },
  });
  started.push(child);
  const said = { text: '' };
  child.stdout.on('data', (d: Buffer) => (said.text += d.toString()));
  child.stderr.on('data', (d: Buffer) => (said.text += d.toString()));
  return { child, said, ended: once(child, 'exit').then(([code]) => code as number | null) };
}

/** The process that holds the data folder: it says so to whoever connects to its lock. */
function holder(): Promise<number> {
  return new Promise((resolve, reject) => {
    let answer = '';
    const socket = connect(`\0lantern:${realpathSync(folder)}`);
    socket.on('data', (d) => (answer += d.toString()));
    socket.on('error', reject);
    socket.on('close', () => resolve(Number(/process (\d+)/.exec(answer)?.[1])));
  });
}

const kept = () =>
  existsSync(join(folder, 'mail')) ? readdirSync(join(folder, 'mail')).filter((f) => f.endsWith('.eml')) : [];

test('the server killed while it sends: after the next start everybody has the message once', async ({
  browser,
}) => {
  const first = demo(PORT);
  await expect.poll(() => first.said.text, { timeout: 600_000 }).toContain('Ready Lantern is at');

  // A second start on the same port, or on the same data, is told why not.
  const samePort = demo(PORT);
  expect(await samePort.ended).toBe(1);
  expect(samePort.said.text).toContain(`Port ${PORT} is in use`);
  const sameData = demo(PORT + 1);
  expect(await sameData.ended).toBe(1);
  expect(sameData.said.text).toMatch(/data folder .* is in use by the Ready Lantern server \(process \d+\)/);

  const page = await browser.newPage({ baseURL: `http://localhost:${PORT}` });
  const signIn = await page.request.post('/api/auth/sign-in/email', {
    data: { email: INSTRUCTOR, password: PASSWORD },
  });
  expect(signIn.status()).toBe(200);
  await open(page, '/c/NAV-110/rounds?show=everyone');
  await page.getByLabel('Select all 72').check();
  await page
    .getByRole('region', { name: 'Selection' })
    .getByRole('button', { name: 'Message 72', exact: true })
    .click();
  // Several reasons make several texts; here one is enough.
  await page.getByLabel('One text for all').check();
  await page.getByRole('button', { name: 'Send to 72' }).click();
  await expect.poll(() => kept().length, { intervals: [5] }).toBeGreaterThan(3);
  process.kill(await holder(), 'SIGKILL');
  await first.ended;
  const before = kept().length;
  expect(before).toBeLessThan(71);

  const again = demo(PORT);
  await expect.poll(() => again.said.text).toContain('Ready Lantern is at');
  await expect.poll(() => kept().length).toBe(71);
  await page.goto('/c/NAV-110/messages');
  await expect(page.getByRole('row').nth(1)).toContainText('0 of 72');
  await expect(page.getByRole('row').nth(1)).toContainText('1 did not arrive');
  // One file for each recipient, none for the address that is gone.
  expect(new Set(kept().map((f) => f.split('.')[0])).size).toBe(71);
  again.child.kill('SIGTERM');
  await again.ended;
});
