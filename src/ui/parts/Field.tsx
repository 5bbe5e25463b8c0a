import { useId, type ComponentProps, type ReactNode } from 'react';
import { classes } from './classes';

/** Classes of anything one types into. */
export const inputClasses =
  'w-full rounded-md border border-edge/70 bg-panel px-2.5 py-1.5 text-sm text-ink placeholder:text-muted aria-[invalid=true]:border-plum';

/** A label, its control and its error, tied together. */
export function Field({
  label,
  hint,
  error,
  children,
  className,
  quiet,
}: {
  readonly label: string;
  /** The label is read out but not drawn: its place says what it is. */
  readonly quiet?: boolean;
  readonly hint?: string;
  readonly error?: string;
  readonly children: (ids: {
    id: string;
    'aria-describedby': string | undefined;
    'aria-invalid': boolean;
  }) => ReactNode;
  readonly className?: string;
}) {
  const id = useId();
  const noteId = `${id}-note`;
  return (
    <div className={classes('space-y-1', className)}>
      <label htmlFor={id} className={quiet ? 'sr-only' : 'block text-sm font-semibold'}>
        {label}
      </label>
      {children({
        id,
        'aria-describedby': hint || error ? noteId : undefined,
        'aria-invalid': Boolean(error),
      })}
      {hint || error ? (
        <p id={noteId} className={error ? 'text-plum text-sm' : 'text-muted text-sm'}>
          {error ?? hint}
        </p>
      ) : null}
    </div>
  );
}

export function TextInput({ className, ...rest }: ComponentProps<'input'>) {
  return <input className={classes(inputClasses, className)} {...rest} />;
}
