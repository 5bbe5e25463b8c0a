import { INSTRUCTOR, signIn, STUDENT } from './support';
import { expect, test } from './test';

/** Each view with the parameters of its address; those that all read alike stand with one of them. */
const PAGES: Readonly<Record<string, readonly string[]>> = {
  rounds: ['show'],
  week: ['w'],
  activity: ['g', 'k', 'tab', 'sort', 'show'],
  session: ['back', 'student'],
  gradebook: ['sort', 'show'],
  trends: ['student'],
  lists: ['due', 'work'],
  compose: ['student', 'students'],
  import: ['id'],
  setup: ['tab'],
  messages: ['q'],
  plans: ['g'],
  'students/5': ['w'],
  'work/5': ['g'],
};
/** Two by turns where there are many to ask. */
const ODD = ['2147483648', '%00'];
const ODD_PLACES = ['-1', '2147483648', '1e300', '%00', '%ED%A0%80', '__proto__', 'x'.repeat(2000)];

test.describe('addresses that nobody links to', () => {
  test('are answered with the page, or with words', async ({ page }) => {
    await signIn(page, INSTRUCTOR);
    const course = '/c/NAV-110';
    const failed: string[] = [];
    const ask = async (path: string) => {
      const response = await page.request.get(path, { maxRedirects: 0 });
      if (response.status() >= 500) failed.push(`${response.status()} ${path.slice(0, 80)}`);
      return response.status();
    };
    const asked = Object.entries(PAGES).flatMap(([view, keys]) => keys.map((key) => `${view}?${key}`));
    for (const [i, address] of asked.entries())
      expect(await ask(`${course}/${address}=${ODD[i % ODD.length]}`), address).toBe(200);
    for (const place of ['students', 'work', 'messages'])
      for (const odd of ODD_PLACES) await ask(`${course}/${place}/${odd}`);
    for (const odd of ODD_PLACES) await ask(`/c/${odd}/rounds`);
    expect(failed).toEqual([]);
    expect(await ask('/c/%ED%A0%80/rounds')).toBe(400);
    // Of one's own course, and not there: said by the status too, for whoever reads nothing else.
    for (const place of ['students', 'work', 'messages'])
      expect(await ask(`${course}/${place}/999999`), place).toBe(404);
    expect(await ask('/c/NOWHERE/rounds')).toBe(404);
  });

  test('of a course are shut to a student, and to who is not signed in', async ({ page }) => {
    const course = '/c/NAV-110';
    for (const view of Object.keys(PAGES)) {
      const response = await page.request.get(`${course}/${view}`, { maxRedirects: 0 });
      expect([response.status(), response.headers().location], view).toEqual([
        307,
        expect.stringMatching(/sign-in/),
      ]);
    }
    await signIn(page, STUDENT);
    for (const view of Object.keys(PAGES)) {
      const response = await page.request.get(`${course}/${view}`, { maxRedirects: 0 });
      expect(response.status(), view).toBe(404);
      expect(await response.text(), view).not.toContain('Okonedo-Lind</');
    }
  });
});
