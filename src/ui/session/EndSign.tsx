'use client';
import { useEffect, useState } from 'react';
import { SIGN_MINUTES } from '@/core/activity/sessionCheck';
import { saveSignMinutesAction } from '@/actions/views';
import { MINUTE_MS, type Instant, type Minutes } from '@/core/units';
import { counted } from '@/core/format';
import { Lantern } from '../parts/Lantern';
import { useAct } from '../parts/useAct';

const LOOK_EVERY_MS = 10_000;

/** Minutes left until an instant by the server's clock, moving on. */
function useMinutesLeft(until: Instant, serverNow: Instant): Minutes {
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    // The server's clock goes on from here: that of the browser may be set otherwise.
    const ahead = serverNow - performance.now();
    const timer = setInterval(() => setNow(performance.now() + ahead), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [serverNow]);
  return (until - now) / MINUTE_MS;
}

/** Says some minutes before a meeting ends that it is time to look round; how many, the instructor sets here. */
export function EndSign({
  code,
  until,
  now,
  minutes,
}: {
  readonly code: string;
  readonly until: Instant;
  readonly now: Instant;
  readonly minutes: Minutes;
}) {
  const { busy, act } = useAct();
  const left = useMinutesLeft(until, now);
  const due = minutes > 0 && left > 0 && left <= minutes;
  useEffect(() => {
    if (!due) return;
    const title = document.title;
    document.title = `${counted(Math.ceil(left), 'minute')} left`;
    return () => {
      document.title = title;
    };
  }, [due, left]);
  return (
    <div className="no-print mb-3 flex flex-wrap items-center gap-3">
      <p
        role="status"
        className={
          due ? 'border-amber bg-amber-wash flex items-center gap-2 rounded-md border px-3 py-1.5' : 'sr-only'
        }
      >
        {due ? (
          <>
            <Lantern className="size-4" />
            {counted(Math.ceil(left), 'minute')} left: who still needs a word?
          </>
        ) : null}
      </p>
      <label className="text-muted ml-auto flex items-center gap-1.5 text-[13px]">
        Sign before the end, minutes
        <input
          key={minutes}
          type="number"
          min={0}
          max={SIGN_MINUTES.most}
          defaultValue={minutes}
          disabled={busy}
          className="border-edge/70 bg-panel w-16 rounded-md border px-1.5 py-0.5"
          onBlur={(e) => {
            const wanted = Math.round(e.currentTarget.valueAsNumber);
            if (wanted === minutes || !Number.isFinite(wanted)) return;
            act(() => saveSignMinutesAction({ code, minutes: wanted }), {
              done:
                wanted === 0
                  ? 'No sign is given.'
                  : `A sign comes ${counted(wanted, 'minute')} before the end.`,
            });
          }}
        />
      </label>
    </div>
  );
}
