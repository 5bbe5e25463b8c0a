'use client';
import { columnsUsed, type Mapping, type Shape } from '@/core/course/mapping';
import { Choose } from '../parts/Choose';

interface Props {
  readonly shape: Shape;
  readonly header: readonly string[];
  readonly mapping: Mapping;
  readonly works: readonly { readonly id: string; readonly title: string }[];
  readonly onChange: (spread: Mapping['spread']) => void;
}

/** For each column of a wide table, the work or item that it holds. */
export function SpreadColumns({ shape, header, mapping, works, onChange }: Props) {
  const fixed = columnsUsed({ ...mapping, spread: [] });
  const toOf = new Map(mapping.spread.map((s) => [s.column, s.to]));
  const put = (column: string, to: string) => {
    const others = mapping.spread.filter((s) => s.column !== column);
    const next = to === '' ? others : [...others, { column, to }];
    onChange(header.flatMap((h) => next.find((s) => s.column === h) ?? []));
  };
  return (
    <fieldset>
      <legend className="text-sm font-semibold">
        {shape === 'wide scores' ? 'Which column is which assignment' : 'Which columns are items'}
      </legend>
      <div className="border-line max-h-72 space-y-1 overflow-auto rounded-md border p-2 text-[13px]">
        {header
          .filter((column) => !fixed.includes(column))
          .map((column) => (
            <label key={column} className="flex items-center gap-2">
              <span className="w-40 shrink-0 break-words">{column}</span>
              {shape === 'wide scores' ? (
                <Choose
                  label={`${column} holds`}
                  value={toOf.get(column) ?? ''}
                  options={[
                    { value: '', label: 'left out' },
                    ...works.map((w) => ({ value: w.id, label: w.title })),
                  ]}
                  onChange={(to) => put(column, to)}
                />
              ) : (
                <input
                  type="checkbox"
                  className="accent-teal"
                  checked={toOf.has(column)}
                  onChange={(e) => put(column, e.target.checked ? column : '')}
                />
              )}
            </label>
          ))}
      </div>
    </fieldset>
  );
}
