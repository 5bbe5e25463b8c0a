'use client';
import { Tooltip } from 'radix-ui';

/** The words of `Hint`, beside what it is about. */
export default function HintBubble({ says }: { readonly says: string }) {
  return (
    <Tooltip.Provider>
      <Tooltip.Root open>
        <Tooltip.Trigger asChild>
          <span aria-hidden className="pointer-events-none absolute inset-0" />
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={4}
            className="border-line bg-panel text-ink z-50 max-w-80 rounded-md border px-2 py-1 text-xs shadow"
          >
            {says}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
