import type { Page } from '@playwright/test';
import { press, reach } from './keys';
import { INSTRUCTOR, open, signIn, watchConsole } from './support';
import { expect, test } from './test';

const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });

/** Writes into a field in place of what stands there. */
async function write(page: Page, label: string | RegExp, text: string): Promise<void> {
  await reach(page, page.getByLabel(label, { exact: true }));
  await page.keyboard.press('Control+a');
  await page.keyboard.type(text);
}

/** Opens a list and goes to one of its options with the arrow keys. */
async function pick(page: Page, label: string, option: string): Promise<void> {
  await press(page, page.getByRole('combobox', { name: label, exact: true }));
  const wanted = page.getByRole('option', { name: option, exact: true });
  await wanted.waitFor();
  await page.keyboard.press('Home');
  await expect(async () => {
    if (!(await wanted.evaluate((e) => e === document.activeElement))) {
      await page.keyboard.press('ArrowDown');
      throw new Error('not yet');
    }
  }).toPass({ intervals: [20] });
  await page.keyboard.press('Enter');
  await expect(wanted).toHaveCount(0);
}

const saved = (page: Page) => expect(page.getByRole('dialog')).toHaveCount(0);

test('a whole course is set up by keyboard', async ({ page }, info) => {
  // A second try makes another course.
  const code = `KEY-10${info.retry}`;
  const complaints = watchConsole(page);
  await signIn(page, INSTRUCTOR);
  await open(page, '/c/NAV-110/setup?part=course');
  await press(page, button(page, 'Make another course'));
  // What is wrong is said below its field, and the first wrong field has the focus.
  await press(page, button(page, 'Make it'));
  await expect(page.getByText('The code is empty.')).toBeVisible();
  await expect(page.getByLabel('Code', { exact: true })).toBeFocused();
  await write(page, 'Code', code);
  await reach(page, page.getByRole('dialog').getByLabel('Title'));
  await page.keyboard.type('Knots');
  await page.keyboard.press('Enter');
  await page.waitForURL(`**/c/${code}/setup**`);

  const part = (name: string) =>
    press(page, page.getByRole('navigation', { name: 'Parts of the setup' }).getByRole('link', { name }));
  await part('Course and term');
  await page.waitForURL(/part=course/);
  await write(page, 'Term', 'Winter 2026');
  await write(page, 'First day of week 1', '5 Oct 2026');
  await write(page, 'Weeks', '12');
  await pick(page, 'A missing assignment counts', 'not at all until it is graded');
  await press(page, button(page, 'Remove'));
  await press(page, button(page, 'Add a break'));
  await write(page, 'Name', 'Half term');
  await write(page, 'First day', '2 Nov 2026');
  await write(page, 'Last day', '6 Nov 2026');
  await press(page, button(page, 'Save'));
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await press(page, button(page, 'Add a unit'));
  await reach(page, page.getByRole('dialog').getByLabel('Name'));
  await page.keyboard.type('Rigging loft');
  await page.keyboard.press('Enter');
  await saved(page);
  await pick(page, 'Unit of the institution', 'Rigging loft');
  await page.keyboard.press('Escape');
  const answered = page.waitForResponse((r) => r.request().method() === 'POST');
  await press(page, button(page, 'Save'));
  await answered;

  await part('Sections');
  await page.waitForURL(/part=sections/);
  await press(page, button(page, 'Add a section'));
  await write(page, 'Name', 'Friday');
  await press(page, button(page, 'Add a meeting'));
  await pick(page, 'Weekday', 'Friday');
  await write(page, 'From', '14:15');
  await write(page, 'Minutes', '90');
  await press(page, button(page, 'Add an exception'));
  await write(page, 'On', '23 Oct 2026');
  await press(page, button(page, 'Save'));
  await saved(page);
  await expect(page.getByRole('cell', { name: 'Friday 14:15, 90 min' })).toBeVisible();

  await part('Outcomes');
  await page.waitForURL(/part=outcomes/);
  await press(page, button(page, 'Add an outcome'));
  await write(page, 'Title', 'Ties a bowline');
  await page.keyboard.press('Enter');
  await saved(page);

  await part('Assignments and weights');
  await page.waitForURL(/part=work/);
  await press(page, button(page, 'Add a category'));
  await write(page, 'Name', 'Drills');
  await write(page, 'Weight, %', '100');
  await page.keyboard.press('Enter');
  await saved(page);
  await press(page, button(page, 'Add an assignment'));
  await write(page, 'Title', 'Bowline drill');
  await pick(page, 'Category', 'Drills');
  await write(page, 'Points', '10.5');
  await write(page, 'Estimated minutes', '20.5');
  await write(page, 'Due', '20 Nov 2026');
  // Another day from the calendar, with the arrow keys.
  await press(page, button(page, /^Calendar/).nth(1));
  await expect(page.getByRole('gridcell', { selected: true })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Due', { exact: true })).toHaveValue('27 Nov 2026');
  await reach(page, page.getByRole('checkbox', { name: 'Ties a bowline' }));
  await page.keyboard.press('Space');
  await press(page, button(page, 'Save'));
  await expect(page.getByText('Minutes: write a whole number.')).toBeVisible();
  await expect(page.getByLabel('Estimated minutes')).toBeFocused();
  await write(page, 'Estimated minutes', '20');
  await press(page, button(page, 'Save'));
  await saved(page);
  await expect(page.getByRole('cell', { name: '27 Nov, 23:59' })).toBeVisible();

  await part('Students');
  await page.waitForURL(/part=students/);
  await press(page, button(page, 'Add a student'));
  await write(page, 'Given name', 'Kaya');
  await write(page, 'Family name', 'Reef');
  await write(page, 'Id', 'K1');
  await pick(page, 'Section', 'Friday');
  await press(page, button(page, 'Save'));
  await saved(page);
  await expect(page.getByRole('cell', { name: 'Kaya Reef', exact: true })).toBeVisible();

  await part('Groups');
  await page.waitForURL(/part=groups/);
  await press(page, button(page, 'Add a group'));
  await write(page, 'Name', 'Knot crew');
  await write(page, 'Find students for the group', 'kaya');
  await reach(page, page.getByRole('checkbox', { name: `Kaya Reef, ${code}` }));
  await page.keyboard.press('Space');
  await press(page, button(page, 'Save'));
  await saved(page);
  await expect(page.getByRole('cell', { name: 'Knot crew', exact: true })).toBeVisible();

  await part('Sources and exports');
  await page.waitForURL(/part=sources/);
  await press(page, button(page, 'Make a key'));
  await write(page, 'What it is for', 'course platform');
  await page.keyboard.press('Enter');
  await press(page, button(page, 'I have it'));
  await expect(page.getByRole('cell', { name: 'course platform', exact: true })).toBeVisible();
  expect(complaints).toEqual([]);
});
