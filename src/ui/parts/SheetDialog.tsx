'use client';
import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

export interface SheetProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  readonly description?: string;
  readonly children: ReactNode;
}

/** The dialog of `Sheet`. */
export default function SheetDialog({
  onOpenChange,
  title,
  description,
  children,
}: Omit<SheetProps, 'open'>) {
  return (
    <Dialog.Root open onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content className="border-line bg-panel text-ink fixed top-1/2 left-1/2 z-50 max-h-[86vh] w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-lg border p-5 shadow-xl">
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Dialog.Title className="font-serif text-lg font-semibold">{title}</Dialog.Title>
              <Dialog.Description className={description ? 'text-muted' : 'sr-only'}>
                {description ?? title}
              </Dialog.Description>
            </div>
            <Dialog.Close aria-label="Close" className="text-muted hover:text-ink -m-1 rounded p-1">
              <X className="size-4" aria-hidden />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
