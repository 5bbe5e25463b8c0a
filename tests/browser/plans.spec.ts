import type { Page } from '@playwright/test';
import { alive, choose, expectAccessible, INSTRUCTOR, OTHER_STUDENT, signIn } from './support';
import { expect, test } from './test';
import { press } from './keys';

const lane = (page: Page, name: RegExp) => page.getByRole('region', { name });
const stepsIn = (page: Page, name: RegExp) =>
  lane(page, name).getByRole('list').getByRole('button').allTextContents();

async function openDesign(page: Page, title: string): Promise<void> {
  await page.goto('/c/NAV-110/plans');
  await alive(page);
  await page.getByRole('list', { name: 'Plan designs' }).getByRole('link', { name: title }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
  await expect(page.getByRole('button', { name: 'Try a score' })).toBeEnabled();
}

test('a plan design: a step moves between bands by keyboard and by drag, is seen as a student, and saved', async ({
  page,
}) => {
  await signIn(page, INSTRUCTOR);
  await openDesign(page, 'After the lights and shapes quiz');
  await expectAccessible(page);
  const [low, high] = [/^under 60 %/, /^60 % and over/];
  const film = lane(page, low).getByRole('button', { name: /^Lights and shapes, worked on the chart/ });
  await expect(film).toBeVisible();

  // By keyboard: up into the band above, and back.
  await film.focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(() => stepsIn(page, low)).toHaveLength(1);
  const moved = lane(page, high).getByRole('button', { name: /^Lights and shapes, worked on the chart/ });
  await expect(moved).toBeFocused();
  await expect(page.getByRole('status').filter({ hasText: /is now \d of \d in 60 % and over/ })).toHaveCount(
    1,
  );
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(() => stepsIn(page, low)).toHaveLength(2);

  // By drag: the grip of the step onto the other lane.
  const grip = lane(page, low)
    .getByRole('listitem')
    .filter({ hasText: 'worked on the chart' })
    .locator('[aria-hidden] svg')
    .first();
  const from = (await grip.boundingBox())!;
  const to = (await lane(page, high).boundingBox())!;
  await page.mouse.move(from.x + 4, from.y + 4);
  await page.mouse.down();
  await page.mouse.move(from.x + 30, from.y - 20, { steps: 4 });
  await page.mouse.move(to.x + to.width - 60, to.y + to.height - 14, { steps: 8 });
  await page.mouse.up();
  await expect.poll(() => stepsIn(page, low)).toHaveLength(1);
  await expect.poll(() => stepsIn(page, high)).toHaveLength(4);

  // A mark by its keys: the names of the bands follow.
  const mark = page.getByRole('slider', { name: 'Mark between bands 1 and 2' });
  await mark.focus();
  await page.keyboard.press('ArrowUp');
  await expect(lane(page, /^under 61 %/)).toBeVisible();
  await page.keyboard.press('ArrowDown');

  // As a student, by trying scores: one on the mark goes up.
  await page.getByRole('button', { name: 'Try a score' }).click();
  const sheet = page.getByRole('dialog', { name: 'Seen as a student' });
  await sheet.getByLabel('Score in per cent').fill('60');
  await page.keyboard.press('Enter');
  const seen = sheet.getByRole('region', { name: 'The plan as the student sees it' });
  await expect(seen.getByText('Lights and shapes, worked on the chart')).toBeVisible();
  await expect(seen.getByText('one of the two sets is enough')).toBeVisible();
  await expectAccessible(page);
  await sheet.getByLabel('Score in per cent').fill('59.9');
  await page.keyboard.press('Enter');
  await expect(seen.getByText('Lights in the dark, for the group')).toBeVisible();
  await expect(seen.getByText(/Chart room/)).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The plan is saved.')).toBeVisible();
  await page.reload();
  await alive(page);
  await expect.poll(() => stepsIn(page, high)).toHaveLength(4);
});

test('results that are ready are handed out, and a changed score moves one student', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await openDesign(page, 'After the lights and shapes quiz');
  await expect(page.getByText(/results are ready: \d+ and \d+, from the lowest band up/)).toBeVisible();
  await press(page, page.getByRole('button', { name: 'Hand them out' }));
  await expect(page.getByText(/get their plans/)).toBeVisible();
  await expect(async () => {
    await page.reload();
    await expect(
      page.getByText(/^[^0]\d* students have a plan of it|; [1-9]\d* students have a plan of it/),
    ).toBeVisible({
      timeout: 2000,
    });
  }).toPass();
  await page.goto('/c/NAV-110/plans');
  await alive(page);
  await page.getByRole('button', { name: /^Show \d+ more of/ }).click();
  // In the demo one score was changed: their plan says so.
  await expect(page.getByText(/since your score is now 75 %/)).toHaveCount(1);
  await expect(page.getByText(/Not in time for its due date/).first()).toBeVisible();
  await expectAccessible(page);
  const row = page.getByRole('row').filter({ hasText: 'After the lights and shapes quiz' }).first();
  await row.getByRole('button', { name: /^Steps of/ }).click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByRole('heading', { level: 2 })).toContainText(
    'After the lights and shapes quiz for',
  );
  await expectAccessible(page);
  await sheet.getByRole('button', { name: 'Keep this day' }).first().click();
  await expect(page.getByText(/stays on/).first()).toBeVisible();
  await sheet.getByRole('button', { name: 'Let it move' }).click();
  await expect(page.getByText(/may move again/).first()).toBeVisible();
});

test('six students get the same two assignments with a date: preview, and one undo', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/rounds?show=all');
  await alive(page);
  const boxes = page.getByRole('checkbox', { name: /^Select [^a]/ });
  await expect(boxes.nth(5)).toBeVisible();
  for (let i = 0; i < 6; i++) await boxes.nth(i).check();
  const tray = page.getByRole('region', { name: 'Selection' });
  await expect(tray.getByText('6 students selected')).toBeVisible();
  await tray.getByRole('button', { name: 'Assign', exact: true }).click();
  const sheet = page.getByRole('dialog', { name: 'Assign' });
  await expect(sheet.getByText('the 6 selected students')).toBeVisible();
  await choose(page, 'What', 'Restricted visibility quiz');
  await choose(page, 'What', 'Chart exercise 8');
  await sheet.getByRole('textbox', { name: 'Due', exact: true }).fill('14 Dec');
  await page.keyboard.press('Tab');
  await sheet.getByRole('button', { name: 'Preview' }).click();
  await expect(sheet.getByText('6 of 6 students get it.')).toBeVisible();
  await expectAccessible(page);
  await sheet.getByRole('button', { name: 'Assign to 6 students' }).click();
  await expect(
    page.getByText('Restricted visibility quiz and Chart exercise 8 assigned to 6 students.'),
  ).toBeVisible();

  // A second time: they have it already, and nobody would get anything.
  await tray.getByRole('button', { name: 'Assign', exact: true }).click();
  await choose(page, 'What', 'Restricted visibility quiz');
  await sheet.getByRole('button', { name: 'Preview' }).click();
  await expect(sheet.getByText(/^6 have some of it already/)).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Assign to 0 students' })).toBeDisabled();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('Undone.')).toBeVisible();
  await tray.getByRole('button', { name: 'Clear' }).click();
  await expect(tray).toHaveCount(0);
});

test('one more attempt is granted to many at once', async ({ page }) => {
  await signIn(page, INSTRUCTOR);
  await page.goto('/c/NAV-110/plans');
  await alive(page);
  await page.getByRole('button', { name: 'Assign to some' }).click();
  const sheet = page.getByRole('dialog', { name: 'Assign' });
  await choose(page, 'To whom', 'section Monday evening');
  await choose(page, 'What', 'Tidal streams quiz');
  await sheet.getByRole('button', { name: 'Preview' }).click();
  await expect(sheet.getByText(/have done some of it/)).toBeVisible();
  await sheet.getByLabel(/^Again for whoever/).check();
  await sheet.getByRole('button', { name: 'Preview' }).click();
  const assign = sheet.getByRole('button', { name: /^Assign to \d+ students$/ });
  await expect(assign).toBeEnabled();
  await assign.click();
  await expect(page.getByText(/^Tidal streams quiz assigned to/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('Undone.')).toBeVisible();
});

test('a student reads their plan in its parts, what is due for review and what to go over, on a phone too', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, OTHER_STUDENT, '/home');
  await expect(page.getByRole('heading', { name: /^After the tidal streams quiz/ })).toBeVisible();
  await expect(page.getByText('What comes next for you').first()).toBeVisible();
  // Nobody is told the name of a band.
  await expect(page.getByText(/under 65 %|65 to under 85 %|85 % and over/)).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Review due' }).first()).toBeVisible();
  await expect(page.getByRole('heading', { name: /that you can try again/ }).first()).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'I cannot today' }).click();
  await expect(page.getByText(/since you cannot today|Nothing had to move/).first()).toBeVisible();
});
