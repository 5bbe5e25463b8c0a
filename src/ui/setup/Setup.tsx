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
  work: 'Assignments and weights',
  outcomes: 'Outcomes',
  students: 'Students',
  groups: 'Groups',
  sources: 'Sources and exports',
};

/** Only what a part draws is sent along with it. */
const only = <K extends keyof SetupView>(view: SetupView, ...keys: readonly K[]): Pick<SetupView, K> =>
  Object.fromEntries(keys.map((key) => [key, view[key]])) as unknown as Pick<SetupView, K>;

function Part({ view, part }: { readonly view: SetupView; readonly part: SetupPart }) {
  switch (part) {
    case 'check':
      return <CheckUp view={view} />;
    case 'course':
      return <CoursePart view={only(view, 'course', 'archived', 'form', 'units', 'terms', 'sameTerm')} />;
    case 'sections':
      return <Sections view={only(view, 'course', 'sections', 'students')} />;
    case 'work':
      return <Work view={only(view, 'course', 'categories', 'activities', 'outcomes')} />;
    case 'outcomes':
      return <Outcomes view={only(view, 'course', 'outcomes', 'activities')} />;
    case 'students':
      return <Students view={only(view, 'course', 'students', 'sections', 'joinCode')} />;
    case 'groups':
      return <Groups view={only(view, 'course', 'groups', 'everybody', 'staff')} />;
    case 'sources':
      return <Sources view={only(view, 'course', 'keys')} />;
  }
}

/** How a course is set up, part by part, and what in it will mislead. */
export function Setup({ view, part }: { readonly view: SetupView; readonly part: SetupPart }) {
  const { findings } = view;
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
      <Part view={view} part={part} />
    </>
  );
}
