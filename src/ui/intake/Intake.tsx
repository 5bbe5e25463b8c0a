'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import * as yup from 'yup';
import { importAction, mapFileAction } from '@/app/actions/course';
import type { FileKind } from '@/core/formats/courseFiles';
import type { Mapping } from '@/core/formats/mapping/mapping';
import type { JobView } from '@/core/views/job';
import type { FileCounts, ImportPreview, PastImport } from '@/core/views/intake';
import type { WaitingPerson } from '@/core/views/live';
import { Button, buttonClasses } from '../parts/Button';
import { counted } from '../parts/format';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useJob } from '../parts/useJob';
import { FileGuide } from './FileGuide';
import { Foreign } from './Foreign';
import { PastImports } from './PastImports';
import { PreviewOfFile } from './PreviewOfFile';
import { SavedMappings } from './SavedMappings';
import { Waiting } from './Waiting';

interface Props {
  readonly code: string;
  readonly zone: string;
  readonly past: readonly PastImport[];
  readonly examples: readonly FileKind[];
  readonly waiting: readonly WaitingPerson[];
  readonly students: readonly { readonly id: number; readonly name: string }[];
  readonly mappings: readonly { readonly id: number; readonly name: string }[];
}

type Stage =
  | { readonly at: 'choosing' }
  | { readonly at: 'reading'; readonly cancel: () => void; readonly names: string }
  | { readonly at: 'preview'; readonly preview: ImportPreview }
  | { readonly at: 'importing'; readonly preview: ImportPreview; readonly job: string }
  | { readonly at: 'done'; readonly id: string; readonly counts: readonly FileCounts[] };

const total = (
  counts: readonly FileCounts[],
  of: 'added' | 'changed' | 'unchanged' | 'rejected' | 'waiting',
) => counts.reduce((sum, c) => sum + c[of], 0);

/** Brings files in: choose, look at what they would do, import. */
export function Intake({ code, zone, past, examples, waiting, students, mappings }: Props) {
  const [stage, setStage] = useState<Stage>({ at: 'choosing' });
  const { busy, act } = useAct();
  const router = useRouter();

  const read = async (files: File[]) => {
    if (files.length === 0) return;
    const controller = new AbortController();
    setStage({ at: 'reading', cancel: () => controller.abort(), names: files.map((f) => f.name).join(', ') });
    const form = new FormData();
    for (const file of files) form.append('files', file);
    try {
      const response = await fetch(`/api/courses/${code}/imports`, {
        method: 'POST',
        body: form,
        signal: controller.signal,
      });
      const answer: unknown = await response.json();
      if (response.ok) return setStage({ at: 'preview', preview: answer as ImportPreview });
      const said =
        answer && typeof answer === 'object' && 'message' in answer ? String(answer.message) : 'Try again.';
      toast.error(said);
    } catch {
      if (!controller.signal.aborted)
        toast.error('The upload did not get through. Nothing was changed; try again.');
    }
    setStage({ at: 'choosing' });
  };
  const commit = (preview: ImportPreview, id: string) =>
    act(() => importAction({ code, id }), { then: (job) => setStage({ at: 'importing', preview, job }) });
  const map = (id: string, name: string, mapping: Mapping, saveAs: string | null) =>
    act(() => mapFileAction({ code, id, name, mapping, saveAs }), {
      then: (preview) => setStage({ at: 'preview', preview }),
    });
  const ended = (job: JobView<readonly FileCounts[]>) => {
    if (stage.at !== 'importing') return;
    const { preview } = stage;
    if (job.state === 'done') {
      setStage({ at: 'done', id: preview.id!, counts: job.value ?? [] });
      router.refresh();
      return;
    }
    if (job.state === 'cancelled') toast.info('Cancelled: nothing of it went in.');
    else toast.error(job.message ?? 'Something went wrong here. Nothing was changed; try again.');
    setStage({ at: 'preview', preview });
  };
  const { job, cancel } = useJob(
    stage.at === 'importing' ? `/api/courses/${code}/jobs/${stage.job}` : null,
    readCounts,
    ended,
  );

  return (
    <>
      <ViewHead title={headline(stage, past)}>
        Our own CSV files or a table of any other make, learning records (xAPI statements) as JSON, or a
        OneRoster package as zip, together or one by one. The same file again changes nothing.
      </ViewHead>
      <div className="space-y-4">
        {stage.at === 'choosing' || stage.at === 'reading' ? <Chooser stage={stage} onFiles={read} /> : null}
        {stage.at === 'preview' ? (
          <Panel className="space-y-4 p-4">
            {stage.preview.faults.map((fault) => (
              <p key={fault.name} role="alert" className="text-plum">
                <span className="font-semibold break-all">{fault.name}</span> cannot be read: {fault.reason}
              </p>
            ))}
            <Foreign preview={stage.preview} busy={busy} onRead={map} />
            {stage.preview.files.map((file) => (
              <PreviewOfFile key={file.kind} code={code} id={stage.preview.id!} file={file} />
            ))}
            <Decision
              preview={stage.preview}
              busy={busy}
              onImport={(id) => commit(stage.preview, id)}
              onCancel={() => setStage({ at: 'choosing' })}
            />
          </Panel>
        ) : null}
        {stage.at === 'importing' ? (
          <Panel className="space-y-3 p-6 text-center">
            <Importing job={job} onCancel={cancel} />
          </Panel>
        ) : null}
        {stage.at === 'done' ? (
          <Panel className="space-y-3 p-4">
            <Counts counts={stage.counts} code={code} id={stage.id} />
            <div className="flex gap-2">
              <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
                Go to Rounds
              </Link>
              <Button onClick={() => setStage({ at: 'choosing' })}>Import more</Button>
            </div>
          </Panel>
        ) : null}
        {waiting.length > 0 ? <Waiting code={code} waiting={waiting} students={students} /> : null}
        {past.length > 0 ? <PastImports code={code} past={past} zone={zone} /> : null}
        {mappings.length > 0 ? <SavedMappings code={code} saved={mappings} /> : null}
        <FileGuide code={code} examples={examples} />
      </div>
    </>
  );
}

function headline(stage: Stage, past: readonly PastImport[]): string {
  if (stage.at === 'reading') return 'Reading the files …';
  if (stage.at === 'importing') return 'Importing …';
  if (stage.at === 'preview') {
    const counts = stage.preview.files.map((f) => f.counts);
    const changes = total(counts, 'added') + total(counts, 'changed');
    const asked = stage.preview.foreign.filter((f) => !f.read).length;
    if (asked > 0) return `Say what the columns of ${counted(asked, 'file')} mean`;
    if (counts.length === 0) return 'None of the files can be read';
    if (changes + total(counts, 'waiting') === 0) return 'Nothing new in these files';
    const rejected = total(counts, 'rejected');
    const waits = total(counts, 'waiting');
    return `${counted(changes, 'row')} would go in${waits > 0 ? `, ${waits} would wait` : ''}${rejected > 0 ? `, ${rejected} cannot` : ''}`;
  }
  if (stage.at === 'done')
    return `${counted(total(stage.counts, 'added') + total(stage.counts, 'changed'), 'row')} went in`;
  return past.length === 0
    ? 'Bring in the course’s records'
    : `Last import: ${counted(past[0]!.files.length, 'file')}`;
}

const countsSchema = yup
  .array(
    yup.object({
      file: yup.string().required(),
      kind: yup.string().required(),
      added: yup.number().required(),
      changed: yup.number().required(),
      unchanged: yup.number().required(),
      rejected: yup.number().required(),
      waiting: yup.number().required(),
    }),
  )
  .required();
const readCounts = (value: unknown): readonly FileCounts[] => countsSchema.validateSync(value);

/** How far the import is, with the way to stop it. */
function Importing({
  job,
  onCancel,
}: {
  readonly job: JobView<readonly FileCounts[]> | null;
  readonly onCancel: () => void;
}) {
  const counts =
    job && job.of > 0 ? `${job.done.toLocaleString('en')} of ${job.of.toLocaleString('en')}` : '';
  return (
    <div role="status" className="space-y-3">
      <p>
        {job?.step ?? 'Beginning'} {counts} …
      </p>
      <progress
        className="accent-teal w-64"
        aria-label="Importing"
        {...(job && job.of > 0 ? { value: job.done, max: job.of } : {})}
      />
      <div>
        <Button onClick={onCancel}>Cancel</Button>
      </div>
      <p className="text-muted text-[13px]">All of it goes in together; until then nothing is changed.</p>
    </div>
  );
}

function Chooser({ stage, onFiles }: { readonly stage: Stage; readonly onFiles: (files: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const reading = stage.at === 'reading';
  return (
    <div
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        if (!reading) onFiles([...e.dataTransfer.files]);
      }}
      className={`rounded-lg border-2 border-dashed p-8 text-center ${over ? 'border-teal bg-amber-wash/50' : 'border-edge/60 bg-panel'}`}
    >
      {reading ? (
        <div role="status" className="space-y-3">
          <p>Reading {stage.names} and comparing with what is there …</p>
          <progress className="accent-teal w-64" aria-label="Reading the files" />
          <div>
            <Button onClick={stage.cancel}>Cancel</Button>
          </div>
        </div>
      ) : (
        <>
          <p className="mb-3">Drop CSV, JSON or zip files here, or</p>
          <input
            ref={input}
            type="file"
            multiple
            accept=".csv,.json,.jsonl,.zip,text/csv,text/plain,application/json,application/zip"
            className="sr-only"
            aria-label="Files to import"
            onChange={(e) => {
              onFiles([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
          <Button look="main" onClick={() => input.current?.click()}>
            Choose files
          </Button>
        </>
      )}
    </div>
  );
}

function Decision({
  preview,
  busy,
  onImport,
  onCancel,
}: {
  readonly preview: ImportPreview;
  readonly busy: boolean;
  readonly onImport: (id: string) => void;
  readonly onCancel: () => void;
}) {
  const counts = preview.files.map((f) => f.counts);
  const changes = total(counts, 'added') + total(counts, 'changed') + total(counts, 'waiting');
  const { id } = preview;
  return (
    <div className="border-line flex flex-wrap items-center gap-3 border-t pt-4">
      {id && changes > 0 ? (
        <Button look="main" disabled={busy} onClick={() => onImport(id)}>
          {busy ? 'Importing …' : `Import ${counted(changes, 'row')}`}
        </Button>
      ) : null}
      <Button disabled={busy} onClick={onCancel}>
        Choose other files
      </Button>
      {busy ? <progress className="accent-teal w-40" aria-label="Importing" /> : null}
      <p className="text-muted">
        {changes > 0
          ? total(counts, 'rejected') > 0
            ? 'The good rows go in together; the rejected stay out and can be mended and imported later.'
            : 'All of it goes in together, or nothing.'
          : preview.foreign.some((f) => !f.read)
            ? 'Then it shows here what would go in.'
            : 'Nothing would change.'}
      </p>
    </div>
  );
}

function Counts({
  counts,
  code,
  id,
}: {
  readonly counts: readonly FileCounts[];
  readonly code: string;
  readonly id: string;
}) {
  return (
    <table>
      <thead>
        <tr className="text-muted text-left">
          <th className="pr-6 font-normal">File</th>
          {['added', 'changed', 'unchanged', 'waiting', 'rejected'].map((h) => (
            <th key={h} className="pr-6 text-right font-normal">
              {h}
            </th>
          ))}
          <td />
        </tr>
      </thead>
      <tbody>
        {counts.map((c) => (
          <tr key={c.kind}>
            <td className="pr-6 font-semibold">{c.file}</td>
            <td className="pr-6 text-right">{c.added.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.changed.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.unchanged.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.waiting.toLocaleString('en')}</td>
            <td className="pr-6 text-right">{c.rejected.toLocaleString('en')}</td>
            <td>
              {c.rejected > 0 && c.kind !== 'statements' ? (
                <a
                  href={`/api/courses/${code}/imports/${id}/${c.kind}`}
                  download
                  className="text-teal font-semibold hover:underline"
                >
                  Download the rejected
                </a>
              ) : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
