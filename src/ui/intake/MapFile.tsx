'use client';
import { useMemo, useState } from 'react';
import { columnsOf } from '@/core/formats/mapping/columns';
import { SHAPES, type Mapping, type Shape } from '@/core/course/mapping';
import { suggestFields } from '@/core/formats/mapping/suggest';
import type { ForeignPreview } from '@/core/views/intake';
import { Button } from '../parts/Button';
import { Choose } from '../parts/Choose';
import { Field, TextInput } from '../parts/Field';
import { FieldRows } from './FieldRows';
import { MappedSample } from './MappedSample';
import { SpreadColumns } from './SpreadColumns';

/** What a row of each shape is, in words. */
const SHAPE_WORDS: Readonly<Record<Shape, string>> = {
  'wide scores': 'a student, with a column for each assignment',
  gradebook: 'one score of one student',
  attempts: 'one attempt at an assignment',
  roster: 'a student',
  events: 'something a student did',
  attendance: 'a student at a meeting',
  referrals: 'a conduct referral',
  requirements: 'credits or an exam of a student',
  'wide responses': 'a student, with a column for each item',
  responses: 'one answer to one item',
  items: 'an item, with its key',
  tests: 'what a test outside the course says of an outcome',
  activities: 'an assignment or a page of the course',
  outcomes: 'a learning outcome',
};

const DAY_WORDS = [
  { value: 'year first', label: '2026-09-28' },
  { value: 'day first', label: '28/09/2026' },
  { value: 'month first', label: '09/28/2026' },
] as const;

interface Props {
  readonly file: ForeignPreview;
  readonly works: readonly { readonly id: string; readonly title: string }[];
  readonly busy: boolean;
  readonly comesAgain: boolean;
  readonly onRead: (mapping: Mapping, saveAs: string | null) => void;
}

/** Says what the columns of a foreign table mean, with its first rows as they would be read. */
export function MapFile({ file, works, busy, comesAgain, onRead }: Props) {
  const [mapping, setMapping] = useState<Mapping>(file.mapping);
  const [saveAs, setSaveAs] = useState(comesAgain ? '' : (file.saved ?? ''));
  const table = useMemo(
    () => ({
      delimiter: file.delimiter,
      header: file.columns.map((c) => c.name),
      rows: file.rows.map((r) => ({ ...r, fault: null })),
    }),
    [file],
  );
  const columns = columnsOf(mapping.shape);
  const missing = columns.filter((c) => c.required && !mapping.fields[c.name]);
  const wide = mapping.shape === 'wide scores' || mapping.shape === 'wide responses';
  const open = missing.length > 0 || (wide && mapping.spread.length === 0);
  const dated = columns.some((c) => ['instant', 'end', 'day'].includes(c.type) && mapping.fields[c.name]);
  return (
    <section aria-label={`How ${file.name} is read`} className="space-y-3">
      <div>
        <h2 className="font-semibold break-all">{file.name}</h2>
        <p className="text-muted text-[13px]">
          {file.reason
            ? `It looks like one of our own files, but ${file.reason}.`
            : 'It has columns of another make. Say once what they mean; files like it are then read by themselves.'}
        </p>
      </div>
      <div className="grid grid-cols-1 items-start gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,30rem)_minmax(0,1fr)]">
        <div className="space-y-3">
          <Field label="A row is">
            {(ids) => (
              <Choose
                {...ids}
                value={mapping.shape}
                options={SHAPES.map((value) => ({ value, label: SHAPE_WORDS[value] }))}
                onChange={(shape) => setMapping(suggestFields(table, shape, works, mapping.zone))}
              />
            )}
          </Field>
          <FieldRows
            columns={columns}
            sources={file.columns}
            mapping={mapping}
            onChange={(next) => setMapping({ ...mapping, ...next })}
          />
          {wide ? (
            <SpreadColumns
              shape={mapping.shape}
              header={table.header}
              mapping={mapping}
              works={works}
              onChange={(spread) => setMapping({ ...mapping, spread })}
            />
          ) : null}
          {dated ? (
            <div className="flex gap-3">
              <Field label="Days are written">
                {(ids) => (
                  <Choose
                    {...ids}
                    value={mapping.days}
                    options={DAY_WORDS}
                    onChange={(days) => setMapping({ ...mapping, days })}
                  />
                )}
              </Field>
              <Field label="Times without a zone are of">
                {(ids) => (
                  <TextInput
                    {...ids}
                    value={mapping.zone}
                    onChange={(e) => setMapping({ ...mapping, zone: e.target.value })}
                  />
                )}
              </Field>
            </div>
          ) : null}
        </div>
        <div className="space-y-3">
          <MappedSample table={table} mapping={mapping} open={open} />
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              onRead(mapping, saveAs.trim() === '' ? null : saveAs.trim());
            }}
          >
            <Field
              label="Remember it as"
              hint={comesAgain ? 'Empty: for files that come this way.' : 'Empty: for this file only.'}
            >
              {(ids) => <TextInput {...ids} value={saveAs} onChange={(e) => setSaveAs(e.target.value)} />}
            </Field>
            <Button look="main" type="submit" disabled={busy || open}>
              Read it this way
            </Button>
          </form>
          {open ? (
            <p role="status" className="text-plum text-[13px]">
              {missing.length > 0
                ? `Still open: ${missing.map((c) => c.name.replaceAll('_', ' ')).join(', ')}.`
                : 'Say for at least one column what it stands for.'}
            </p>
          ) : null}
        </div>
      </div>
    </section>
  );
}
