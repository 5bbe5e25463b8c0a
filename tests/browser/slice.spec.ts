import { readFile } from 'node:fs/promises';
import { simpleParser } from 'mailparser';
import {
  expectAccessible,
  INSTRUCTOR,
  OTHER_STUDENT,
  signIn,
  signInByForm,
  STRANGER,
  STUDENT,
  watchConsole,
} from './support';
import { expect, test } from './test';

test.describe.configure({ mode: 'serial' });

test('an instructor writes to everyone who is behind, each with their own text and plan, within two minutes', async ({
  page,
}) => {
  const started = Date.now();
  const complaints = watchConsole(page);
  await signInByForm(page, INSTRUCTOR);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^\d+ of 72 students need something now$/);

  await page.getByRole('button', { name: /^Behind/ }).click();
  await expect(page).toHaveURL(/show=behind/);
  const behind = Number(
    await page
      .getByRole('button', { name: /^Behind/ })
      .locator('span')
      .textContent(),
  );
  expect(behind).toBeGreaterThan(3);
  await page.getByLabel(/^Select all/).check();
  const selection = page.getByRole('region', { name: 'Selection' });
  await expect(selection).toContainText(`${behind} students selected behind`);
  await selection.getByRole('button', { name: /with plans$/ }).click();

  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    `Write to ${behind} students, each with their own text`,
  );
  const list = page.getByRole('list', { name: 'Recipients' });
  await expect(list.getByRole('listitem')).toHaveCount(behind);
  await list.getByText('Tomasz Okonedo-Lind').click();
  const own = page.getByRole('region', { name: 'What Tomasz Okonedo-Lind will read' });
  await expect(own).toContainText('Hello Tomasz');
  await expect(own).toContainText('What is still open in Coastal Navigation');
  await expect(own).not.toContainText('{');
  const plan = page.getByRole('region', { name: 'Plan for Tomasz Okonedo-Lind' });
  const first = plan.getByLabel('Step 1 for Tomasz Okonedo-Lind');
  await first.fill('Start with two pages on tides');
  await expect(own).toContainText('Start with: Start with two pages on tides');
  const steps = await plan.getByLabel(/^Step \d/).count();
  await plan.getByRole('button', { name: `Remove step ${steps}` }).click();
  await expect(plan.getByLabel(/^Step \d/)).toHaveCount(steps - 1);
  await expectAccessible(page);

  await page.getByRole('button', { name: /^Send to/ }).dblclick();
  await expect(page).toHaveURL(/\/messages\/\d+$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/e-mails? went out/);
  expect(Date.now() - started).toBeLessThan(120_000);
  // One address is gone: that copy is in the application only.
  const copies = page.getByRole('list', { name: 'Recipients' });
  await expect(copies.getByText('e-mail: sent')).toHaveCount(behind - 1);
  await expect(copies.getByText('e-mail: did not arrive')).toHaveCount(1);
  await expectAccessible(page);

  // Clicked twice, sent once.
  await page.getByRole('link', { name: 'Messages', exact: true }).click();
  await expect(page.getByRole('row')).toHaveCount(2);
  await expect(page.getByRole('row').nth(1)).toContainText(`0 of ${behind}`);
  expect(complaints).toEqual([]);
});

test('the e-mail can be downloaded and is read by an independent parser', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/messages');
  await page.getByRole('row').nth(1).getByRole('link').click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: '.eml of Tomasz Okonedo-Lind' }).click();
  const mail = await simpleParser(await readFile(await (await downloading).path()));
  expect(mail.subject).toBe('What is still open in Coastal Navigation');
  expect(mail.text).toContain('1. Start with two pages on tides');
});

test('the student reads it, ticks a step off, takes it back, and sees their own picture', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signInByForm(page, STUDENT);
  await expect(page).toHaveURL(/\/home$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Hello Tomasz, 1 message for you');
  await page.getByRole('button', { name: /What is still open/ }).click();
  await expect(page.getByText('Hello Tomasz,', { exact: false }).last()).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/steps of your plan are open/);

  const step = page.getByRole('checkbox', { name: /Start with two pages on tides/ });
  await step.check();
  await expect(page.getByText('Ticked off “Start with two pages on tides”.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(step).not.toBeChecked();
  await expect(page.getByText('“Start with two pages on tides” is open again.')).toBeVisible();
  await step.check();
  // The word comes when the server has it: from then on it survives anything.
  await expect(page.getByText('Ticked off “Start with two pages on tides”.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('checkbox', { name: /Start with two pages on tides/ })).toBeChecked();
  await expect(page.getByText('Your term so far').first()).toBeVisible();
  await expect(page.getByText(/class median|middle half|of the class/)).toHaveCount(0);
  await expectAccessible(page);
  expect(complaints).toEqual([]);
});

test('the student says that they cannot today, when they learn, and takes the plan into a calendar', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await signIn(page, STUDENT, '/home');
  await page.getByRole('button', { name: 'I cannot today' }).click();
  await expect(
    page.getByText(/since you cannot today|Nothing had to move: you cannot today/).first(),
  ).toBeVisible();
  await page.getByLabel('Minutes a day').fill('25');
  await page.getByRole('checkbox', { name: 'Sunday' }).check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved; your plan fits it now.')).toBeVisible();
  await page.getByRole('button', { name: 'My plan in my calendar' }).click();
  const address = await page.getByLabel('Address of your plan').inputValue();
  const calendar = await page.request.get(address);
  expect(await calendar.text()).toContain('BEGIN:VEVENT');
  await expectAccessible(page);
});

test('the instructor sees that it was read and ticked off', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/plans');
  await expect(page.getByRole('row', { name: /Tomasz Okonedo-Lind, made for them/ })).toContainText('1 of');
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Tomasz Okonedo-Lind' }).first().click();
  await expect(page.getByText('Ticked off “Start with two pages on tides”')).toBeVisible();
  await expect(
    page.getByText(/Message “What is still open in Coastal Navigation” \(behind\): read/),
  ).toBeVisible();
  await expectAccessible(page);
});

test('nobody looks at what is not theirs', async ({ page, request }) => {
  await page.goto('/c/NAV-110/rounds');
  await expect(page).toHaveURL(/\/sign-in$/);

  await signIn(page, OTHER_STUDENT);
  for (const path of [
    '/c/NAV-110/rounds',
    '/c/NAV-110/students/2',
    '/c/NAV-110/messages/1',
    '/c/NAV-110/compose',
  ]) {
    const response = await page.goto(path);
    expect(response?.status()).toBe(404);
    await expect(page.getByText('There is nothing here for you')).toBeVisible();
  }
  await expectAccessible(page);
  for (const path of [
    '/api/mail/1',
    '/api/courses/NAV-110/tray',
    '/api/courses/NAV-110/examples/roster.csv',
  ]) {
    expect((await page.request.get(path)).status()).toBeGreaterThanOrEqual(403);
    expect((await request.get(path)).status()).toBe(401);
  }
  await page.goto('/home');
  await expect(page.getByText('Start with two pages on tides')).toHaveCount(0);

  await page.context().clearCookies();
  await signIn(page, STRANGER);
  expect((await page.goto('/c/NAV-110/rounds'))?.status()).toBe(404);
});

test('signing in says what is wrong, and another site cannot do it', async ({ page, request }) => {
  await page.goto('/sign-in');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Write your e-mail address.')).toBeVisible();
  await page.getByLabel('E-mail address').fill(INSTRUCTOR);
  await page.getByLabel('Password').fill('wrong password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('do not belong together')).toBeVisible();
  await expectAccessible(page);
  const foreign = await request.post('/api/auth/sign-in/email', {
    headers: {
      origin: 'http://evil.example',
      'content-type': 'application/json',
      cookie: 'lantern.session_token=x',
    },
    data: { email: INSTRUCTOR, password: 'saltmarsh-lantern' },
  });
  expect(foreign.status()).toBe(403);
  const policy = (await page.goto('/sign-in'))!.headers()['content-security-policy'];
  expect(policy).toContain("frame-ancestors 'none'");
  expect(policy).toMatch(/script-src 'self' 'nonce-/);
});

test('an e-mail that did not arrive says why, and goes out to a mended address', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/', { waitUntil: 'commit' });
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('sunniva', { delay: 30 });
  await expect(page.getByPlaceholder(/Name of a student/)).toHaveValue('sunniva');
  await expect(page.getByRole('option', { name: /Sunniva Castellanos/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sunniva Castellanos');
  await page.getByRole('button', { name: 'Message', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Write to Sunniva Castellanos');

  // Without a word in it nothing can be sent.
  const body = page.getByRole('textbox', { name: 'Message' });
  await body.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect(page.getByText('The message is empty.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Send to 1' })).toBeDisabled();
  await page.keyboard.type('Hello, shall we talk?');
  await page.getByRole('button', { name: 'Send to 1' }).click();

  await expect(page.getByRole('heading', { level: 1 })).toHaveText('The e-mail did not arrive', {
    timeout: 600_000,
  });
  await expect(page.getByText('This mailbox does not exist')).toBeVisible();
  await expectAccessible(page);
  const address = page.getByLabel('Address of Sunniva Castellanos');
  await address.fill('sunniva.castellanos@students.saltmarsh.example');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('The e-mail went out', {
    timeout: 600_000,
  });
});

test('a page that is not awake sends nothing: no password ends up in an address', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto('/sign-in');
  await expect(page.getByLabel('Password')).toBeDisabled();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeDisabled();
  await expect(page.locator('form')).toHaveAttribute('method', 'post');
  await context.close();
});
