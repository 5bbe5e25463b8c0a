'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button } from '../parts/Button';
import { useAlive } from '../parts/useAlive';

const AssignSheet = dynamic(() => import('./AssignSheet').then((m) => m.AssignSheet));

/** Opens the sheet in which activities are assigned to some. */
export function AssignButton({
  code,
  selected,
  look,
  label,
}: {
  readonly code: string;
  readonly selected: readonly number[];
  readonly look?: 'plain' | 'night';
  readonly label: string;
}) {
  const alive = useAlive();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look={look} disabled={!alive} onClick={() => setOpen(true)}>
        {label}
      </Button>
      {open ? <AssignSheet code={code} selected={selected} onClose={() => setOpen(false)} /> : null}
    </>
  );
}
