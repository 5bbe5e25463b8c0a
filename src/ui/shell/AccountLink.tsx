import { UserRound } from 'lucide-react';
import Link from 'next/link';
import { Hint } from '../parts/Hint';

/** The way to one's own account. */
export function AccountLink() {
  return (
    <Hint says="Your account">
      <Link
        href="/account"
        aria-label="Your account"
        className="text-muted hover:text-ink grid size-7 place-items-center rounded max-sm:size-11"
      >
        <UserRound className="size-4" aria-hidden />
      </Link>
    </Hint>
  );
}
