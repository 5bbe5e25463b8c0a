import type { Browser, Page } from '@playwright/test';
import { alive, choose, expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

/** The address of a student's account, as the demo makes it of their name. */
const addressOf = (name: string) =>
  `${name
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replaceAll(' ', '.')}@students.saltmarsh.example`;

async function phone(browser: Browser, email: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await signIn(page, email, '/home');
  await alive(page);
  return page;
}

test('those under 12 of 20 are written to with the offer of a talk; one takes a time, another is too late, and what was agreed is kept', async ({
  browser,
}) => {
  const staff = await (await browser.newContext()).newPage();
  const complaints = watchConsole(staff);
  await signIn(staff, INSTRUCTOR);
  await open(staff, '/c/NAV-110/gradebook?w=7d&g=all&k=all');
  await staff
    .getByRole('button', { name: /^Chart exercise 4/ })
    .first()
    .click();
  const sheet = staff.getByRole('dialog');
  await sheet.getByLabel(/^Under/).fill('12');
  await sheet.getByRole('link', { name: 'Build an audience from this' }).click();
  await alive(staff);
  await staff.getByRole('button', { name: 'Add a row' }).click();
  await choose(staff, 'Row 2: what', 'Written to');
  await staff
    .getByRole('group', { name: 'Row 2: which values' })
    .getByRole('button', { name: 'not written to' })
    .click();
  const people = staff.getByRole('list', { name: 'In the audience' });
  await expect(people.getByRole('link').nth(1)).toBeVisible();
  await staff.getByRole('button', { name: /^Select \d+/ }).click();
  await staff
    .getByRole('region', { name: 'Selection' })
    .getByRole('button', { name: /with plans$/ })
    .click();
  await expect(staff.getByRole('heading', { level: 1 })).toHaveText(/^Write to \d+ students/);
  // What a low score is about offers a talk, and looks again in a week.
  await expect(staff.getByLabel(/^Offer a talk/)).toBeChecked();
  await expect(staff.getByLabel('Day to look again', { exact: true })).toHaveValue('2 Dec 2026');
  await staff.getByLabel('Let them read in a line why they get it').check();
  await expectAccessible(staff);
  const names = await staff
    .getByRole('list', { name: 'Recipients' })
    .locator('.font-semibold')
    .allTextContents();
  await staff.getByRole('button', { name: /^Send to \d+$/ }).click();
  await expect(staff).toHaveURL(/\/messages\/\d+$/);
  const [one, two] = names;

  // Two look at the same times.
  const [first, second] = [await phone(browser, addressOf(one!)), await phone(browser, addressOf(two!))];
  for (const page of [first, second])
    await expect(page.getByRole('heading', { name: 'A time for a talk' })).toBeVisible();
  await first
    .getByRole('button', { name: /Chart exercise 4/ })
    .first()
    .click();
  await expect(first.getByText('You got this because of your score on “Chart exercise 4”.')).toBeVisible();
  await expectAccessible(first);
  const slot = (page: Page) => page.getByRole('button', { name: /^Thu 26 Nov 18:00/ });
  await slot(first).click();
  await expect(first.getByRole('heading', { name: 'Your talk: Thu 26 Nov 18:00' })).toBeVisible();
  await slot(second).click();
  await expect(second.getByText('Somebody has just taken this time. Choose another one.')).toBeVisible();
  await first.getByLabel('Answer Ines Calloway').fill('Thank you, I will come on Thursday.');
  await first.getByRole('button', { name: 'Send the answer' }).click();
  await expect(first.getByRole('list', { name: 'Your answers' })).toContainText('I will come');
  const [calendar] = await Promise.all([
    first.waitForEvent('download'),
    first.getByRole('link', { name: 'For your calendar' }).click(),
  ]);
  expect(calendar.suggestedFilename()).toMatch(/^NAV-110-talk-\d+\.ics$/);

  // The answer is due at once, in Rounds; the talk stands with it.
  await open(staff, '/c/NAV-110/rounds');
  const due = staff.getByRole('region', { name: 'Follow up today' });
  const line = due.getByRole('listitem').filter({ hasText: 'I will come on Thursday' });
  await expect(line).toContainText('answered');
  await expectAccessible(staff);
  await line.getByRole('link', { name: one! }).click();
  await expect(staff.getByRole('heading', { level: 1 })).toHaveText(one!);
  await expect(staff.getByText('Talk Thu 26 Nov 18:00', { exact: true })).toBeVisible();
  await alive(staff);
  await staff.keyboard.press('n');
  const talk = staff.getByRole('dialog', { name: /^Talk with/ });
  await talk.getByLabel('What was said').fill('Came by early.');
  await talk.getByRole('button', { name: 'Save the talk' }).click();
  await expect(talk.getByText('Say what you agreed on.')).toBeVisible();
  await talk.getByLabel('Goal').fill('Hand exercise 5 in');
  await talk.getByLabel('First step').fill('Redo the first fix of exercise 4');
  await talk.getByLabel(/In the student’s words/).fill('I will do it on Sunday');
  await talk.getByRole('button', { name: 'Save the talk' }).click();
  await expect(staff.getByText('Agreed: Hand exercise 5 in', { exact: true })).toBeVisible();
  await expect(staff.getByRole('region', { name: 'Contacts' })).toContainText('I will come on Thursday');

  await first.reload();
  await alive(first);
  await expect(first.getByRole('heading', { name: 'What you agreed on' })).toBeVisible();
  await expect(first.getByText('“I will do it on Sunday”')).toBeVisible();
  await expect(first.getByText('Came by early.')).toHaveCount(0);
  // Two taps of how it goes; what was moved or cancelled is free for others.
  const course = first.getByRole('region', { name: 'Coastal Navigation' });
  await course.getByRole('button', { name: 'So so' }).click();
  await course.getByRole('button', { name: 'Time', exact: true }).click();
  await course.getByRole('button', { name: 'Let them know' }).click();
  await expect(course.getByText(/You said .* it goes so so; in the way: time/)).toBeVisible();
  await first.getByRole('button', { name: 'Cancel it' }).click();
  await expect(first.getByRole('heading', { name: 'A time for a talk' })).toBeVisible();
  await second.reload();
  await alive(second);
  await slot(second).click();
  await expect(second.getByRole('heading', { name: 'Your talk: Thu 26 Nov 18:00' })).toBeVisible();
  await second.getByRole('button', { name: 'Move it' }).click();
  await second.getByRole('button', { name: /^Thu 26 Nov 18:20/ }).click();
  await expect(second.getByRole('heading', { name: 'Your talk: Thu 26 Nov 18:20' })).toBeVisible();
  await staff.reload();
  await expect(staff.getByText('Says it goes so so')).toBeVisible();

  await open(staff, '/c/NAV-110/talks');
  await expect(staff.getByRole('listitem').filter({ hasText: two! })).toContainText('Thu 26 Nov 18:20');
  await expectAccessible(staff);
  expect(complaints).toEqual([]);
  for (const page of [staff, first, second]) await page.context().close();
});
