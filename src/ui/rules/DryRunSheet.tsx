'use client';
import { useEffect, useState } from 'react';
import { dryRunAction } from '@/actions/rules';
import type { RuleForm } from '@/core/forms/rule';
import { counted, listed, spanText, weekdayAndTime } from '@/core/format';
import type { CourseHead } from '@/core/views/courseHead';
import type { JobView } from '@/core/views/job';
import type { DryRun } from '@/core/views/rules';
import { classes } from '../parts/classes';
import { Sheet } from '../parts/Sheet';
import { Cell, Table } from '../parts/Table';
import { useJob } from '../parts/useJob';

/** What a rule would have done in the weeks gone by: by week, and one by one with its text. */
export function DryRunSheet({
  course,
  form,
  onClose,
}: {
  readonly course: CourseHead;
  readonly form: RuleForm;
  readonly onClose: () => void;
}) {
  const [job, setJob] = useState<string | null>(null);
  const [found, setFound] = useState<DryRun | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    void dryRunAction({ code: course.code, rule: form }).then(
      (outcome) => {
        if (gone) return;
        if (outcome.ok) setJob(outcome.value);
        else setWrong(outcome.message);
      },
      () => setWrong('No answer came from the server. Close this and try again.'),
    );
    return () => {
      gone = true;
    };
    // It is asked for once: another rule is another sheet.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const { job: running } = useJob<DryRun>(
    job ? `/api/courses/${course.code}/jobs/${job}` : null,
    async (value) => (await import('./readDryRun')).readDryRun(value),
    (ended: JobView<DryRun>) => {
      if (ended.state === 'done' && ended.value) setFound(ended.value);
      else setWrong(ended.message ?? 'Something went wrong here. Close this and try again.');
    },
  );
  return (
    <Sheet
      open
      wide
      onOpenChange={(o) => !o && onClose()}
      title={`${form.name}, tried on the weeks gone by`}
      description="Nothing is sent. Grades that were changed since count as they stand now; the texts are filled with what stands now."
    >
      {wrong ? (
        <p role="alert" className="text-plum">
          {wrong}
        </p>
      ) : found ? (
        <Result course={course} form={form} found={found} />
      ) : (
        <p role="status" className="text-muted">
          {running && running.of > 0
            ? `${running.step}: ${Math.round((100 * running.done) / running.of)} %`
            : 'Going through the weeks …'}
        </p>
      )}
    </Sheet>
  );
}

function Result({
  course,
  form,
  found,
}: {
  readonly course: CourseHead;
  readonly form: RuleForm;
  readonly found: DryRun;
}) {
  const { zone, code } = course;
  const isWord = form.parts.then.do === 'word';
  const what = (n: number) => (isWord ? counted(n, 'word to you', 'words to you') : counted(n, 'message'));
  const most = Math.max(1, ...found.weeks.map((w) => w.messages + w.held));
  return (
    <div className="space-y-4">
      <p className="font-semibold" role="status">
        {found.messages === 0 && found.held === 0
          ? `Nothing in ${spanText(found)}.`
          : `${what(found.messages)} ${isWord ? 'about' : 'to'} ${counted(found.students, 'student')} in ${spanText(found)}${
              found.held > 0 ? `; ${found.held} held back` : ''
            }.`}
      </p>
      <Table
        head={[
          { label: 'Week' },
          { label: isWord ? 'Words' : 'Messages', right: true },
          { label: 'Students', right: true },
          { label: 'Held back', right: true },
          { label: 'At a glance' },
        ]}
      >
        {found.weeks.map((w) => (
          <tr key={w.week}>
            <Cell>{w.week}</Cell>
            <Cell className="text-right">{w.messages}</Cell>
            <Cell className="text-right">{w.students}</Cell>
            <Cell className="text-right">{w.held}</Cell>
            <Cell className="w-1/2">
              <span aria-hidden className="flex h-3">
                <span className="bg-teal" style={{ width: `${(100 * w.messages) / most}%` }} />
                <span className="bg-edge/40" style={{ width: `${(100 * w.held) / most}%` }} />
              </span>
            </Cell>
          </tr>
        ))}
      </Table>
      <ul className="divide-line divide-y" aria-label="One by one">
        {found.lines.map((line, i) => (
          <li key={i} className={classes('py-2', line.held && 'text-muted')}>
            <details>
              <summary className="cursor-pointer">
                <span className="font-semibold">{line.name}</span>, {weekdayAndTime(line.at, zone)}
                {line.held ? `: held back, ${line.held}` : ''}
                {line.facts.length > 0 ? (
                  <span className="text-muted block text-[13px]">{listed(line.facts)}</span>
                ) : null}
              </summary>
              <div className="border-line mt-1 border-l-2 pl-3">
                <p className="font-semibold">{line.subject}</p>
                <p className="whitespace-pre-wrap">{line.text}</p>
                <a href={`/c/${code}/students/${line.enrolmentId}`} className="text-teal text-[13px]">
                  The student’s page
                </a>
              </div>
            </details>
          </li>
        ))}
      </ul>
      {found.more > 0 ? <p className="text-muted">And {found.more} more before these.</p> : null}
    </div>
  );
}
