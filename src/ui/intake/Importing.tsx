import type { JobView } from '@/core/views/job';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';

/** How far the import is, with the way to stop it. */
export function Importing({
  job,
  together,
  onCancel,
}: {
  readonly job: JobView<unknown> | null;
  /** What goes in as a whole, in a sentence. */
  readonly together: string;
  readonly onCancel: () => void;
}) {
  const counts =
    job && job.of > 0 ? `${job.done.toLocaleString('en')} of ${job.of.toLocaleString('en')}` : '';
  return (
    <Panel className="space-y-3 p-6 text-center">
      <div role="status" className="space-y-3">
        <p>
          {job?.step ?? 'Beginning'} {counts} …
        </p>
        <progress
          className="accent-teal w-64"
          aria-label="Importing"
          {...(job && job.of > 0 ? { value: job.done, max: job.of } : {})}
        />
        <div>
          <Button onClick={onCancel}>Cancel</Button>
        </div>
        <p className="text-muted text-[13px]">{together}</p>
      </div>
    </Panel>
  );
}
