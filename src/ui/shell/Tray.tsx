'use client';
import { useRouter } from 'next/navigation';
import { dropAction } from '@/actions/tray';
import type { TrayItem } from '@/core/views/tray';
import { AssignButton } from '../assign/AssignButton';
import { Button, buttonClasses } from '../parts/Button';
import { counted } from '@/core/format';
import { useAct } from '../parts/useAct';
import { useAlive } from '../parts/useAlive';

/** The selection tray: who was picked up and why, and what can be done with them. */
export function Tray({ code, items }: { readonly code: string; readonly items: readonly TrayItem[] }) {
  const router = useRouter();
  const { busy, act } = useAct();
  // A press on a page that is not awake yet would be lost without a word.
  const asleep = !useAlive();
  const reasons = [...new Set(items.map((i) => i.reason))];
  return (
    <section
      aria-label="Selection"
      className="bg-night text-on-night no-print sticky bottom-3 z-20 mt-4 flex flex-wrap items-center gap-x-4 gap-y-2 rounded-lg px-4 py-2.5 shadow-lg max-sm:gap-x-2 max-sm:px-3"
    >
      <p className="min-w-0 max-sm:basis-full sm:flex-1">
        <span className="font-semibold">{counted(items.length, 'student')} selected</span>{' '}
        <span className="opacity-85">
          {reasons.slice(0, 2).join('; ')}
          {reasons.length > 2 ? '; …' : ''}
        </span>
      </p>
      <Button look="warm" disabled={asleep} onClick={() => router.push(`/c/${code}/compose`)}>
        Message {items.length}
      </Button>
      <Button look="night" disabled={asleep} onClick={() => router.push(`/c/${code}/compose?plan=1`)}>
        Message {items.length} with plans
      </Button>
      <AssignButton code={code} selected={items.map((i) => i.enrolmentId)} look="night" label="Assign" />
      <a href={`/api/courses/${code}/tray`} download className={buttonClasses('night')}>
        Export
      </a>
      <Button
        look="night"
        disabled={busy || asleep}
        onClick={() => act(() => dropAction({ code, students: null }), { done: 'The selection is empty.' })}
      >
        Clear
      </Button>
    </section>
  );
}
