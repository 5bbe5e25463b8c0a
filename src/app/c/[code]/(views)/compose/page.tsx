import type { Metadata } from 'next';
import { pickedFor } from '@/core/acts/pick';
import { composeView } from '@/server/act/compose';
import { tray } from '@/server/act/tray';
import { requireCourse } from '@/server/access/viewer';
import { Compose } from '@/ui/compose/Compose';
import { ComposeBack } from '@/ui/compose/ComposeBack';
import { page } from '../../../../page-guard';
import { oneOf, wholeNumber } from '../../../../query';

export const metadata: Metadata = { title: 'Write' };

interface Props {
  params: Promise<{ code: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** Writes to one student, if the address names one, or else to everybody in the selection. */
export default async function ComposePage({ params, searchParams }: Props) {
  const { code } = await params;
  const query = await searchParams;
  const one = wholeNumber(query.student);
  const view = await page(async (viewer) =>
    composeView(
      viewer,
      code,
      one == null
        ? await tray(viewer, await requireCourse(viewer, 'look', code))
        : [{ enrolmentId: one, ...pickedFor('') }],
    ),
  );
  const withPlan = oneOf(query.plan) === '1';
  return oneOf(query.back) === '1' ? (
    <ComposeBack view={view} withPlan={withPlan} />
  ) : (
    <Compose view={view} withPlan={withPlan} />
  );
}
