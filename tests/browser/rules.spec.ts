import { press, reach } from './keys';
import { expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

test('a rule is set up by keyboard: its number, its dry run, its switch', async ({ page }) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/rules');
  const improved = page.getByRole('region', { name: 'Improved' });
  const points = improved.getByLabel('Points against the class');
  await reach(page, points);
  await expect(points).toHaveValue('8');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('12');
  await press(page, improved.getByRole('button', { name: 'Dry run' }));
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByRole('status')).toContainText(/\d+ messages? to \d+ students? in .+\./);
  const lines = sheet.getByRole('list', { name: 'One by one' });
  await expect(lines.getByRole('listitem').first()).toContainText(/gain against the class 1[2-9]|[2-9]\d/);
  await expectAccessible(page);
  await reach(page, lines.locator('summary').first());
  await page.keyboard.press('Enter');
  await expect(lines.getByText('Your results in Coastal Navigation have gone up').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);

  const turn = improved.getByRole('switch', { name: 'Improved: on' });
  await expect(turn).not.toBeChecked();
  await reach(page, turn);
  await page.keyboard.press('Space');
  await expect(turn).toBeChecked();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('4 rules are on');
  await expect(improved).toContainText('On since');
  await expect(points).toHaveValue('12');
  await expectAccessible(page);
  // A notice stands there: Tab walks through it, and past it.
  const notice = page.getByRole('button', { name: 'Close toast' }).first();
  await reach(page, notice);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await expect(page.locator('[data-sonner-toaster] :focus')).toHaveCount(0);
  // Ended, it is there to begin with again.
  await press(page, improved.getByRole('button', { name: 'End it' }));
  await expect(page.getByRole('heading', { level: 1 })).toContainText('3 rules are on');
  await expect(turn).not.toBeChecked();
  expect(complaints).toEqual([]);
});

test('what waits for a yes is read and declined, a word is opened as a draft, and a rule of one’s own is refused to everybody', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/rounds');
  const words = page.getByRole('region', { name: 'Words by your rules' });
  await expect(words).toContainText('1 word by your rules');
  await words.getByRole('link', { name: /messages wait for your yes$/ }).click();
  const waiting = page.getByRole('region', { name: 'Waiting for your yes' });
  await expect(waiting.getByRole('listitem')).toHaveCount(2);
  const first = waiting.getByRole('listitem').first();
  await first.locator('summary').click();
  await expect(first).toContainText(/You scored 10 of 10 in Lights and shapes quiz/);
  await first.getByRole('button', { name: /^Do not send to/ }).click();
  await expect(waiting.getByRole('listitem')).toHaveCount(1);
  await expect(page.getByRole('region', { name: 'What the rules did' })).toContainText('declined');

  await page.getByRole('button', { name: 'Write a rule of your own …' }).click();
  const sheet = page.getByRole('dialog', { name: 'A rule of your own' });
  await sheet.getByLabel('Name', { exact: true }).fill('Every Monday');
  await sheet.getByRole('combobox', { name: 'When' }).click();
  await page.getByRole('option', { name: 'Each week' }).click();
  await expect(sheet).toContainText('Every Monday at 09:00, write to every student.');
  await sheet.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('This rule would write to every student.')).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: /^Open the draft to/ }).click();
  await expect(page).toHaveURL(/\/compose/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Write to /);
  await open(page, '/c/NAV-110/rules');
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toHaveCount(0);
  await page.getByRole('button', { name: /^Done with/ }).click();
  await expect(words).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(words).toHaveCount(1);
  await expectAccessible(page);
  expect(complaints).toEqual([]);
});
