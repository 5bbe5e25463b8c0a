'use client';
import { closeFollowUpAction, moveFollowUpAction } from '@/actions/followUps';
import { addDays } from '@/core/calendar/zone';
import { weekdayDay } from '@/core/format';
import type { LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { Menu } from '../parts/Menu';
import { useAct } from '../parts/useAct';

/** The follow-up of a conversation: an answer makes it due; one press closes it, or sets another day. */
export function FollowUpBar({
  code,
  today,
  followUp: { actId, on },
}: {
  readonly code: string;
  readonly today: LocalDate;
  readonly followUp: { readonly actId: number; readonly on: LocalDate };
}) {
  const { busy, act } = useAct();
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2 text-[13px]">
      <span>{on <= today ? 'The follow-up is due.' : `You look again ${weekdayDay(on)}.`}</span>
      <Button
        small
        disabled={busy}
        onClick={() =>
          act(() => closeFollowUpAction({ code, id: actId, closed: true }), {
            done: 'The follow-up is closed.',
            undo: () =>
              act(() => closeFollowUpAction({ code, id: actId, closed: false }), {
                done: 'The follow-up is open again.',
              }),
          })
        }
      >
        Close the follow-up
      </Button>
      <Menu
        label="Look again"
        items={[1, 3, 7, 14].map((days) => {
          const day = addDays(today, days);
          return {
            label: weekdayDay(day),
            onSelect: () =>
              act(() => moveFollowUpAction({ code, id: actId, on: day }), {
                done: `It comes up again ${weekdayDay(day)}.`,
              }),
          };
        })}
      />
    </div>
  );
}
