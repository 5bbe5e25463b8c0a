import { alive, choose, expectAccessible, INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

test('a condition is built row by row: the sentence, the count and the list move, and what is saved filters a view', async ({
  page,
}) => {
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  // From the head of a column: its score limit, with the number behind it.
  await open(page, '/c/NAV-110/gradebook?w=7d&g=all&k=all');
  await page
    .getByRole('button', { name: /^Chart exercise 3/ })
    .first()
    .click();
  const sheet = page.getByRole('dialog');
  await sheet.getByLabel(/^Under/).fill('14');
  const said = await sheet.getByText(/of 20: \d+ student/).textContent();
  const below = Number(/of 20: (\d+)/.exec(said!)![1]);
  expect(below).toBeGreaterThan(0);
  await sheet.getByRole('link', { name: 'Build an audience from this' }).click();
  await alive(page);
  const head = page.getByRole('heading', { level: 1 });
  const people = page.getByRole('list', { name: 'In the audience' });
  await expect(head).toHaveText(new RegExp(`^${below} of 72 students (is|are) in this audience$`));
  await expect(people.getByRole('listitem')).toHaveCount(below);
  await expect(page.getByText('Students with a score under 14 of 20 on Chart exercise 3.')).toBeVisible();

  await page.getByRole('button', { name: 'Add a row' }).click();
  await choose(page, 'Row 2: what', 'Section');
  await page
    .getByRole('group', { name: 'Row 2: which values' })
    .getByRole('button', { name: 'Online' })
    .click();
  await page
    .getByRole('group', { name: 'Row 2: which values' })
    .getByRole('button', { name: 'Saturday' })
    .click();
  // The first section was chosen to begin with; pressed again it is left out.
  await page
    .getByRole('group', { name: 'Row 2: which values' })
    .getByRole('button', { name: 'Monday evening' })
    .click();
  await expect(
    page.getByText(/on Chart exercise 3 and in the section (Online or Saturday|Saturday or Online)\./),
  ).toBeVisible();
  const shown = async () => Number(/^\d+/.exec((await head.textContent())!)![0]);
  await expect(people.getByText('Monday evening')).toHaveCount(0);
  const now = await shown();
  expect(now).toBeLessThan(below);
  await expect(people.getByRole('listitem')).toHaveCount(now);
  await expectAccessible(page);

  // What a row shows is what counts, when the rows before it go and when it asks for something else.
  await page.getByRole('button', { name: 'Add a row' }).click();
  await choose(page, 'Row 3: what', 'Minutes');
  await expect(page.getByLabel('Row 3: number')).toHaveValue('30');
  await page.getByLabel('Row 3: number').fill('45');
  await page.getByRole('button', { name: 'Remove row 1' }).click();
  await expect(page.getByLabel('Row 2: number')).toHaveValue('45');
  await expect(page.getByText(/with minutes under 45 in the last 7 days/)).toBeVisible();
  await choose(page, 'Row 2: what', 'Score in points');
  await choose(page, 'Row 2: assignment', 'Chart exercise 3');
  await page.getByLabel('Row 2: number').fill('14');
  await expect(head).toHaveText(new RegExp(`^${now} of 72`));

  // One is removed by hand, and another put in.
  const first = await people.getByRole('link').first().textContent();
  await page.getByRole('button', { name: `Remove ${first}` }).click();
  await expect(head).toHaveText(new RegExp(`^${now - 1} of 72`));
  await expect(page.getByRole('list', { name: 'Removed by hand' })).toContainText(first!);
  await page.getByLabel('Name', { exact: true }).fill('Charts, not Mondays');
  await page.getByRole('button', { name: 'Save as an audience' }).click();
  await expect(page.getByRole('row', { name: /Charts, not Mondays/ })).toContainText(String(now - 1));
  await open(page, '/c/NAV-110/trends?w=7d&k=all');
  await choose(page, 'Section or group', 'Charts, not Mondays');
  await expect(page).toHaveURL(/g=a\d+/);

  await open(page, '/c/NAV-110/audiences');
  await page.getByRole('link', { name: 'Charts, not Mondays' }).click();
  await expect(head).toHaveText(new RegExp(`^${now - 1} of 72`));
  await page.getByRole('button', { name: `Select ${now - 1}` }).click();
  await expect(page.getByRole('region', { name: 'Selection' })).toContainText(`${now - 1} student`);
  await page.getByRole('button', { name: 'Remove Charts, not Mondays' }).click();
  await expect(page.getByRole('row', { name: /Charts, not Mondays/ })).toHaveCount(0);
  await page.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'Clear' }).click();
  expect(complaints).toEqual([]);
});
