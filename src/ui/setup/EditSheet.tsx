'use client';
import type { ReactNode } from 'react';
import { Button } from '../parts/Button';
import { Sheet } from '../parts/Sheet';
import { useAsk } from '../parts/useAsk';

/** The one sheet in which a part of a course is made, changed or taken away. */
export function EditSheet({
  title,
  description,
  busy,
  onClose,
  onSave,
  onRemove,
  saveLabel = 'Save',
  children,
}: {
  readonly title: string;
  readonly description?: string;
  readonly busy: boolean;
  readonly onClose: () => void;
  readonly onSave: () => void;
  readonly onRemove?: () => void;
  readonly saveLabel?: string;
  readonly children: ReactNode;
}) {
  const { ask, asked } = useAsk();
  return (
    <Sheet open onOpenChange={(open) => !open && onClose()} title={title} description={description}>
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          onSave();
        }}
      >
        {children}
        <div className="bg-panel sticky -bottom-5 -mb-5 flex items-center justify-between py-3">
          <span className="space-x-2">
            <Button look="main" type="submit" disabled={busy}>
              {saveLabel}
            </Button>
            <Button disabled={busy} onClick={onClose}>
              Cancel
            </Button>
          </span>
          {onRemove ? (
            <Button
              look="quiet"
              disabled={busy}
              onClick={() =>
                ask({
                  title: `Delete ${title}?`,
                  description: 'You are told what depends on it before anything is deleted.',
                  yes: 'Delete',
                  then: onRemove,
                })
              }
            >
              Delete
            </Button>
          ) : null}
        </div>
      </form>
      {asked}
    </Sheet>
  );
}
