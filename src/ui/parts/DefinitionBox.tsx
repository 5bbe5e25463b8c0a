'use client';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** The words of `Definition`, over the page. */
export default function DefinitionBox({
  name,
  look,
  sign,
  children,
}: {
  readonly name: string;
  readonly look: string;
  readonly sign: ReactNode;
  readonly children: string;
}) {
  return (
    <Popover.Root defaultOpen>
      <Popover.Trigger aria-label={name} className={look}>
        {sign}
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
