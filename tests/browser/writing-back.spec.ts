import { readFile } from 'node:fs/promises';
import { createTransport } from 'nodemailer';
import { simpleParser } from 'mailparser';
import { alive, expectAccessible, INSTRUCTOR, open, signIn, STUDENT, watchConsole } from './support';
import { expect, test } from './test';

test('a student answers here and by e-mail; the instructor is told, reads both in one thread, and writes back', async ({
  browser,
  site,
}) => {
  const staff = await (await browser.newContext()).newPage();
  const complaints = watchConsole(staff);
  await signIn(staff, INSTRUCTOR);
  await open(staff, '/c/NAV-110/rounds');
  await staff.keyboard.press('Control+k');
  await staff.getByPlaceholder(/Name of a student/).fill('okonedo');
  await expect(staff.getByRole('option', { name: /Okonedo-Lind/ })).toBeVisible();
  await staff.keyboard.press('Enter');
  await expect(staff.getByRole('heading', { level: 1 })).toHaveText('Tomasz Okonedo-Lind');
  await staff.getByRole('button', { name: 'Message', exact: true }).click();
  await staff.getByLabel('Subject').fill('A talk this week?');
  await staff.getByRole('button', { name: 'Send to 1' }).click();
  await expect(staff.getByRole('heading', { level: 1 })).toHaveText('The e-mail went out', {
    timeout: 600_000,
  });
  const [file] = await Promise.all([
    staff.waitForEvent('download'),
    staff.getByRole('link', { name: /\.eml/ }).click(),
  ]);
  const mail = await simpleParser(await readFile(await file.path()));

  const student = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await signIn(student, STUDENT, '/home');
  await alive(student);
  await student.getByRole('button', { name: /^A talk this week\?/ }).click();
  await student.getByRole('button', { name: 'Send the answer' }).click();
  await expect(student.getByText('Write a word or two.')).toBeVisible();
  await student.getByLabel('Answer Ines Calloway').fill('Yes, after class on Monday.');
  await student.getByRole('button', { name: 'Send the answer' }).click();
  await expect(student.getByRole('list', { name: 'Your answers' })).toContainText(
    'Yes, after class on Monday.',
  );
  await expectAccessible(student);

  await createTransport({ host: '127.0.0.1', port: site.mailInPort, ignoreTLS: true }).sendMail({
    from: mail.to && 'value' in mail.to ? mail.to.value[0]!.address : '',
    to: mail.replyTo!.value[0]!.address,
    subject: 'Re: A talk this week?',
    text: 'Or on Tuesday.\n\nOn Wed, Ines Calloway wrote:\n> A talk?',
  });
  // The server has it safe; it is read a moment later.
  await expect(async () => {
    await student.reload();
    await alive(student);
    await student.getByRole('button', { name: /^A talk this week\?/ }).click();
    await expect(student.getByRole('list', { name: 'Your answers' })).toContainText('Or on Tuesday.', {
      timeout: 2000,
    });
  }).toPass();

  await open(staff, '/c/NAV-110/messages');
  await staff.getByRole('link', { name: '2 answers to read' }).click();
  await expect(staff.getByRole('heading', { level: 1 })).toHaveText(
    '1 student waits for you to read their answer',
  );
  await expectAccessible(staff);
  await staff.getByRole('link', { name: 'Tomasz Okonedo-Lind' }).click();
  const thread = staff.getByRole('list', { name: 'What was said' });
  await expect(thread.getByText('Yes, after class on Monday.')).toBeVisible();
  await expect(thread.getByText('Or on Tuesday.', { exact: true })).toBeVisible();
  await expect(thread.getByText(/by e-mail/).first()).toBeVisible();
  await expectAccessible(staff);
  // The rail knows at once; another page does too.
  await expect(staff.getByRole('link', { name: 'Messages', exact: true })).toBeVisible();
  await open(staff, '/c/NAV-110/messages');
  await expect(staff.getByRole('link', { name: 'Answers', exact: true })).toBeVisible();

  // One switch for e-mail, and it holds.
  const copies = student.getByRole('switch', { name: /Send me messages by e-mail too/ });
  await copies.uncheck();
  await expect(student.getByText('Messages are here only, and not sent by e-mail.')).toBeVisible();
  await student.reload();
  await alive(student);
  await expect(copies).not.toBeChecked();
  await copies.check();
  await expect(student.getByText('Messages come by e-mail too.')).toBeVisible();
  expect(complaints).toEqual([]);
  await staff.context().close();
  await student.context().close();
});
