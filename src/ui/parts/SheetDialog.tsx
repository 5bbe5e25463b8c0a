'use client';
import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { classes } from './classes';

export interface SheetProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  readonly description?: string;
  /** For what is read rather than filled in. */
  readonly wide?: boolean;
  readonly children: ReactNode;
}

/** The dialog of `Sheet`. */
export default function SheetDialog({
  onOpenChange,
  title,
  description,
  wide = false,
  children,
}: Omit<SheetProps, 'open'>) {
  const [from] = useState(() => document.activeElement);
  return (
    <Dialog.Root open onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          onCloseAutoFocus={(event) => {
            // It has no trigger of its own to go back to.
            event.preventDefault();
            if (from instanceof HTMLElement && from.isConnected) from.focus();
          }}
          className={classes(
            'border-line bg-panel text-ink fixed top-1/2 left-1/2 z-50 max-h-[86vh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-lg border p-5 shadow-xl',
            wide ? 'w-[min(52rem,calc(100vw-2rem))]' : 'w-[min(34rem,calc(100vw-2rem))]',
          )}
        >
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
