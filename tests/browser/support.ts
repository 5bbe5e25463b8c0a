import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

export const PASSWORD = 'saltmarsh-lantern';
export const INSTRUCTOR = 'ines.calloway@saltmarsh.example';
export const STRANGER = 'teodor.marsh@saltmarsh.example';
export const STUDENT = 'tomasz.okonedo-lind@students.saltmarsh.example';
export const OTHER_STUDENT = 'priya.halloran@students.saltmarsh.example';

/** Opens a page and waits until it is awake: what is done after reaches it. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await awake(page);
}

/** Waits until the page that is loaded answers. A stream that stays open says nothing about that. */
export const awake = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => document.documentElement.dataset.awake === 'yes');

/** Signs in by the form, as people do, and waits for the page that they are led to. */
export async function signInByForm(page: Page, email: string): Promise<void> {
  await open(page, '/sign-in');
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
}

/** Signs in without the form and the page after it, which tests of other pages need not wait for; opens a path if told. */
export async function signIn(page: Page, email: string, path?: string): Promise<void> {
  const answer = await page.request.post('/api/auth/sign-in/email', { data: { email, password: PASSWORD } });
  expect(answer.status()).toBe(200);
  if (path) await open(page, path);
}

/** Waits until the page answers to keys: the theme switch appears once it is alive. */
export async function alive(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Use the (dark|light) theme$/ }).waitFor();
  await awake(page);
}

/** No violation of WCAG 2.2 A or AA that axe can see, on the page as it stands. */
export async function expectAccessible(page: Page): Promise<void> {
  // A page that one comes to from another gets its title a moment later.
  await expect(page).toHaveTitle(/./);
  // What fades in or out has its colours once it stands.
  await page.waitForFunction(() =>
    document
      .getAnimations()
      .every((a) => a.playState !== 'running' || a.effect?.getComputedTiming().endTime === Infinity),
  );
  // Evaluated, not added as a script: the content security policy lets no foreign script in.
  await page.evaluate(axeSource);
  const results = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run: (options: object) => Promise<AxeResults> } };
    return axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });
  });
  const found = results.violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.target.join(' '))
        .slice(0, 5)
        .join(' | ')} ${v.nodes[0]?.failureSummary ?? ''}`,
  );
  expect(found).toEqual([]);
}

/** Fails the test on anything that the page complains of in its console. */
export function watchConsole(page: Page): string[] {
  const complaints: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') complaints.push(`${message.text()} ${message.location().url}`);
  });
  page.on('pageerror', (error) => complaints.push(error.message));
  return complaints;
}

/** Chooses an option of a list by its label. */
export async function choose(page: Page, label: string | RegExp, option: string): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: typeof label === 'string' }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}
