'use client';
import type { Conflict } from '@/core/views/gradebook';
import { Button } from '../parts/Button';
import { dayAndTime } from '@/core/format';
import { Sheet } from '../parts/Sheet';

const words = (points: number | null, excused: boolean) =>
  excused ? 'excused' : points == null ? 'no grade' : String(points);

/** Somebody else was faster: what stands now, what was typed, and the choice between them. */
export function ConflictSheet({
  conflicts,
  mine,
  zone,
  onClose,
  onInsist,
}: {
  readonly conflicts: readonly Conflict[];
  readonly mine: readonly {
    readonly enrolmentId: number;
    readonly activityId: number;
    readonly points: number | null;
  }[];
  readonly zone: string;
  readonly onClose: () => void;
  readonly onInsist: () => void;
}) {
  const ofMine = (c: Conflict) =>
    mine.find((m) => m.enrolmentId === c.enrolmentId && m.activityId === c.activityId);
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Somebody else changed this meanwhile"
      description="Theirs stands; yours was not saved and is kept here."
    >
      <ul className="mb-4 space-y-2">
        {conflicts.map((c) => (
          <li key={`${c.enrolmentId}-${c.activityId}`}>
            <span className="font-semibold">
              {c.student}, {c.title}
            </span>
            <br />
            {c.by ?? 'An import'}
            {c.at == null ? '' : `, ${dayAndTime(c.at, zone)}`}: {words(c.points, c.excused)}
            {ofMine(c) ? <> · yours: {words(ofMine(c)!.points, false)}</> : null}
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button look="main" onClick={onClose}>
          Keep theirs
        </Button>
        {mine.length > 0 ? <Button onClick={onInsist}>Save mine instead</Button> : null}
      </div>
    </Sheet>
  );
}
