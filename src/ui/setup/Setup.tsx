'use client';
import Link from 'next/link';
import { SETUP_PARTS, type SetupPart, type SetupView } from '@/core/views/setup';
import { classes } from '../parts/classes';
import { counted } from '@/core/format';
import { ViewHead } from '../parts/Panel';
import { CheckUp } from './CheckUp';
import { CoursePart } from './CoursePart';
import { Groups } from './Groups';
import { Outcomes } from './Outcomes';
import { Sections } from './Sections';
import { Sources } from './Sources';
import { Students } from './Students';
import { Work } from './Work';

const LABELS: Record<SetupPart, string> = {
  check: 'Check-up',
  course: 'Course and term',
  sections: 'Sections',
  work: 'Work and weights',
  outcomes: 'Outcomes',
  students: 'Students',
  groups: 'Groups',
  sources: 'Sources and exports',
};

const VIEWS: Record<SetupPart, (props: { readonly view: SetupView }) => React.ReactNode> = {
  check: CheckUp,
  course: CoursePart,
  sections: Sections,
  work: Work,
  outcomes: Outcomes,
  students: Students,
  groups: Groups,
  sources: Sources,
};

/** How a course is set up, part by part, and what in it will mislead. */
export function Setup({ view, part }: { readonly view: SetupView; readonly part: SetupPart }) {
  const { findings } = view;
  const Part = VIEWS[part];
  return (
    <>
      <ViewHead
        title={
          findings.length === 0
            ? 'Nothing in the setup will mislead'
            : `${counted(findings.length, 'thing')} in the setup will mislead`
        }
      >
        {findings.length === 0
          ? 'Dates, weights, outcomes, meetings and people are all in place.'
          : `First: ${findings[0]!.sentence.charAt(0).toLowerCase()}${findings[0]!.sentence.slice(1)}.`}
      </ViewHead>
      <nav aria-label="Parts of the setup" className="border-line mb-4 flex flex-wrap gap-x-1 border-b">
        {SETUP_PARTS.map((p) => (
          <Link
            key={p}
            href={`/c/${view.course.code}/setup?part=${p}`}
            aria-current={p === part ? 'page' : undefined}
            className={classes(
              '-mb-px border-b-2 px-2.5 py-1.5',
              p === part ? 'border-amber font-semibold' : 'text-muted hover:text-ink border-transparent',
            )}
          >
            {LABELS[p]}
            {p === 'check' && findings.length > 0 ? (
              <span className="text-ink font-semibold"> {findings.length}</span>
            ) : null}
          </Link>
        ))}
      </nav>
      <Part view={view} />
    </>
  );
}
