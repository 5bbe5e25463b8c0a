'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { FeedLine } from '@/core/views/feeds';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { FeedCard } from './FeedCard';

const FeedSheet = dynamic(() => import('./FeedSheet').then((m) => m.FeedSheet));

/** How files of a course come by themselves. */
export function Feeds({
  code,
  zone,
  feeds,
  takesMail,
  onOpen,
}: {
  readonly code: string;
  readonly zone: string;
  readonly feeds: readonly FeedLine[];
  readonly takesMail: boolean;
  readonly onOpen: (fileId: number) => void;
}) {
  const [sheet, setSheet] = useState<FeedLine | 'new' | null>(null);
  return (
    <Panel className="p-4">
      <section aria-label="Files that come by themselves">
        <div className="flex flex-wrap items-baseline justify-between gap-2">
          <h2 className="font-serif text-lg font-semibold">Files that come by themselves</h2>
          <Button small onClick={() => setSheet('new')}>
            Set one up …
          </Button>
        </div>
        {feeds.length === 0 ? (
          <p className="text-muted max-w-prose">
            A system that exports every night can put its file into a folder, mail it to this course, or have
            it fetched from a link. Rules and flags then rest on this morning’s data.
          </p>
        ) : (
          <ul className="mt-1">
            {feeds.map((feed) => (
              <FeedCard
                key={feed.id}
                code={code}
                zone={zone}
                feed={feed}
                onOpen={onOpen}
                onChange={() => setSheet(feed)}
              />
            ))}
          </ul>
        )}
        {sheet ? (
          <FeedSheet
            code={code}
            form={sheet === 'new' ? null : sheet.form}
            takesMail={takesMail}
            onClose={() => setSheet(null)}
          />
        ) : null}
      </section>
    </Panel>
  );
}
