'use client';
import { Key } from '../parts/Button';
import { Sheet } from '../parts/Sheet';

const KEYS: readonly [string, string][] = [
  ['j', 'Next student in Rounds (also arrow down)'],
  ['k', 'Previous student in Rounds (also arrow up)'],
  ['o', 'Open the student’s page (in the Gradebook: the details of the assignment)'],
  ['m', 'Write to the student'],
  ['p', 'Write with a study plan'],
  ['d', 'Put off until a date'],
  ['x', 'Mark as seen, with a reason'],
  ['n', 'Add a note about a talk, and what was agreed'],
  ['t', 'Select, or remove from the selection (in the Gradebook: because of the cell)'],
  ['arrows', 'Move in the Gradebook; Home, End and the page keys too'],
  ['Enter', 'Edit a score in the Gradebook, or type the figure'],
  ['e', 'Excuse from the assignment in the Gradebook'],
  ['h', 'The assignment of the column in the Gradebook'],
  ['Alt arrows', 'Move a step of a plan design along its band, or into the next one'],
  ['Ctrl K', 'Find a student or command'],
  ['?', 'This list'],
];

/** The keys, as a list. */
export function KeyList({
  open,
  onOpenChange,
}: {
  readonly open: boolean;
  readonly onOpenChange: (o: boolean) => void;
}) {
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title="Keys">
      <dl className="grid grid-cols-[6rem_1fr] gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
