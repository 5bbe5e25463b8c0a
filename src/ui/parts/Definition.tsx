'use client';
import { Popover } from 'radix-ui';

/** What a figure means, behind a small “i” beside its name. */
export function Definition({ of, children }: { readonly of: string; readonly children: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`What “${of}” means`}
        className="no-print text-muted hover:text-ink -my-1 inline-grid size-6 shrink-0 place-items-center align-middle"
      >
        <span className="border-edge/60 grid size-4 place-items-center rounded-full border font-serif text-[10px] leading-none italic">
          i
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={6}
          className="border-line bg-panel text-ink z-50 max-w-80 rounded-md border p-3 text-[13px] shadow-lg"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
