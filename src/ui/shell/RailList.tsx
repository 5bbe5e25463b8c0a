'use client';
import Link from 'next/link';
import { Suspense, use } from 'react';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { classes } from '../parts/classes';
import { Hint } from '../parts/Hint';
import { withScope } from '../ribbon/withScope';
import { RAIL } from './views';

/** What waits in a view, and what the number counts. */
export type RailCounts = Readonly<Record<string, { readonly n: number; readonly words: string }>>;

/** The number beside a view. */
function RailCount({
  counts,
  part,
  folds,
}: {
  readonly counts: Promise<RailCounts>;
  readonly part: string;
  readonly folds: boolean;
}) {
  const count = use(counts)[part];
  return count && count.n > 0 ? (
    <span className={classes('font-semibold', folds && 'max-[1099px]:text-[11px]')}>
      {count.n}
      <span className="sr-only"> {count.words}</span>
    </span>
  ) : null;
}

/**
 * The views of a course in their groups.
 *
 * @param folds whether only their signs stay where the window is narrow
 */
export function RailList({
  code,
  counts,
  folds = false,
  onGo,
}: {
  readonly code: string;
  readonly counts: Promise<RailCounts>;
  readonly folds?: boolean;
  readonly onGo?: () => void;
}) {
  const path = usePathname();
  const query = useSearchParams();
  const router = useRouter();
  const word = folds ? 'max-[1099px]:sr-only' : undefined;
  return (
    <div className="space-y-2.5">
      {RAIL.map(({ heading, views }) => (
        <section key={heading} aria-label={heading}>
          <p className={classes('text-muted px-2 text-[11px] font-semibold', word)}>{heading}</p>
          <ul>
            {views.map(({ part, label, icon: Icon }) => {
              const here = path.startsWith(`/c/${code}/${part}`);
              const link = (
                <Link
                  href={withScope(`/c/${code}/${part}`, query)}
                  // A dozen views fetched ahead with every page would cost more than they save.
                  prefetch={false}
                  onClick={onGo}
                  // The address may have changed since this was drawn.
                  onNavigate={(event) => {
                    const at = new URLSearchParams(window.location.search);
                    if (withScope('', at) === withScope('', query)) return;
                    event.preventDefault();
                    router.push(withScope(`/c/${code}/${part}`, at));
                  }}
                  aria-current={here ? 'page' : undefined}
                  className={classes(
                    'flex items-center gap-2 rounded-md border-l-[3px] px-2',
                    folds ? 'min-h-7' : 'min-h-11',
                    folds && 'max-[1099px]:justify-center max-[1099px]:px-0',
                    here
                      ? 'border-amber bg-amber-wash text-ink font-semibold'
                      : 'text-muted hover:text-ink hover:bg-amber-wash/50 border-transparent',
                  )}
                >
                  <Icon className={classes('size-4 shrink-0', folds && 'min-[1100px]:hidden')} aria-hidden />
                  <span className={classes('flex-1', word)}>{label}</span>
                  <Suspense>
                    <RailCount counts={counts} part={part} folds={folds} />
                  </Suspense>
                </Link>
              );
              return <li key={part}>{folds ? <Hint says={label}>{link}</Hint> : link}</li>;
            })}
          </ul>
        </section>
      ))}
    </div>
  );
}
