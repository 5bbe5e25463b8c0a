'use client';
import { useState } from 'react';
import { instantOf } from '@/core/calendar/zone';
import type { Instant, LocalDate } from '@/core/units';
import { Button } from '../parts/Button';
import { DayInput } from '../parts/DayInput';
import { TimeInput } from '../parts/TimeInput';

interface Props {
  readonly n: number;
  readonly zone: string;
  readonly today: LocalDate;
  readonly disabled: boolean;
  readonly busy: boolean;
  /** Null is now. */
  readonly onSend: (at: Instant | null) => void;
}

const MORNING = 8 * 60;

/** Sends now, or at a time of the course's clock. */
export function SendButtons({ n, zone, today, disabled, busy, onSend }: Props) {
  const [later, setLater] = useState(false);
  const [day, setDay] = useState<LocalDate | ''>(today);
  const [minute, setMinute] = useState(MORNING);
  return (
    <>
      {later ? (
        <form
          className="flex flex-wrap items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (day && e.currentTarget.reportValidity()) onSend(instantOf(day, minute, zone));
          }}
        >
          <DayInput label="Day on which it goes" value={day} onChange={setDay} min={today} required />
          <TimeInput label="Time at which it goes" value={minute} onChange={setMinute} className="max-w-20" />
          <Button type="submit" look="main" disabled={busy || disabled || !day}>
            {busy ? 'Setting …' : `Send to ${n} then`}
          </Button>
          <Button look="quiet" onClick={() => setLater(false)}>
            Now instead
          </Button>
        </form>
      ) : (
        <>
          <Button look="quiet" disabled={disabled} onClick={() => setLater(true)}>
            Send later …
          </Button>
          <Button look="main" onClick={() => onSend(null)} disabled={busy || disabled}>
            {busy ? 'Sending …' : `Send to ${n}`}
          </Button>
        </>
      )}
    </>
  );
}
