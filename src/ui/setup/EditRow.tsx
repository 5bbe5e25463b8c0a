import type { ReactNode } from 'react';
import { Button } from '../parts/Button';

/** One of several in a form: its fields in a line, with the way to take it out. */
export function EditRow({
  label,
  onRemove,
  children,
}: {
  readonly label: string;
  readonly onRemove: () => void;
  readonly children: ReactNode;
}) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-start gap-2">
      {children}
      <Button className="mt-6" onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}
