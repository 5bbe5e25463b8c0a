'use client';
import { X } from 'lucide-react';
import type { ComposeRecipient } from '@/core/views/compose';
import { counted } from '@/core/format';
import { classes } from '../parts/classes';

/** One line of the recipients: who, why, and what is wrong. */
export interface RecipientLine {
  readonly recipient: ComposeRecipient;
  readonly hole: boolean;
  /** Whether they get a text of their own. */
  readonly own: boolean;
  /** Steps of their plan; null without plans. */
  readonly steps: number | null;
}

/** Who is written to; a click shows what somebody will read, the cross removes them. */
export function Recipients({
  lines,
  shown,
  onShow,
  onRemove,
}: {
  readonly lines: readonly RecipientLine[];
  readonly shown: number | null;
  readonly onShow: (id: number) => void;
  readonly onRemove: (id: number) => void;
}) {
  return (
    <ul aria-label="Recipients" className="divide-line divide-y">
      {lines.map(({ recipient: r, hole, own, steps }) => {
        const here = r.enrolmentId === shown;
        return (
          <li
            key={r.enrolmentId}
            className={classes('flex items-center gap-2 px-3 py-1', here && 'bg-amber-wash/50')}
          >
            <button
              type="button"
              aria-current={here ? 'true' : undefined}
              onClick={() => onShow(r.enrolmentId)}
              className="flex min-w-0 flex-1 items-baseline gap-2 text-left"
            >
              <span className="truncate font-semibold">{r.name}</span>
              <span className="text-muted truncate text-xs">
                {r.picked.reason}
                {r.active ? '' : ' · no longer active'}
                {r.email ? '' : ' · no address'}
                {own ? ' · own text' : ''}
                {hole ? ' · a field is empty' : ''}
              </span>
              {steps == null ? null : (
                <span className="text-muted ml-auto shrink-0 text-xs">{counted(steps, 'step')}</span>
              )}
            </button>
            <button
              type="button"
              className="text-muted hover:text-ink grid size-6 place-items-center rounded"
              aria-label={`Remove ${r.name}`}
              onClick={() => onRemove(r.enrolmentId)}
            >
              <X className="size-3.5" aria-hidden />
            </button>
          </li>
        );
      })}
    </ul>
  );
}
