'use client';
import { LogOut } from 'lucide-react';
import { toast } from 'sonner';

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
    else toast.error('You are still signed in: the server could not be reached.');
  };
  return (
    <button
      type="button"
      onClick={signOut}
      aria-label="Sign out"
      title="Sign out"
      className="text-muted hover:text-ink grid size-7 place-items-center rounded"
    >
      <LogOut className="size-4" aria-hidden />
    </button>
  );
}
