'use client';
import { removeMappingAction } from '@/actions/course';
import { Button } from '../parts/Button';
import { Panel } from '../parts/Panel';
import { useAct } from '../parts/useAct';

/** How files of other makes are read, by the names under which that was remembered. */
export function SavedMappings({
  code,
  saved,
}: {
  readonly code: string;
  readonly saved: readonly { readonly id: number; readonly name: string }[];
}) {
  const { busy, act } = useAct();
  return (
    <Panel className="p-4">
      <h2 className="mb-2 font-serif text-lg font-semibold">Tables of other makes that are known here</h2>
      <ul className="space-y-1">
        {saved.map(({ id, name }) => (
          <li key={id} className="flex items-center gap-3">
            <span className="break-all">{name}</span>
            <Button
              look="quiet"
              disabled={busy}
              aria-label={`Forget ${name}`}
              onClick={() =>
                act(() => removeMappingAction({ code, id }), {
                  done: `“${name}” is forgotten; files like it are asked about again.`,
                })
              }
            >
              Forget
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
