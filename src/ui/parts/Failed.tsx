'use client';
import { Button } from './Button';
import { Nothing } from './Panel';

/** What stands in place of a page that could not be made, with the way to try again. */
export function Failed({ onAgain }: { readonly onAgain: () => void }) {
  return (
    <Nothing title="This page could not be made">
      <p>Nothing you did is lost. If it happens again, tell whoever runs this installation when it was.</p>
      <Button look="main" onClick={onAgain}>
        Try again
      </Button>
    </Nothing>
  );
}
