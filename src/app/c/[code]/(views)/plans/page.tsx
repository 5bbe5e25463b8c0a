import type { Metadata } from 'next';
import { localDate } from '@/core/calendar/zone';
import { now } from '@/server/base/clock';
import { coursePlans } from '@/server/act/plans';
import { requireCourse } from '@/server/access/viewer';
import { designLines, latestQuiz } from '@/server/plans/designView';
import { PlanList } from '@/ui/plans/PlanList';
import { page } from '../../../../page-guard';

export const metadata: Metadata = { title: 'Plans' };

export default async function PlansPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const { zone, ...view } = await page(async (viewer) => ({
    zone: (await requireCourse(viewer, 'look', code)).zone,
    rows: await coursePlans(viewer, code),
    designs: await designLines(viewer, code),
    quizId: await latestQuiz(viewer, code),
  }));
  return <PlanList code={code} zone={zone} today={localDate(now(), zone)} at={now()} {...view} />;
}
