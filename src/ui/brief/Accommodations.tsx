'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { AccommodationForm } from '@/core/forms/give';
import { Button } from '../parts/Button';

const Accommodation = dynamic(() => import('./Accommodation').then((m) => m.Accommodation));

/** What a student gets beyond the others, in words; the form for it comes when it is asked for. */
export function Accommodations({
  code,
  start,
}: {
  readonly code: string;
  readonly start: AccommodationForm;
}) {
  const [open, setOpen] = useState(false);
  const said = [
    ...(start.moreTime > 0 ? [`${start.moreTime} % more time for what is assigned to them`] : []),
    ...(start.readAloud ? ['items can be read aloud'] : []),
  ];
  return (
    <p className="flex flex-wrap items-center gap-3">
      {said.length > 0 ? `${said.join('; ')}.` : <span className="text-muted">None.</span>}
      <Button small onClick={() => setOpen(true)}>
        Change
      </Button>
      {open ? <Accommodation code={code} start={start} onClose={() => setOpen(false)} /> : null}
    </p>
  );
}
