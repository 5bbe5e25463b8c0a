import type { ReactNode } from 'react';
import { Awake } from './Awake';
import { classes } from './classes';

export function Panel({
  children,
  className,
}: {
  readonly children: ReactNode;
  readonly className?: string;
}) {
  return <div className={classes('border-line bg-panel rounded-lg border', className)}>{children}</div>;
}

/** The head of a view: its finding as a sentence, and under it what to do about it. */
export function ViewHead({
  title,
  children,
  aside,
}: {
  readonly title: string;
  readonly children?: ReactNode;
  readonly aside?: ReactNode;
}) {
  return (
    <header className="mb-3 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <Awake />
      <div className="min-w-0">
        <h1 className="font-serif text-2xl leading-tight font-semibold">{title}</h1>
        {children ? <p className="text-muted mt-1">{children}</p> : null}
      </div>
      {aside}
    </header>
  );
}

/** What a view says when it has nothing to show, and the next step. */
export function Nothing({ title, children }: { readonly title: string; readonly children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-prose px-6 py-12 text-center">
      <p className="font-serif text-lg font-semibold">{title}</p>
      {children ? <div className="text-muted mt-2 space-y-3">{children}</div> : null}
    </div>
  );
}
