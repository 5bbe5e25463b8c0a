'use client';
import { acceptCourseAction } from '@/actions/student';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** A course that an instructor added somebody to, until they accept it. */
export function AcceptCard({ course, title }: { readonly course: string; readonly title: string }) {
  const { busy, act } = useAct();
  return (
    <Panel className="flex flex-wrap items-center justify-between gap-2 p-4">
      <p>
        You were added to {title}. Its instructors can’t see your e-mail address, and can’t e-mail you, until
        you accept.
      </p>
      <Button
        look="main"
        disabled={busy}
        onClick={() =>
          act(() => acceptCourseAction({ course }), {
            done: `You’re in ${title}. Messages also come by e-mail.`,
          })
        }
      >
        Accept
      </Button>
    </Panel>
  );
}
