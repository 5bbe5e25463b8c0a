'use client';
import { useEffect, useRef } from 'react';
import type { ReasonView } from '@/core/views/reason';
import type { QueueRow } from '@/core/views/rounds';
import { classes } from '../parts/classes';
import { shortDay } from '@/core/format';
import { LevelMark } from '../parts/Level';
import { Tick } from '../parts/Tick';

interface Props {
  readonly rows: readonly QueueRow[];
  readonly selected: number | null;
  readonly picked: ReadonlySet<number>;
  readonly onSelect: (row: QueueRow) => void;
  readonly onPick: (row: QueueRow, picked: boolean) => void;
}

/** How an answered student was answered, in a few words. */
function markWords(row: QueueRow): string {
  const { mark } = row;
  if (!mark) return '';
  if (mark.action === 'put off') return `put off until ${shortDay(mark.until!)} by ${mark.by}`;
  if (mark.action === 'seen') return `seen ${shortDay(mark.on)} by ${mark.by}: ${mark.reason}`;
  return `${mark.action === 'planned' ? 'written to, with a plan,' : 'written to'} ${shortDay(mark.on)} by ${mark.by}`;
}

/** The first reason, and how many more there are. */
const shortReason = (first: ReasonView, more: number): string => {
  const head = /[:,;]$/.test(first.head) ? `${first.head} ${first.rest}` : first.head;
  return more > 0 ? `${head.replace(/\.$/, '')} · ${more} more` : head;
};

/** The queue: level, name, section and the first reason of each; a box picks the student up. */
export function QueueList({ rows, selected, picked, onSelect, onPick }: Props) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    const box = list.current;
    const item = box?.querySelector<HTMLElement>('[aria-current="true"]')?.closest('li');
    if (!box || !item) return;
    // On a narrow screen the queue scrolls for itself, and the page stays where the brief is read.
    if (box.scrollHeight <= box.clientHeight) item.scrollIntoView({ block: 'nearest' });
    else if (item.offsetTop < box.scrollTop) box.scrollTop = item.offsetTop;
    else if (item.offsetTop + item.offsetHeight > box.scrollTop + box.clientHeight)
      box.scrollTop = item.offsetTop + item.offsetHeight - box.clientHeight;
  }, [selected]);
  return (
    <ul
      ref={list}
      aria-label="Queue"
      className="border-line bg-panel divide-line relative divide-y overflow-hidden rounded-lg border max-lg:max-h-56 max-lg:overflow-y-auto"
    >
      {rows.map((row) => {
        const here = row.enrolmentId === selected;
        const first = row.reasons[0];
        return (
          <li
            key={row.enrolmentId}
            className={classes(
              'flex items-start gap-2.5 border-l-[3px] px-2.5 py-2',
              here ? 'border-l-amber bg-amber-wash/45' : 'hover:bg-amber-wash/25 border-l-transparent',
            )}
          >
            <Tick
              label={`Select ${row.name}`}
              checked={picked.has(row.enrolmentId)}
              onChange={(on) => onPick(row, on)}
              className="sm:mt-1"
            />
            <button
              type="button"
              onClick={() => onSelect(row)}
              aria-current={here ? 'true' : undefined}
              className="min-w-0 flex-1 text-left"
            >
              <span className="flex items-center justify-between gap-2">
                <span className="flex min-w-0 items-center gap-1.5 font-semibold">
                  <LevelMark level={row.level} />
                  <span className="truncate">{row.name}</span>
                  {row.isNew ? <span className="text-teal shrink-0 text-xs font-semibold">new</span> : null}
                </span>
                <span className="text-muted shrink-0 text-xs">{row.section}</span>
              </span>
              <span className="text-muted block truncate text-[13px]">
                {first ? shortReason(first, row.reasons.length - 1) : 'Nothing over a threshold'}
              </span>
              {row.mark ? (
                <span className="text-muted block truncate text-xs italic">{markWords(row)}</span>
              ) : null}
            </button>
          </li>
        );
      })}
    </ul>
  );
}
