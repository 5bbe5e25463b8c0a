'use client';
import { Menu } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import type { RailCounts } from './RailList';

const RailSheet = dynamic(() => import('./RailSheet'), { ssr: false });

/** The rail of a phone: a menu that opens over the page. */
export function RailMenu({
  code,
  counts,
  children,
}: {
  readonly code: string;
  readonly counts: Promise<RailCounts>;
  /** What stands under the views. */
  readonly children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-label="Views of the course"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(true)}
        className="grid size-11 place-items-center rounded-md"
      >
        <Menu className="size-5" aria-hidden />
      </button>
      {open ? (
        <RailSheet code={code} counts={counts} onClose={() => setOpen(false)}>
          {children}
        </RailSheet>
      ) : null}
    </>
  );
}
