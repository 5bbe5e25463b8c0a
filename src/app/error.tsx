'use client';
import { Failed } from '@/ui/parts/Failed';

export default function ErrorPage({ reset }: { reset: () => void }) {
  return (
    <main>
      <Failed onAgain={reset} />
    </main>
  );
}
