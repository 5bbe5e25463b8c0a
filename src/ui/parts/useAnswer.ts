'use client';
import { useEffect, useState } from 'react';
import type { Outcome } from '@/actions/run';

/** What a question to the server has come to. */
export type Answer<T> =
  | { readonly state: 'asking' }
  | { readonly state: 'there'; readonly value: T }
  | { readonly state: 'failed'; readonly message: string };

/**
 * Asks the server once a part is opened, and again when what it asks for changes; an answer to what is no longer asked is let go.
 *
 * @param input what is asked, compared by its contents
 */
export function useAnswer<I, T>(action: (input: I) => Promise<Outcome<T>>, input: I): Answer<T> {
  const asked = JSON.stringify(input);
  const [answer, setAnswer] = useState<{ readonly to: string; readonly of: Answer<T> } | null>(null);
  useEffect(() => {
    let stale = false;
    const come = (of: Answer<T>) => {
      if (!stale) setAnswer({ to: asked, of });
    };
    action(JSON.parse(asked) as I).then(
      (found) =>
        come(found.ok ? { state: 'there', value: found.value } : { state: 'failed', message: found.message }),
      () =>
        come({ state: 'failed', message: 'No answer came from the server. Close this and open it again.' }),
    );
    return () => {
      stale = true;
    };
  }, [action, asked]);
  return answer?.to === asked ? answer.of : { state: 'asking' };
}
