import type { CourseInPackage } from '@/core/views/intake';
import { Button } from '../parts/Button';
import { counted } from '@/core/format';

const WORDS: Record<CourseInPackage['standing'], string> = {
  yours: 'yours: brought up to date',
  new: 'not here yet: made, with you as its instructor',
  'of others': 'taught by others: left out',
};

/** The courses of a package of several, what would happen to each, and the way to bring them all in. */
export function PackageCourses({
  code,
  courses,
  busy,
  onEvery,
}: {
  /** The course whose page this is. */
  readonly code: string;
  readonly courses: readonly CourseInPackage[];
  readonly busy: boolean;
  readonly onEvery: () => void;
}) {
  const open = courses.filter((c) => c.standing !== 'of others');
  return (
    <section aria-label="Courses of the package" className="space-y-2">
      <h2 className="font-semibold">The package holds {counted(courses.length, 'course')}</h2>
      <ul className="border-line max-h-56 overflow-auto rounded-md border px-3 py-1.5">
        {courses.map((c) => (
          <li key={c.code} className="flex flex-wrap justify-between gap-x-4 py-0.5">
            <span className="break-words">
              <span className="font-semibold">{c.code}</span> {c.title}
              {c.code === code ? ' (this course)' : ''}
            </span>
            <span className="text-muted">{WORDS[c.standing]}</span>
          </li>
        ))}
      </ul>
      {open.length > 0 ? (
        <div className="flex flex-wrap items-center gap-3">
          <Button disabled={busy} onClick={onEvery}>
            Import {open.length === courses.length ? 'all' : 'the'} {counted(open.length, 'course')}
          </Button>
          <p className="text-muted">
            Each goes in as a whole, and is listed with its own imports, where it can be undone.
          </p>
        </div>
      ) : null}
    </section>
  );
}
