import { Suspense, type ReactNode } from 'react';
import { courseHead, figuresBehind } from '@/server/snapshot/courseHead';
import { awaitingCount } from '@/server/look/gradebook';
import { questionsOpen } from '@/server/look/items';
import { waitingCount } from '@/server/look/rounds';
import { answersToRead } from '@/server/look/conversation';
import { rulesAsk } from '@/server/look/words';
import { tray } from '@/server/act/tray';
import { coursesOf } from '@/server/access/viewer';
import { Finder } from '@/ui/shell/Finder';
import { Rail } from '@/ui/shell/Rail';
import type { RailCounts } from '@/ui/shell/RailList';
import { TrayBar } from '@/ui/shell/TrayBar';
import { courseOfRequest, page } from '../../page-guard';

/** What waits in each view of a course. */
async function countsOf(code: string): Promise<RailCounts> {
  const { course } = await courseOfRequest(code);
  return page(async () => ({
    rounds: { n: await waitingCount(course), words: 'wait in Rounds' },
    gradebook: { n: await awaitingCount(course), words: 'to grade' },
    messages: { n: await answersToRead(course), words: 'answers not read' },
    rules: { n: await rulesAsk(course), words: 'wait for you' },
    items: { n: await questionsOpen(course), words: 'do not see why' },
  }));
}

async function Trouble({ code }: { readonly code: string }) {
  const { course } = await courseOfRequest(code);
  const behind = await page(() => figuresBehind(course.id));
  if (!behind) return null;
  return (
    <p role="status" className="text-plum mb-3 font-semibold">
      Figures and flags of this course are behind: bringing them up to date keeps failing. Tell whoever runs
      the installation.
    </p>
  );
}

async function Tray({ code }: { readonly code: string }) {
  const { viewer, course } = await courseOfRequest(code);
  const items = await page(() => tray(viewer, course));
  return <TrayBar code={code} items={items} />;
}

export default async function CourseLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ code: string }>;
}) {
  const { code } = await params;
  const { viewer, course } = await courseOfRequest(code);
  const courses = await page(() => coursesOf(viewer));
  // What is counted comes after the rest is on its way.
  return (
    <div className="flex min-h-screen max-[699px]:flex-col">
      <Rail
        course={courseHead(course)}
        courses={courses.map((c) => ({ code: c.code, title: c.title }))}
        counts={countsOf(code)}
        viewerName={viewer.name}
        finder={<Finder code={code} />}
      />
      <div className="flex min-w-0 flex-1 flex-col px-5 py-4 max-[699px]:px-3 max-[699px]:py-3">
        <Suspense>
          <Trouble code={code} />
        </Suspense>
        <main className="flex-1">{children}</main>
        <Suspense>
          <Tray code={code} />
        </Suspense>
      </div>
    </div>
  );
}
