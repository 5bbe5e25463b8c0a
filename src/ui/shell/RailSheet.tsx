'use client';
import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { RailList, type RailCounts } from './RailList';

/** The sheet of `RailMenu`. */
export default function RailSheet({
  code,
  counts,
  onClose,
  children,
}: {
  readonly code: string;
  readonly counts: Promise<RailCounts>;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content className="bg-paper text-ink fixed inset-y-0 left-0 z-50 flex w-64 max-w-[85vw] flex-col gap-4 overflow-auto p-4 shadow-xl">
          <div className="flex items-center justify-between">
            <Dialog.Title className="font-semibold">{code}</Dialog.Title>
            <Dialog.Close aria-label="Close" className="grid size-11 place-items-center">
              <X className="size-5" aria-hidden />
            </Dialog.Close>
          </div>
          <Dialog.Description className="sr-only">The views of the course</Dialog.Description>
          <RailList code={code} counts={counts} onGo={onClose} />
          <div className="mt-auto">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
