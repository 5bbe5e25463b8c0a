import { redirect } from 'next/navigation';
import { coursesOf } from '@/server/access/viewer';
import { Nothing } from '@/ui/parts/Panel';
import { SignOut } from '@/ui/shell/SignOut';
import { page } from './page-guard';

/** The landing page: Rounds of the first course for who teaches, their own home for who learns. */
export default async function Landing() {
  const { role, courses } = await page(async (viewer) => ({
    role: viewer.role,
    courses: await coursesOf(viewer),
  }));
  if (role === 'student') redirect('/home');
  if (courses[0]) redirect(`/c/${courses[0].code}/rounds`);
  return (
    <main>
      <Nothing title="You do not teach a course yet">
        <p>Ask whoever runs this installation to add you to one.</p>
        <SignOut />
      </Nothing>
    </main>
  );
}
