import type { ReactNode } from 'react';
import { classes } from './classes';
import { Wide } from './Wide';

export interface TableHead {
  readonly label: string;
  readonly right?: boolean;
}

/** A table of a view: its head, and rows of `Cell`s. */
export function Table({
  head,
  children,
}: {
  readonly head: readonly TableHead[];
  readonly children: ReactNode;
}) {
  return (
    <Wide
      label={head
        .map((h) => h.label)
        .filter(Boolean)
        .join(', ')}
    >
      <table className="w-full">
        <thead className="border-line border-b">
          <tr>
            {head.map((h) => (
              <th
                key={h.label}
                className={classes('px-3 py-2 font-semibold', h.right ? 'text-right' : 'text-left')}
              >
                {h.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="divide-line divide-y">{children}</tbody>
      </table>
    </Wide>
  );
}

export function Cell({ className, children }: { readonly className?: string; readonly children: ReactNode }) {
  return <td className={classes('px-3 py-2 max-sm:[&_a]:py-4', className)}>{children}</td>;
}
