'use client';
import { undoImportAction } from '@/actions/course';
import type { FileCounts, PastImport } from '@/core/views/intake';
import { Button } from '../parts/Button';
import { counted, dayAndTime } from '@/core/format';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useAsk } from '../parts/useAsk';

const said = (f: FileCounts): string =>
  [
    `${f.file === `${f.kind}.csv` ? f.file : `${f.file} as ${f.kind}`}: ${f.added.toLocaleString('en')} added`,
    ...(['changed', 'waiting', 'rejected'] as const).flatMap((k) =>
      f[k] ? [`${f[k].toLocaleString('en')} ${k}`] : [],
    ),
  ].join(', ');

const any = (f: FileCounts) => f.added + f.changed + f.waiting + f.rejected > 0;

/** What was brought in, by whom and when; each can be taken back. */
export function PastImports({
  code,
  past,
  zone,
}: {
  readonly code: string;
  readonly past: readonly PastImport[];
  readonly zone: string;
}) {
  const { busy, act } = useAct();
  const { ask, asked } = useAsk();
  const undo = ({ id, ofColleague, by }: PastImport) =>
    ask({
      title: 'Undo this import?',
      description: ofColleague
        ? `${by ?? 'A colleague'} made this import. What it added is removed, what it changed is restored, and they get an e-mail that says you undid it.`
        : 'What it added is removed, and what it changed is restored.',
      yes: 'Undo the import',
      then: () =>
        act(() => undoImportAction({ code, id }), {
          done: ({ undone, kept, waits }) =>
            [
              `${counted(undone, 'row')} undone`,
              ...(kept > 0 ? [`${kept} stay, since something depends on them by now`] : []),
              ...(waits == null ? [] : [`what came under the name ${waits} waits again`]),
            ].join('; '),
        }),
    });
  return (
    <Panel className="p-4">
      {asked}
      <h2 className="mb-2 font-serif text-lg font-semibold">Imports so far</h2>
      <ul className="space-y-1.5 text-[13px]">
        {past.map((p) => (
          <li key={p.id} className="flex flex-wrap items-baseline gap-x-4">
            <span className="text-muted w-24">{dayAndTime(p.at, zone)}</span>
            <span className="w-36">{p.by ?? 'somebody no longer here'}</span>
            <span className="text-muted min-w-0 flex-1 break-words">
              {p.files.filter(any).map(said).join(' · ') || 'nothing new'}
            </span>
            {p.undoneAt == null ? (
              <Button
                small
                disabled={busy}
                onClick={() => undo(p)}
                aria-label={`Undo the import of ${dayAndTime(p.at, zone)}`}
              >
                Undo
              </Button>
            ) : (
              <span className="text-muted italic">undone {dayAndTime(p.undoneAt, zone)}</span>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
