'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { ReviewTime as Time } from '@/core/acts/review';
import { clockText } from '@/core/calendar/clock';
import { WEEKDAYS } from '@/core/calendar/weekdays';
import { Button } from '../parts/Button';

const TimeSheet = dynamic(() => import('./TimeSheet').then((m) => m.TimeSheet));

/** The viewer's weekly time for a course: they are reminded by e-mail, with the link to what is unfinished. */
export function ReviewTime({
  code,
  zone,
  time,
}: {
  readonly code: string;
  readonly zone: string;
  readonly time: Time | null;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        {time ? `${WEEKDAYS[time.weekday - 1]}s at ${clockText(time.minute)}` : 'Weekly time …'}
      </Button>
      {open ? <TimeSheet code={code} zone={zone} time={time} onClose={() => setOpen(false)} /> : null}
    </>
  );
}
