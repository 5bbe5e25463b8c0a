'use client';
import type { PastePreview } from '@/core/gradebook/pasteScores';
import { Button } from '../parts/Button';
import { counted } from '@/core/format';
import { Sheet } from '../parts/Sheet';
import { Cell, Table } from '../parts/Table';

const MOST_SHOWN = 60;

/** What pasted scores would change, before they do. */
export function PasteSheet({
  preview,
  onClose,
  onTake,
}: {
  readonly preview: PastePreview;
  readonly onClose: () => void;
  readonly onTake: () => void;
}) {
  const { changes, rejected, unchanged } = preview;
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={changes.length === 0 ? 'Nothing to change' : `${counted(changes.length, 'score')} would change`}
      description={`${unchanged} stay as they are${rejected.length > 0 ? `, ${rejected.length} cannot be taken` : ''}. Empty cells leave what stands.`}
    >
      {rejected.length > 0 ? (
        <ul className="text-plum mb-3 space-y-0.5 text-[13px]">
          {rejected.slice(0, 12).map((r) => (
            <li key={`${r.line}-${r.typed}-${r.reason}`}>
              Line {r.line}
              {r.student ? `, ${r.student}` : ''}: {r.reason}
            </li>
          ))}
          {rejected.length > 12 ? <li>and {rejected.length - 12} more</li> : null}
        </ul>
      ) : null}
      {changes.length > 0 ? (
        <div className="mb-3 max-h-72 overflow-auto">
          <Table
            head={[
              { label: 'Student' },
              { label: 'Assignment' },
              { label: 'Now', right: true },
              { label: 'Then', right: true },
            ]}
          >
            {changes.slice(0, MOST_SHOWN).map((c) => (
              <tr key={`${c.target.enrolmentId}-${c.target.activityId}`}>
                <Cell className="py-1">{c.target.student}</Cell>
                <Cell className="py-1">{c.target.activity}</Cell>
                <Cell className="text-muted py-1 text-right">{c.target.points ?? 'none'}</Cell>
                <Cell className="py-1 text-right font-semibold">{c.points}</Cell>
              </tr>
            ))}
          </Table>
          {changes.length > MOST_SHOWN ? (
            <p className="text-muted px-3">and {changes.length - MOST_SHOWN} more</p>
          ) : null}
        </div>
      ) : null}
      <div className="flex gap-2">
        <Button look="main" disabled={changes.length === 0} onClick={onTake}>
          Change {counted(changes.length, 'score')}
        </Button>
        <Button onClick={onClose}>Leave them</Button>
      </div>
    </Sheet>
  );
}
