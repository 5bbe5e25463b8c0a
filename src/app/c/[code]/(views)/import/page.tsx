import type { Metadata } from 'next';
import { exampleKinds } from '@/server/intake/examples';
import { pastImports } from '@/server/intake/intake';
import { mappingNames } from '@/server/intake/mappings';
import { waitingPeople } from '@/server/intake/waiting';
import { roster, sectionNames } from '@/server/snapshot/roster';
import { requireCourse } from '@/server/access/viewer';
import { aheadOfTime } from '@/server/xapi/ahead';
import { Intake } from '@/ui/intake/Intake';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Import' };

export default async function ImportPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const data = await page(async (viewer) => {
    const course = await requireCourse(viewer, 'look', code);
    return {
      zone: course.zone,
      past: await pastImports(viewer, code),
      waiting: await waitingPeople(viewer, code),
      ahead: await aheadOfTime(viewer, code),
      mappings: await mappingNames(viewer, code),
      sections: await sectionNames(course.id),
      students: (await roster(course.id)).map((s) => ({ id: s.enrolmentId, name: s.name })),
    };
  });
  return <Intake code={code} examples={exampleKinds()} {...data} />;
}
