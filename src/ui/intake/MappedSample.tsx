'use client';
import { useMemo } from 'react';
import type { CsvTable } from '@/core/formats/csv';
import { applyMapping } from '@/core/formats/mapping/apply';
import type { Mapping } from '@/core/course/mapping';
import { fileTable } from '@/core/formats/writeCourseFiles';

/** Rows shown of a wide table, of which each gives many. */
const SHOWN = 12;

/** The first rows of a foreign table as they would be read, with what is wrong with them. */
export function MappedSample({
  table,
  mapping,
  open,
}: {
  readonly table: CsvTable;
  readonly mapping: Mapping;
  /** Something has to be said first. */
  readonly open: boolean;
}) {
  const read = useMemo(() => (open ? null : applyMapping(table, mapping)), [table, mapping, open]);
  if (!read) return <p className="text-muted text-[13px]">The first rows show here as they would be read.</p>;
  if (!read.ok)
    return (
      <p role="alert" className="text-plum text-[13px]">
        {read.reason}
      </p>
    );
  const { kind, rows, rejected, absent } = read.value;
  const { head, rows: cells } = fileTable(kind, rows.slice(0, SHOWN).map((r) => r.value) as never);
  const shown = head.flatMap((name, i) => (absent.includes(name) ? [] : [{ name, i }]));
  return (
    <div>
      <p className="mb-1 text-sm font-semibold">The first rows, as they would be read</p>
      <div
        className="border-line max-h-72 overflow-auto rounded-md border"
        tabIndex={0}
        role="region"
        aria-label="Sample"
      >
        <table className="w-full text-[13px]">
          <thead className="bg-paper sticky top-0">
            <tr>
              <th className="px-2 py-1 text-right font-semibold">Line</th>
              {shown.map(({ name }) => (
                <th key={name} className="px-2 py-1 text-left font-semibold whitespace-nowrap">
                  {name.replaceAll('_', ' ')}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="divide-line divide-y">
            {rejected.map((row) => (
              <tr key={`${row.line} ${row.field} ${row.reason}`}>
                <td className="text-muted px-2 py-1 text-right">{row.line}</td>
                <td colSpan={shown.length} className="text-plum px-2 py-1">
                  {row.field ? <span className="font-semibold">{row.field}: </span> : null}
                  {row.reason}
                </td>
              </tr>
            ))}
            {cells.map((row, r) => (
              <tr key={r}>
                <td className="text-muted px-2 py-1 text-right">{rows[r]!.line}</td>
                {shown.map(({ name, i }) => (
                  <td key={name} className="max-w-48 truncate px-2 py-1">
                    {row[i]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}
