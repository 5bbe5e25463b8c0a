'use client';
import { useSearchParams } from 'next/navigation';
import { classes, finger } from './classes';
import { withScope } from '../ribbon/withScope';

/** What is on screen as a file: the same rows in the same order, with the window in the name. */
export function ExportLinks({
  code,
  list,
  extra = {},
  prints = true,
}: {
  readonly code: string;
  readonly list: string;
  readonly extra?: Readonly<Record<string, string | null>>;
  /** A grid that draws only what is in sight cannot be printed whole. */
  readonly prints?: boolean;
}) {
  const query = useSearchParams();
  const more = new URLSearchParams();
  for (const [key, value] of Object.entries(extra)) if (value != null) more.set(key, value);
  const href = (format: string) =>
    withScope(`/api/courses/${code}/lists/${list}.${format}${more.size > 0 ? `?${more}` : ''}`, query);
  const look = classes('text-muted hover:text-ink px-1 underline-offset-2 hover:underline', finger);
  return (
    <span className="no-print whitespace-nowrap text-[13px]">
      <a href={href('csv')} download className={look}>
        CSV
      </a>
      <a href={href('xlsx')} download className={look}>
        .xlsx
      </a>
      {prints ? (
        <button type="button" className={look} onClick={() => window.print()}>
          Print
        </button>
      ) : null}
    </span>
  );
}
