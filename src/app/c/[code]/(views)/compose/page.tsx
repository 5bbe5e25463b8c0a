import type { Metadata } from 'next';
import { composeView } from '@/server/act/compose';
import { tray } from '@/server/act/tray';
import { requireCourse } from '@/server/access/viewer';
import { Compose } from '@/ui/compose/Compose';
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
  const { view, reasons } = await page(async (viewer) => {
    const items = one == null ? await tray(viewer, await requireCourse(viewer, 'look', code)) : [];
    const view = await composeView(viewer, code, one == null ? items.map((i) => i.enrolmentId) : [one]);
    const picked = items.map((i): [number, string] => [i.enrolmentId, i.reason]);
    const own = view.recipients.map((r): [number, string] => [
      r.enrolmentId,
      r.reasons[0]?.kind ?? 'opened in Rounds',
    ]);
    return { view, reasons: Object.fromEntries(one == null ? picked : own) };
  });
  return <Compose view={view} reasons={reasons} withPlan={oneOf(query.plan) === '1'} />;
}
