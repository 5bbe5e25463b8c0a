'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { importAction, importEveryAction, mapFileAction } from '@/actions/course';
import { acceptFileAction, leaveOutAction, openFeedFileAction } from '@/actions/feeds';
import type { FileKind } from '@/core/course/records';
import type { Mapping } from '@/core/course/mapping';
import type { FeedLine } from '@/core/views/feeds';
import type { JobView } from '@/core/views/job';
import type { CourseOutcome, FileCounts, ImportPreview, PastImport } from '@/core/views/intake';
import type { AheadView, WaitingPerson } from '@/core/views/live';
import { Feeds } from '../feeds/Feeds';
import { Button, buttonClasses } from '../parts/Button';
import { counted } from '@/core/format';
import { Panel, ViewHead } from '../parts/Panel';
import { say } from '../parts/say';
import { useAct } from '../parts/useAct';
import { useJob } from '../parts/useJob';
import { changesOf, total } from './counting';
import { CourseOutcomes, Counts } from './Counts';
import { FileGuide } from './FileGuide';
import { Ahead } from './Ahead';
import { Foreign } from './Foreign';
import { Importing } from './Importing';
import { PackageCourses } from './PackageCourses';
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
  readonly ahead: readonly AheadView[];
  readonly students: readonly { readonly id: number; readonly name: string }[];
  readonly sections: readonly { readonly id: number; readonly name: string }[];
  readonly mappings: readonly { readonly id: number; readonly name: string }[];
  readonly feeds: readonly FeedLine[];
  readonly takesMail: boolean;
  /** A file that came by itself, and is to be looked at now. */
  readonly opens: number | null;
}

type Stage =
  | { readonly at: 'choosing' }
  | { readonly at: 'reading'; readonly cancel: () => void; readonly names: string }
  | { readonly at: 'preview'; readonly preview: ImportPreview; readonly feedFile: number | null }
  | {
      readonly at: 'importing';
      readonly preview: ImportPreview;
      readonly feedFile: number | null;
      readonly job: string;
      /** All courses of the package, or only this one. */
      readonly every: boolean;
    }
  | { readonly at: 'done'; readonly id: string; readonly done: Done };

/** What an import did: to this course, or to each of a package. */
type Done =
  | { readonly of: 'course'; readonly counts: readonly FileCounts[] }
  | { readonly of: 'package'; readonly outcomes: readonly CourseOutcome[] };

/** Brings files in: choose, look at what they would do, import. */
export function Intake({
  code,
  zone,
  past,
  examples,
  waiting,
  ahead,
  students,
  sections,
  mappings,
  feeds,
  takesMail,
  opens,
}: Props) {
  const [stage, setStage] = useState<Stage>({ at: 'choosing' });
  const { busy, act } = useAct();
  const router = useRouter();

  const open = (fileId: number) =>
    act(() => openFeedFileAction({ code, id: fileId }), {
      then: (preview) => setStage({ at: 'preview', preview, feedFile: fileId }),
    });
  useEffect(() => {
    if (opens != null) open(opens);
    // Once, for the address that led here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opens]);

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
      if (response.ok) return setStage({ at: 'preview', preview: answer as ImportPreview, feedFile: null });
      const said =
        answer && typeof answer === 'object' && 'message' in answer ? String(answer.message) : 'Try again.';
      say.error(said);
    } catch {
      if (!controller.signal.aborted)
        say.error('No answer came to the upload. Nothing of the course was changed; choose the files again.');
    }
    setStage({ at: 'choosing' });
  };
  const feedFile = stage.at === 'preview' || stage.at === 'importing' ? stage.feedFile : null;
  const commit = (preview: ImportPreview, id: string, every: boolean) =>
    act(() => (every ? importEveryAction : importAction)({ code, id }), {
      then: (job) => setStage({ at: 'importing', preview, feedFile, job, every }),
    });
  const accept = (fileId: number) =>
    act(() => acceptFileAction({ code, id: fileId }), {
      done: 'Files like this one go in by themselves from now on.',
      then: () => setStage({ at: 'choosing' }),
    });
  const leaveOut = (fileId: number) =>
    act(() => leaveOutAction({ code, id: fileId }), {
      done: 'The file is left out.',
      then: () => setStage({ at: 'choosing' }),
    });
  const map = (id: string, name: string, mapping: Mapping, saveAs: string | null) =>
    act(() => mapFileAction({ code, id, name, mapping, saveAs }), {
      then: (preview) => setStage({ at: 'preview', preview, feedFile }),
    });
  const ended = (job: JobView<Done>) => {
    if (stage.at !== 'importing') return;
    const { preview, every } = stage;
    if (job.state === 'done' && job.value) {
      setStage({ at: 'done', id: preview.id!, done: job.value });
      router.refresh();
      return;
    }
    if (job.state === 'cancelled')
      say.info(
        every
          ? 'Cancelled: the course under way stays as it was; those before it are in.'
          : 'Cancelled: nothing of it went in.',
      );
    else say.error(job.message ?? 'Something went wrong here. Nothing was changed; try again.');
    setStage({ at: 'preview', preview, feedFile });
  };
  const { job, cancel } = useJob(
    stage.at === 'importing' ? `/api/courses/${code}/jobs/${stage.job}` : null,
    async (value): Promise<Done> => {
      const { readCounts, readOutcomes } = await import('./readAnswer');
      return stage.at === 'importing' && stage.every
        ? { of: 'package', outcomes: readOutcomes(value) }
        : { of: 'course', counts: readCounts(value) };
    },
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
            <Foreign preview={stage.preview} busy={busy} comesAgain={feedFile != null} onRead={map} />
            {stage.preview.files.map((file) => (
              <PreviewOfFile key={file.kind} code={code} id={stage.preview.id!} file={file} />
            ))}
            {stage.preview.courses.length > 0 ? (
              <PackageCourses
                code={code}
                courses={stage.preview.courses}
                busy={busy}
                onEvery={() => commit(stage.preview, stage.preview.id!, true)}
              />
            ) : null}
            <Decision
              preview={stage.preview}
              busy={busy}
              onImport={(id) => commit(stage.preview, id, false)}
              onCancel={() => setStage({ at: 'choosing' })}
              onLeaveOut={feedFile == null ? null : () => leaveOut(feedFile)}
              onAccept={feedFile == null ? null : () => accept(feedFile)}
            />
          </Panel>
        ) : null}
        {stage.at === 'importing' ? (
          <Importing
            job={job}
            together={
              stage.every
                ? 'Each course goes in as a whole; cancelling leaves out the one under way and those after it.'
                : 'All of it goes in together; until then nothing is changed.'
            }
            onCancel={cancel}
          />
        ) : null}
        {stage.at === 'done' ? (
          <Panel className="space-y-3 p-4">
            {stage.done.of === 'course' ? (
              <Counts counts={stage.done.counts} code={code} id={stage.id} />
            ) : (
              <CourseOutcomes outcomes={stage.done.outcomes} />
            )}
            <div className="flex gap-2">
              <Link href={`/c/${code}/rounds`} className={buttonClasses('main')}>
                Go to Rounds
              </Link>
              <Button onClick={() => setStage({ at: 'choosing' })}>Import more</Button>
            </div>
          </Panel>
        ) : null}
        {stage.at === 'choosing' ? (
          <Feeds code={code} zone={zone} feeds={feeds} takesMail={takesMail} onOpen={open} />
        ) : null}
        {waiting.length > 0 ? (
          <Waiting code={code} waiting={waiting} students={students} sections={sections} />
        ) : null}
        {ahead.length > 0 ? <Ahead zone={zone} ahead={ahead} /> : null}
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
    const changes = changesOf(counts);
    const asked = stage.preview.foreign.filter((f) => !f.read).length;
    if (asked > 0) return `Say what the columns of ${counted(asked, 'file')} mean`;
    if (counts.length === 0)
      return stage.preview.courses.length > 0
        ? `${counted(stage.preview.courses.length, 'course')} in the package`
        : 'None of the files can be read';
    if (changes + total(counts, 'waiting') === 0) return 'Nothing new in these files';
    const rejected = total(counts, 'rejected');
    const waits = total(counts, 'waiting');
    return `${counted(changes, 'row')} would go in${waits > 0 ? `, ${waits} would wait` : ''}${rejected > 0 ? `, ${rejected} cannot` : ''}`;
  }
  if (stage.at === 'done') {
    if (stage.done.of === 'course') return `${counted(changesOf(stage.done.counts), 'row')} went in`;
    const gone = stage.done.outcomes.filter((o) => o.left == null);
    const rows = gone.reduce((sum, o) => sum + changesOf(o.files), 0);
    return `${counted(rows, 'row')} of ${counted(gone.length, 'course')} went in`;
  }
  const held = past.find((p) => p.undoneAt == null);
  return held ? `Last import: ${counted(held.files.length, 'file')}` : 'Bring in the course’s records';
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
  onLeaveOut,
  onAccept,
}: {
  readonly preview: ImportPreview;
  readonly busy: boolean;
  readonly onImport: (id: string) => void;
  readonly onCancel: () => void;
  /** For a file that came by itself; null for any other. */
  readonly onLeaveOut: (() => void) | null;
  /** The same, where nothing of it is new. */
  readonly onAccept: (() => void) | null;
}) {
  const counts = preview.files.map((f) => f.counts);
  const changes = changesOf(counts) + total(counts, 'waiting');
  const { id } = preview;
  return (
    <div className="border-line flex flex-wrap items-center gap-3 border-t pt-4">
      {id && changes > 0 ? (
        <Button look="main" disabled={busy} onClick={() => onImport(id)}>
          {busy
            ? 'Importing …'
            : `Import ${counted(changes, 'row')}${preview.courses.length > 0 ? ' into this course only' : ''}`}
        </Button>
      ) : onAccept && counts.length > 0 ? (
        <Button look="main" disabled={busy} onClick={onAccept}>
          It is as it should be
        </Button>
      ) : null}
      {onLeaveOut ? (
        <Button disabled={busy} onClick={onLeaveOut}>
          Leave it out
        </Button>
      ) : null}
      <Button disabled={busy} onClick={onCancel}>
        {onLeaveOut ? 'Decide later' : 'Choose other files'}
      </Button>
      {busy ? <progress className="accent-teal w-40" aria-label="Importing" /> : null}
      <p className="text-muted">
        {changes > 0
          ? total(counts, 'rejected') > 0
            ? 'The good rows go in together; the rejected stay out and can be fixed and imported later.'
            : 'All of it goes in together, or nothing.'
          : preview.foreign.some((f) => !f.read)
            ? 'Then it shows here what would go in.'
            : onAccept
              ? 'Nothing in it is new. Files like it go in by themselves.'
              : 'Nothing would change.'}
      </p>
    </div>
  );
}
