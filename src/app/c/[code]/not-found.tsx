import Link from 'next/link';
import { buttonClasses } from '@/ui/parts/Button';
import { Nothing } from '@/ui/parts/Panel';

/** What is not in a course of one's own: the rail stays, so that the next step is a key away. */
export default function NotInCourse() {
  return (
    <Nothing title="This is not in the course">
      <p>There is no such student, assignment or message here; it may have been removed.</p>
      <Link href="/" className={buttonClasses('main')}>
        Go to your start page
      </Link>
    </Nothing>
  );
}
