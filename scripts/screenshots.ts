import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';

/** Takes the pictures of docs/screenshots from fresh demo data at a fixed instant. */
const PORT = 3231;
const BASE = `http://localhost:${PORT}`;
const OUT = 'docs/screenshots';
const PASSWORD = 'saltmarsh-lantern';
const INSTRUCTOR = 'ines.calloway@saltmarsh.example';
const STUDENT = 'tomasz.okonedo-lind@students.saltmarsh.example';
/** A student whose plan was handed out by the score of a quiz. */
const PLANNER = 'priya.halloran@students.saltmarsh.example';

async function signedIn(email: string, colorScheme: 'light' | 'dark'): Promise<Page> {
  const browser = await chromium.launch({
    executablePath:
      process.env.CHROMIUM ??
      ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
  const page = await browser.newPage({
    baseURL: BASE,
    viewport: { width: 1280, height: 800 },
    colorScheme,
    locale: 'en-GB',
  });
  await page.request.post('/api/auth/sign-in/email', { data: { email, password: PASSWORD } });
  return page;
}

/** Opens a page and waits until it answers. */
async function visit(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await page.waitForFunction(() => document.documentElement.dataset.awake === 'yes');
}

async function shoot(page: Page, name: string, path?: string): Promise<void> {
  if (path) await visit(page, path);
  await page.waitForTimeout(500);
  await page.screenshot({ path: join(OUT, `${name}.png`) });
  console.log(`${name}.png`);
}

async function pictures(): Promise<void> {
  const page = await signedIn(INSTRUCTOR, 'light');
  await shoot(page, 'rounds', '/c/NAV-110/rounds?show=all');
  await visit(page, '/c/NAV-110/rounds?show=behind');
  await page.getByLabel(/^Select all/).check();
  await page.getByRole('button', { name: /with plans$/ }).click();
  await page.getByRole('list', { name: 'Recipients' }).getByText('Tomasz Okonedo-Lind').click();
  await shoot(page, 'compose');
  await page.getByRole('button', { name: /^Send to/ }).click();
  await page.getByRole('heading', { name: /went out/ }).waitFor();
  await page.getByText('Sent to').waitFor({ state: 'hidden', timeout: 15_000 });
  await page.getByRole('link', { name: 'Tomasz Okonedo-Lind', exact: true }).click();
  await page.waitForURL(/students/);
  await page.waitForLoadState('load');
  await shoot(page, 'brief');
  await visit(page, '/c/NAV-110/import');
  const lines = [
    'event_id;student_id;at;kind;activity_id;duration_s',
    'X1;S1001;2026-11-20T10:00:00Z;view;chart-1;12,5',
    'X2;S9999;2026-11-20T10:00:00Z;view;;',
    'X3;S1002;2026-02-29T10:00:00Z;view;;',
    'X4;S1002;2026-11-20T10:00:00;view;;',
    'X5;S1002;2026-11-20T10:00:00Z;dance;;',
    'X1;S1001;2026-11-20T10:00:00Z;view;chart-1;13',
  ];
  const buffer = Buffer.from(lines.join('\r\n'));
  await page
    .getByLabel('Files to import')
    .setInputFiles([{ name: 'events.csv', mimeType: 'text/csv', buffer }]);
  await page.getByText('would go in').waitFor();
  await shoot(page, 'import');
  await shoot(page, 'rules', '/c/NAV-110/rules');
  await shoot(page, 'setup', '/c/NAV-110/setup?part=work');
  await shoot(page, 'week', '/c/NAV-110/week?w=7d&g=all&k=all');
  await shoot(page, 'activity', '/c/NAV-110/activity');
  await shoot(page, 'session', '/c/NAV-110/session');
  await shoot(page, 'gradebook', '/c/NAV-110/gradebook?status=awaiting+grade');
  await visit(page, '/c/NAV-110/plans');
  await page.getByRole('link', { name: 'After the tidal streams quiz' }).first().click();
  await page.getByRole('button', { name: 'Try a score' }).waitFor();
  await shoot(page, 'plan-design');
  await shoot(page, 'outcomes', '/c/NAV-110/outcomes');
  await visit(page, '/c/NAV-110/items');
  await page.getByLabel('Quiz').click();
  await page.getByRole('option', { name: /^Tidal streams quiz/ }).click();
  await page.getByRole('list', { name: 'Items that call for a look' }).getByRole('button').first().click();
  await page.getByRole('button', { name: 'Change the key' }).click();
  const key = page.getByRole('form', { name: /^Key of/ });
  await key.getByRole('checkbox', { name: /^C / }).check();
  await key.getByText(/grades? rises?/).waitFor();
  await shoot(page, 'items');
  await page.getByRole('link', { name: 'Show in class' }).click();
  await page.getByRole('button', { name: /^How the answers were spread/ }).click();
  await shoot(page, 'in-class');
  await page.context().browser()?.close();

  const student = await signedIn(STUDENT, 'light');
  await visit(student, '/home');
  await student.getByRole('button', { name: /What is still open/ }).click();
  await student.getByRole('checkbox').first().check();
  await student.getByText('Ticked off').waitFor();
  await student.getByText('Ticked off').waitFor({ state: 'hidden', timeout: 15_000 });
  await shoot(student, 'student-home');
  await student
    .getByLabel(/^Answer Ines/)
    .fill('Thank you. Could we talk on Monday after class? I am lost with the tides.');
  await student.getByRole('button', { name: 'Send the answer' }).click();
  await student.getByRole('list', { name: 'Your answers' }).waitFor();
  await student.context().browser()?.close();

  const phone = await signedIn(PLANNER, 'light');
  await phone.setViewportSize({ width: 390, height: 844 });
  await shoot(phone, 'student-plan', '/home');
  await phone.context().browser()?.close();

  const dark = await signedIn(INSTRUCTOR, 'dark');
  await shoot(dark, 'talks-dark', '/c/NAV-110/talks');
  const where = {
    all: [
      { measure: 'missing', is: '>', value: 0 },
      { measure: 'written:7', is: 'in', value: ['no'] },
      {
        any: [
          { measure: 'standing', is: 'lowest', percent: 25 },
          { measure: 'minutes:7', is: '<', value: 60 },
        ],
      },
    ],
  };
  await shoot(
    dark,
    'audience-dark',
    `/c/NAV-110/audiences?where=${encodeURIComponent(JSON.stringify(where))}`,
  );
  await dark.setViewportSize({ width: 390, height: 844 });
  await shoot(dark, 'card-dark', '/c/NAV-110/card');
  await dark.context().browser()?.close();
}

async function main(): Promise<void> {
  mkdirSync(OUT, { recursive: true });
  const folder = mkdtempSync(join(tmpdir(), 'lantern-pictures-'));
  const demo = spawn(process.execPath, ['scripts/demo.mjs', '--no-practice'], {
    env: {
      ...process.env,
      PORT: String(PORT),
      LANTERN_DATA: folder,
      LANTERN_NOW: '2026-11-25T10:35:00Z',
      LANTERN_CALL_BACK_S: '0',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    demo.stdout.on('data', (d: Buffer) => d.toString().includes('Ready Lantern is at') && resolve());
    demo.on('exit', () => reject(new Error('the demo ended')));
  });
  try {
    await pictures();
  } finally {
    demo.removeAllListeners('exit');
    demo.kill('SIGTERM');
    await once(demo, 'exit');
    rmSync(folder, { recursive: true, force: true });
  }
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
