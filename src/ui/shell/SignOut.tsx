'use client';
import { LogOut } from 'lucide-react';
import { Hint } from '../parts/Hint';
import { say } from '../parts/say';

export function SignOut() {
  const signOut = async () => {
    const response = await fetch('/api/auth/sign-out', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    }).catch(() => null);
    // A full load: nothing that was fetched as somebody else may stay in the page.
    // eslint-disable-next-line @next/next/no-location-assign-relative-destination
    if (response?.ok) window.location.assign('/sign-in');
    else say.error('You are still signed in: the server could not be reached.');
  };
  return (
    <Hint says="Sign out">
      <button
        type="button"
        onClick={signOut}
        aria-label="Sign out"
        className="text-muted hover:text-ink grid size-7 place-items-center rounded max-sm:size-11"
      >
        <LogOut className="size-4" aria-hidden />
      </button>
    </Hint>
  );
}
