import { alive, choose, expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

test('a text with fields, a paragraph for some, one of their own for one; kept as a template, sent later, called back', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  const where = { all: [{ measure: 'section', is: 'in', value: ['Online'] }] };
  await open(page, `/c/NAV-110/audiences?where=${encodeURIComponent(JSON.stringify(where))}`);
  const n = Number(/^\d+/.exec((await page.getByRole('heading', { level: 1 }).textContent())!)![0]);
  await page.getByRole('button', { name: `Select ${n}` }).click();
  await page
    .getByRole('region', { name: 'Selection' })
    .getByRole('button', { name: `Message ${n}`, exact: true })
    .click();
  await alive(page);
  // Some of them have flags of their own, which would ask for a text each.
  await page.getByLabel('One text for all').check();
  const editor = page.getByRole('textbox', { name: 'Message' });
  await editor.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Hello ');
  await choose(page, 'Insert a field', 'first name');
  // The text has the focus again once the list is gone.
  await expect(editor).toBeFocused();
  await page.keyboard.type(',');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Something is still open for you.');
  await page.getByRole('button', { name: 'Show only where …' }).click();
  const sheet = page.getByRole('dialog', { name: 'Who reads this paragraph' });
  await expect(sheet).toContainText('Students with missing assignments over 0.');
  await sheet.getByRole('button', { name: 'Show only there' }).click();
  await expect(editor.locator('[data-says]')).toHaveAttribute(
    'data-says',
    'Only for: Students with missing assignments over 0.',
  );
  await editor.press('Control+End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('See you in class.');
  await expectAccessible(page);

  // A field goes as a whole: one press, and nothing of it is left.
  await editor.press('Control+Home');
  await page.keyboard.press('End');
  await page.keyboard.press('Backspace');
  await expect(editor.locator('.field-chip')).toHaveCount(1);
  await page.keyboard.press('Backspace');
  await expect(editor.locator('.field-chip')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(editor.locator('.field-chip')).toHaveText('first name');

  // Who has something missing reads the paragraph, and who has nothing does not.
  const recipients = page.getByRole('list', { name: 'Recipients' });
  const reads = page.getByRole('region', { name: /will read$/ });
  const seen = new Set<boolean>();
  for (const name of (
    await recipients.getByRole('button').filter({ hasNotText: /^$/ }).allTextContents()
  ).slice(0, n)) {
    const who = recipients.getByRole('button').filter({ hasText: name }).first();
    await who.click();
    await expect(reads).toContainText('See you in class.');
    seen.add((await reads.textContent())!.includes('still open for you'));
    if (seen.size === 2) break;
  }
  expect(seen.size).toBe(2);
  await page.getByRole('button', { name: 'Change for this one' }).click();
  const own = reads.getByRole('textbox', { name: 'Message' });
  await own.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' I have a desk for you.');
  await expect(recipients.getByText('own text')).toBeVisible();

  await page.getByRole('button', { name: 'Save as a template' }).click();
  await page.getByLabel('Name of the template').fill('Online, still open');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The template “Online, still open” is saved.')).toBeVisible();

  await page.getByRole('button', { name: 'Send later …' }).click();
  await page.getByRole('textbox', { name: 'Day on which it goes' }).fill('27 Nov 2026');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^Goes to \d+ students on Fri 27 Nov 08:00$/,
  );
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Call it back' }).click();
  await alive(page);
  // What was written is there again, and so are those it was for.
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(new RegExp(`^Write to ${n} students`));
  await expect(editor.first()).toContainText('See you in class.');
  await expect(recipients.getByText('own text')).toBeVisible();
  await page.getByRole('combobox', { name: 'Begin with' }).click();
  await page.getByRole('option', { name: 'Online, still open' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('The template “Online, still open” is removed.')).toBeVisible();
  await open(page, '/c/NAV-110/messages');
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);
  expect(complaints).toEqual([]);
});
