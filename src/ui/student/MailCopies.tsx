'use client';
import { useOptimistic } from 'react';
import { mailCopiesAction } from '@/actions/student';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** One switch: whether messages come as e-mail too. */
export function MailCopies({ on }: { readonly on: boolean }) {
  const { act } = useAct();
  const [now, show] = useOptimistic(on);
  return (
    <Panel className="p-5">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          role="switch"
          className="accent-teal size-4"
          checked={now}
          onChange={(e) => {
            const next = e.target.checked;
            act(
              async () => {
                show(next);
                return mailCopiesAction({ on: next });
              },
              {
                done: next
                  ? 'Messages come by e-mail too.'
                  : 'Messages are here only, and not sent by e-mail.',
              },
            );
          }}
        />
        <span>
          <span className="font-semibold">Send me messages by e-mail too</span>
          <span className="text-muted block text-[13px]">Here you can read them in any case.</span>
        </span>
      </label>
    </Panel>
  );
}
