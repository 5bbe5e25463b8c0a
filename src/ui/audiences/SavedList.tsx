import Link from 'next/link';
import type { AudienceLine } from '@/core/views/audiences';
import { classes, finger } from '../parts/classes';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { Cell, Table } from '../parts/Table';

interface Props {
  readonly code: string;
  readonly lines: readonly AudienceLine[];
  readonly open: number | null;
  readonly busy: boolean;
  readonly onRemove: (line: AudienceLine) => void;
}

/** The saved audiences, each with who is in it now. */
export function SavedList({ code, lines, open, busy, onRemove }: Props) {
  if (lines.length === 0) return null;
  return (
    <Panel>
      <Table
        head={[
          { label: 'Saved audience' },
          { label: 'In it now', right: true },
          { label: 'Who' },
          { label: '' },
        ]}
      >
        {lines.map((line) => (
          <tr key={line.id} className={line.id === open ? 'bg-amber-wash/60' : undefined}>
            <Cell>
              <Link
                href={`/c/${code}/audiences?a=${line.id}`}
                className={classes('inline-block font-semibold hover:underline', finger)}
              >
                {line.name}
              </Link>
            </Cell>
            <Cell className="text-right">{line.faults.length > 0 ? '–' : line.match}</Cell>
            <Cell className={line.faults.length > 0 ? 'text-plum' : 'text-muted'}>
              {line.faults[0] ?? line.sentence}
              {line.faults.length === 0 && line.unknown > 0 ? ` ${line.unknown} not known.` : ''}
            </Cell>
            <Cell>
              <Button small look="quiet" disabled={busy} onClick={() => onRemove(line)}>
                Remove
                <span className="sr-only"> {line.name}</span>
              </Button>
            </Cell>
          </tr>
        ))}
      </Table>
    </Panel>
  );
}
