'use client';
import { Button } from '@/ui/parts/Button';
import { Nothing } from '@/ui/parts/Panel';

export default function ErrorPage({ reset }: { reset: () => void }) {
  return (
    <main>
      <Nothing title="This page could not be made">
        <p>Nothing you did is lost. If it happens again, tell whoever runs this installation when it was.</p>
        <Button look="main" onClick={reset}>
          Try again
        </Button>
      </Nothing>
    </main>
  );
}
