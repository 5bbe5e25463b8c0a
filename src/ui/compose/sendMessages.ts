import type { AlongForm } from '@/core/forms/message';
import type { SendInput, Sent } from '@/core/views/compose';
import type { Instant } from '@/core/units';
import type { Outcome } from '@/actions/run';

/** Hands messages over. A lost connection throws: nobody knows then whether they were taken, and the same again is safe. */
export async function sendMessages(
  code: string,
  messages: readonly SendInput[],
  at: Instant | null,
  along: AlongForm,
): Promise<Outcome<Sent>> {
  const response = await fetch(`/api/courses/${encodeURIComponent(code)}/messages`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ messages, at, along }),
  });
  const answer: unknown = await response.json();
  if (response.ok) return answer as Outcome<Sent>;
  const said = typeof answer === 'object' && answer !== null && 'message' in answer ? answer.message : null;
  return { ok: false, message: typeof said === 'string' ? said : 'The server did not take it; try again.' };
}
