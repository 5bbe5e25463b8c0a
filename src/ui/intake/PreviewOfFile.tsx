'use client';
import { useState } from 'react';
import type { FilePreview, PreviewRow } from '@/core/views/intake';
import { classes } from '../parts/classes';
import { counted } from '@/core/format';

type Sort = 'rejected' | 'added' | 'changed' | 'waiting';

/** What one file would do, row by row: what is rejected and why, what is added, what is changed. */
export function PreviewOfFile({
  code,
  id,
  file,
}: {
  readonly code: string;
  readonly id: string;
  readonly file: FilePreview;
}) {
  const { counts } = file;
  const [sort, setSort] = useState<Sort>(
    counts.rejected > 0 ? 'rejected' : counts.added > 0 ? 'added' : 'changed',
  );
  const rows = file[sort];
  const header = sort === 'rejected' ? file.rejectedHeader : file.header;
  const tab = (name: Sort, label: string) => (
    <button
      type="button"
      aria-pressed={sort === name}
      disabled={counts[name] === 0}
      onClick={() => setSort(name)}
      className={classes(
        'rounded-md border px-2 py-0.5 text-[13px] disabled:opacity-50',
        sort === name ? 'border-ink' : 'border-line text-muted hover:border-ink',
      )}
    >
      {label} <span className="text-ink font-semibold">{counts[name].toLocaleString('en')}</span>
    </button>
  );
  return (
    <section aria-label={file.name}>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-semibold break-all">
          {file.name} <span className="text-muted font-normal">as {file.kind}</span>
        </h2>
        {tab('rejected', 'Rejected')}
        {tab('added', 'Added')}
        {tab('changed', 'Changed')}
        {counts.waiting > 0 ? tab('waiting', 'Person unknown, would wait') : null}
        <span className="text-muted text-[13px]">{counts.unchanged.toLocaleString('en')} unchanged</span>
        {counts.rejected > 0 ? (
          <a
            href={`/api/courses/${code}/imports/${id}/${file.kind}`}
            download
            className="text-teal ml-auto text-[13px] font-semibold hover:underline"
          >
            Download the rejected
          </a>
        ) : null}
      </div>
      {rows.length > 0 ? (
        <div
          className="border-line max-h-64 overflow-auto rounded-md border"
          tabIndex={0}
          role="region"
          aria-label={`Rows of ${file.name}`}
        >
          <table className="w-full text-[13px]">
            <thead className="bg-paper sticky top-0">
              <tr>
                <th className="px-2 py-1 text-right font-semibold">Line</th>
                {sort === 'rejected' ? <th className="px-2 py-1 text-left font-semibold">Why not</th> : null}
                {header.map((name, i) => (
                  <th key={i} className="px-2 py-1 text-left font-semibold">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="divide-line divide-y">
              {rows.map((row) => (
                <Row key={row.line} row={row} header={header} rejected={sort === 'rejected'} />
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <p className="text-muted text-[13px]">Every row of this file is there already.</p>
      )}
      {rows.length < counts[sort] ? (
        <p className="text-muted mt-1 text-[13px]">
          The first {rows.length} of {counted(counts[sort], 'row')} are shown.
        </p>
      ) : null}
    </section>
  );
}

function Row({
  row,
  header,
  rejected,
}: {
  readonly row: PreviewRow;
  readonly header: readonly string[];
  readonly rejected: boolean;
}) {
  return (
    <tr>
      <td className="text-muted px-2 py-1 text-right">{row.line}</td>
      {rejected ? (
        <td className="text-plum px-2 py-1">
          {row.field ? <span className="font-semibold">{row.field}: </span> : null}
          {row.reason}
        </td>
      ) : null}
      {row.cells.slice(0, header.length).map((cell, i) => (
        <td
          key={i}
          className={classes(
            'max-w-48 px-2 py-1 break-words',
            rejected && header[i] === row.field && 'bg-plum-wash font-semibold',
          )}
        >
          {cell}
        </td>
      ))}
    </tr>
  );
}
