import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { localDate } from '@/core/calendar/zone';
import { requireCourse } from '@/server/access/viewer';
import { now } from '@/server/base/clock';
import { designView } from '@/server/plans/designView';
import { courseHead } from '@/server/snapshot/courseHead';
import { DesignPage } from '@/ui/plans/design/DesignPage';
import { page } from '../../../../../page-guard';
import { wholeNumber, type PageProps } from '../../../../../query';

export const metadata: Metadata = { title: 'Plan design' };

/** A plan design: bands by the score of a quiz, each with its steps. */
export default async function PlanDesignPage({ params }: PageProps<{ code: string; id: string }>) {
  const { code, id } = await params;
  const number = wholeNumber(id);
  if (number == null) notFound();
  const { course, view } = await page(async (viewer) => ({
    course: courseHead(await requireCourse(viewer, 'act', code)),
    view: await designView(viewer, code, number),
  }));
  return (
    <DesignPage
      key={JSON.stringify(view.design)}
      course={course}
      view={view}
      today={localDate(now(), course.zone)}
    />
  );
}
