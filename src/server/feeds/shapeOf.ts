import type { ImportPreview } from '@/core/views/intake';
import type { FileShape } from '@/core/feeds/shape';

/** What a read file looks like, by what it would do. */
export const shapeOf = ({ files }: Pick<ImportPreview, 'files'>): FileShape => ({
  parts: files.map(({ kind, header, counts: c }) => ({
    kind,
    columns: header,
    rows: c.added + c.changed + c.unchanged + c.waiting + c.rejected,
    astray: c.waiting + c.rejected,
    known: c.changed + c.unchanged,
  })),
});
