import type { ReactNode } from 'react';
import { roster } from '@/server/snapshot/roster';
import { courseHead, figuresBehind } from '@/server/snapshot/courseHead';
import { awaitingCount } from '@/server/look/gradebook';
import { waitingCount } from '@/server/look/rounds';
import { tray } from '@/server/act/tray';
import { requireCourse, coursesOf } from '@/server/access/viewer';
import { Finder } from '@/ui/shell/Finder';
import { Rail } from '@/ui/shell/Rail';
import { TrayBar } from '@/ui/shell/TrayBar';
import { page } from '../../page-guard';

export default async function CourseLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ code: string }>;
}) {
  const { code } = await params;
  const data = await page(async (viewer) => {
    const course = await requireCourse(viewer, 'look', code);
    return {
      head: courseHead(course),
      courses: (await coursesOf(viewer)).map((c) => ({ code: c.code, title: c.title })),
      waiting: await waitingCount(course),
      toGrade: await awaitingCount(course),
      students: (await roster(course.id)).map((s) => ({
        id: s.enrolmentId,
        name: s.name,
        section: s.section,
      })),
      tray: await tray(viewer, course),
      viewerName: viewer.name,
      trouble: await figuresBehind(course.id),
    };
  });
  return (
    <div className="flex min-h-screen">
      <Rail
        course={data.head}
        courses={data.courses}
        waiting={data.waiting}
        toGrade={data.toGrade}
        viewerName={data.viewerName}
        finder={<Finder code={code} students={data.students} />}
      />
      <div className="flex min-w-0 flex-1 flex-col px-5 py-4">
        {data.trouble ? (
          <p role="status" className="text-plum mb-3 font-semibold">
            Figures and flags of this course are behind: bringing them up to date keeps failing. Tell whoever
            runs the installation.
          </p>
        ) : null}
        <main className="flex-1">{children}</main>
        <TrayBar code={code} items={data.tray} />
      </div>
    </div>
  );
}
