'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ReactNode, RefObject } from 'react';

const ROW_HEIGHT = 30;

/** What a row of a long table has besides: where it is among all of them, and how its height is taken. */
export interface RowProps {
  readonly ref?: (row: Element | null) => void;
  readonly 'data-index'?: number;
  readonly 'aria-rowindex'?: number;
}

/** The rows of a long table that are in sight, with room above and below for the others. */
export default function LongRows({
  box,
  count,
  draw,
}: {
  readonly box: RefObject<HTMLDivElement | null>;
  readonly count: number;
  readonly draw: (index: number, more: RowProps) => ReactNode;
}) {
  // The rows that it hands out are read anew with every drawing; nothing of it is kept.
  // eslint-disable-next-line react-hooks/incompatible-library
  const down = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const inSight = down.getVirtualItems();
  const above = inSight.at(0)?.start ?? 0;
  const below = down.getTotalSize() - (inSight.at(-1)?.end ?? 0);
  return (
    <>
      {above > 0 ? <Spacer height={above} /> : null}
      {inSight.map(({ index }) =>
        draw(index, { ref: down.measureElement, 'data-index': index, 'aria-rowindex': index + 2 }),
      )}
      {below > 0 ? <Spacer height={below} /> : null}
    </>
  );
}

/** Stands for the rows that are not drawn. */
const Spacer = ({ height }: { readonly height: number }) => (
  <tr aria-hidden style={{ height }}>
    <td />
  </tr>
);
