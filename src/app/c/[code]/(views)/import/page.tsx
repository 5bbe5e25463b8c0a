import type { Metadata } from 'next';
import { exampleKinds } from '@/server/intake/examples';
import { feedsView } from '@/server/feeds/view';
import { pastImports } from '@/server/intake/intake';
import { mappingNames } from '@/server/intake/mappings';
import { waitingPeople } from '@/server/intake/waiting';
import { roster, sectionNames } from '@/server/snapshot/roster';
import { requireCourse } from '@/server/access/viewer';
import { aheadOfTime } from '@/server/xapi/ahead';
import { Intake } from '@/ui/intake/Intake';
import { page } from '../../../../page-guard';
import { wholeNumber, type PageProps } from '../../../../query';

export const metadata: Metadata = { title: 'Import' };

export default async function ImportPage({ params, searchParams }: PageProps<{ code: string }>) {
  const { code } = await params;
  const opens = wholeNumber((await searchParams).file) ?? null;
  const data = await page(async (viewer) => {
    const course = await requireCourse(viewer, 'look', code);
    return {
      zone: course.zone,
      ...(await feedsView(viewer, code)),
      past: await pastImports(viewer, code),
      waiting: await waitingPeople(viewer, code),
      ahead: await aheadOfTime(viewer, code),
      mappings: await mappingNames(viewer, code),
      sections: await sectionNames(course.id),
      students: (await roster(course.id)).map((s) => ({ id: s.enrolmentId, name: s.name })),
    };
  });
  return <Intake code={code} opens={opens} examples={exampleKinds()} {...data} />;
}
