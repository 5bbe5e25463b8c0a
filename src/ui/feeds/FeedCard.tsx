'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { leaveOutAction, lookNowAction, removeFeedAction, switchFeedAction } from '@/actions/feeds';
import { clockText } from '@/core/calendar/clock';
import { daysText } from '@/core/feeds/schedule';
import { counted, listed, weekdayAndTime } from '@/core/format';
import type { FeedFileLine, FeedLine } from '@/core/views/feeds';
import { Button } from '../parts/Button';
import { say } from '../parts/say';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';
import { useJob } from '../parts/useJob';

const KINDS = { folder: 'In the folder', mail: 'To the address', link: 'From the link' } as const;

/** What became of a file, in a few words. */
function fate({ state, counts }: FeedFileLine): string {
  if (state === 'waiting') return 'waits for its turn';
  if (state === 'unlike') return 'waits for your look';
  if (state === 'same') return 'the same as the one before';
  if (state === 'left out') return 'left out';
  const parts = (['added', 'changed', 'waiting', 'rejected'] as const).flatMap((k) =>
    counts?.[k] ? [`${counts[k].toLocaleString('en')} ${k}`] : [],
  );
  return parts.length > 0 ? listed(parts) : 'nothing new in it';
}

/** One way in which files come by themselves: where, when, what came, and what waits for a look. */
export function FeedCard({
  code,
  zone,
  feed,
  onOpen,
  onChange,
}: {
  readonly code: string;
  readonly zone: string;
  readonly feed: FeedLine;
  /** Shows what importing a file would do that waits for a look. */
  readonly onOpen: (fileId: number) => void;
  readonly onChange: () => void;
}) {
  const { id, form, files } = feed;
  const { name } = form;
  const router = useRouter();
  const { busy, act } = useAct();
  const { ask, asked } = useAsk();
  const [looking, setLooking] = useState<string | null>(null);
  const { job } = useJob(
    looking ? `/api/courses/${code}/jobs/${looking}` : null,
    async (value) => (await import('@/core/forms/feed')).readLooked(value).came,
    (ended) => {
      setLooking(null);
      if (ended.state === 'failed') say.error(ended.message ?? 'Looking for files failed. Try again.');
      else say.info(ended.value ? `${counted(ended.value, 'file')} came.` : 'Nothing new has come.');
      router.refresh();
    },
  );
  const halted = files.find((f) => f.state === 'unlike');
  const place = <span className="text-ink font-mono text-[12px] break-all">{feed.place}</span>;
  return (
    <li className="border-line space-y-1.5 border-t py-2.5 first:border-t-0">
      {asked}
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h3 className="font-semibold break-words">
          {name} <span className="text-muted font-normal">{feed.on ? '' : '(paused)'}</span>
        </h3>
        <span className="flex flex-wrap gap-1.5">
          <Button
            small
            disabled={busy || looking != null}
            aria-label={`Look now for ${name}`}
            onClick={() => act(() => lookNowAction({ code, id }), { then: setLooking })}
          >
            {looking ? `${job?.step || 'Looking'} …` : 'Look now'}
          </Button>
          <Button
            small
            disabled={busy}
            aria-label={feed.on ? `Pause ${name}` : `Go on with ${name}`}
            onClick={() =>
              act(() => switchFeedAction({ code, id, on: !feed.on }), {
                done: feed.on ? `${name} is paused.` : `${name} goes on.`,
                undo: () => act(() => switchFeedAction({ code, id, on: feed.on }), { done: 'As before.' }),
              })
            }
          >
            {feed.on ? 'Pause' : 'Go on'}
          </Button>
          <Button small disabled={busy} aria-label={`Change … ${name}`} onClick={onChange}>
            Change …
          </Button>
          <Button
            small
            look="quiet"
            disabled={busy}
            aria-label={`Remove ${name}`}
            onClick={() =>
              ask({
                title: `Remove ${name}?`,
                description:
                  'Nothing comes this way any more, and files that wait are dropped. What went in stays.',
                yes: 'Remove it',
                then: () => act(() => removeFeedAction({ code, id }), { done: `${name} is removed.` }),
              })
            }
          >
            Remove
          </Button>
        </span>
      </div>
      <p className="text-muted text-[13px]">
        {KINDS[form.kind]} {place}, {daysText(form.days)} {form.kind === 'mail' ? 'by' : 'at'}{' '}
        {clockText(form.minute)}
        {feed.next == null ? '' : `, next ${weekdayAndTime(feed.next, zone)}`}; in the name of {feed.by}.
      </p>
      {feed.missedAt == null ? null : (
        <p role="status" className="text-plum text-[13px]">
          Nothing came for {weekdayAndTime(feed.missedAt, zone)}.
        </p>
      )}
      {feed.why == null ? null : <p className="text-plum text-[13px]">{feed.why}</p>}
      {halted ? (
        <div className="border-amber border-l-[3px] pl-3">
          <p>
            <span className="font-semibold break-all">{halted.name}</span> of{' '}
            {weekdayAndTime(halted.at, zone)} waits for your look. {halted.reasons.join(' ')}
          </p>
          <span className="mt-1 flex gap-1.5">
            <Button
              small
              look="main"
              disabled={busy}
              aria-label={`Look at it: ${halted.name}`}
              onClick={() => onOpen(halted.id)}
            >
              Look at it
            </Button>
            <Button
              small
              disabled={busy}
              aria-label={`Leave it out: ${halted.name}`}
              onClick={() =>
                act(() => leaveOutAction({ code, id: halted.id }), { done: `${halted.name} is left out.` })
              }
            >
              Leave it out
            </Button>
          </span>
        </div>
      ) : null}
      {files.length > 0 ? (
        <ul aria-label={`Files of ${name}`} className="text-muted text-[13px]">
          {files.map((file) => (
            <li key={file.id} className="flex flex-wrap gap-x-3">
              <span className="w-28">{weekdayAndTime(file.at, zone)}</span>
              <span className="min-w-0 break-all">{file.name}</span>
              <span>{fate(file)}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-muted text-[13px]">Nothing has come yet.</p>
      )}
    </li>
  );
}
